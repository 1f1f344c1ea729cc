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
from drill_ladder.apps.prescriptions.services import changes_since, end_prescription, prescribe, take_new_terms
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


@coach_required
def standing(request: HttpRequest, member: Membership, ladder: int) -> HttpResponse:
    """Who stands where on a ladder, by which terms, and who goes on by the present ones."""
    which = get_object_or_404(Ladder.objects.of_club(member.club), pk=ladder)
    stays = list(Stay.objects.of_club(member.club).current().on_ladder(which))
    if request.method == "POST":
        chosen = [stay for stay in stays if str(stay.pk) in request.POST.getlist("stay")]
        _move_on(request, member, chosen)
        return redirect("prescriptions:standing", which.pk)
    rows = [{"stay": stay, "changes": changes_since(stay)} for stay in stays]
    context = {"ladder": which, "rows": rows, "behind": sum(bool(row["changes"]) for row in rows)}
    return render(request, "prescriptions/standing.html", context)


def _move_on(request: HttpRequest, member: Membership, stays: list[Stay]) -> None:
    """New terms for each of them; whoever cannot is named with the reason."""
    moved = 0
    for stay in stays:
        try:
            take_new_terms(member=member, stay=stay, on=timezone.localdate())
            moved += 1
        except Refused as error:
            messages.error(request, f"{stay.prescription.player}: {error}")
    if moved:
        who = "One player goes" if moved == 1 else f"{moved} players go"
        messages.success(request, f"{who} on by the present terms. What was done stays as it was judged.")
    elif not stays:
        messages.error(request, "Nobody was chosen, so nothing was changed.")
