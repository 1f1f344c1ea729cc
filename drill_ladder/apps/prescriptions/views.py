"""Prescribing."""

from django.contrib import messages
from django.db.models import Count
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.library.views import rung_lines
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.prescriptions.forms import PrescribeForm
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.prescriptions.services import end_prescription, prescribe, take_new_terms
from drill_ladder.formats.documents import rule_from
from drill_ladder.formats.words import rule_sentence


@coach_required
def choose(request: HttpRequest, member: Membership, player: int) -> HttpResponse:
    """Which ladder?"""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    ladders = (
        Ladder.objects.in_use()
        .of_club(member.club)
        .exclude(prescriptions__in=Prescription.objects.active().filter(player=who))
        .annotate(rung_count=Count("rungs"))
        .filter(rung_count__gt=0)
        .order_by("title")
    )
    return render(request, "prescriptions/choose.html", {"player": who, "ladders": ladders})


@coach_required
def start(request: HttpRequest, member: Membership, player: int, ladder: int) -> HttpResponse:
    """From which rung, how often, where?"""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    which = get_object_or_404(Ladder.objects.of_club(member.club).prefetch_related("rungs__drill"), pk=ladder)
    form = PrescribeForm(request.POST or None, ladder=which)
    if request.method == "POST" and form.is_valid():
        try:
            prescribe(member=member, player=who, ladder=which, on=timezone.localdate(), **form.cleaned_data)
        except Refused as error:
            form.add_error(None, str(error))
        else:
            messages.success(request, f"{who} is on {which}. The home card shows it from now on.")
            return redirect("progress:player", who.pk)
    context = {
        "player": who,
        "ladder": which,
        "form": form,
        "rungs": [rung_lines(rung, which) for rung in which.rungs.all()],
        "rule": rule_sentence(rule_from(which.rule)),
    }
    return render(request, "prescriptions/start.html", context, status=422 if form.errors else 200)


@require_POST
@coach_required
def end(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Take a player off a ladder; the history stays."""
    found = get_object_or_404(Prescription.objects.active().of_club(member.club), pk=pk)
    end_prescription(member=member, prescription=found, on=timezone.localdate())
    messages.success(request, f"{found.player} is off {found.ladder}. Everything that was done stays.")
    return redirect("progress:player", found.player_id)


@require_POST
@coach_required
def new_terms(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Go on by the ladder's present terms."""
    stay = get_object_or_404(Stay.objects.of_club(member.club).select_related("prescription__player"), pk=pk)
    player = stay.prescription.player
    try:
        take_new_terms(member=member, stay=stay, on=timezone.localdate())
    except Refused as error:
        messages.error(request, str(error))
    else:
        messages.success(
            request, f"{player} goes on by the ladder's present terms. What was done stays as it was judged."
        )
    return redirect("progress:player", player.pk)
