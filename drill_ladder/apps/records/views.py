"""A player's records: out, put aside, brought back, erased; how long a club keeps what."""

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.history.services import record
from drill_ladder.apps.jobs.services import start
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.access import coach_required, owner_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.records.aside import bring_back, put_aside
from drill_ladder.apps.records.erase import erase
from drill_ladder.apps.records.family_file import family_file
from drill_ladder.apps.records.models import LONGEST, Receipt, Retention
from drill_ladder.apps.records.retention import due, keep_periods, periods_of
from drill_ladder.formats.reading import cut
from drill_ladder.ui.fields import Whole
from drill_ladder.ui.pages import attachment


class PeriodsForm(forms.Form):
    """Periods in months; empty for none."""

    players = Whole(
        label="Erase players, months after they were put aside",
        min_value=1,
        max_value=LONGEST,
        required=False,
        help_text="Empty: only by hand",
    )
    mail = Whole(
        label="Delete mail from the outbox, months after it was written",
        min_value=1,
        max_value=LONGEST,
        required=False,
        help_text="Empty: it stays",
    )


@coach_required
def of_player(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """What can be done with everything that is a player's."""
    player = get_object_or_404(Player.objects.known_to(member.club), pk=pk)
    return render(request, "records/player.html", {"player": player, "wrong": ""})


@coach_required
def family(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Everything about a player, for the family."""
    player = get_object_or_404(Player.objects.known_to(member.club), pk=pk)
    on = clock.today(member.club)
    file = family_file(player, on)
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="exported",
        subject=player,
        what="everything",
    )
    return attachment(file, "application/zip", f"player-{player.pk}-{on}.zip")


@require_POST
@coach_required
def aside(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Put aside, or (`back`) bring back."""
    player = get_object_or_404(Player.objects.known_to(member.club), pk=pk)
    try:
        if "back" in request.POST:
            bring_back(member=member, player=player)
            messages.success(request, f"{player} is back, as they were.")
            return redirect("progress:player", pk)
        put_aside(member=member, player=player, on=clock.today(member.club))
        messages.success(request, f"{player} is put aside. Nothing is lost.")
    except Refused as error:
        messages.error(request, str(error))
    return redirect("records:records")


@require_POST
@owner_required
def erase_player(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """For good, once the name was typed."""
    player = get_object_or_404(Player.objects.known_to(member.club), pk=pk)
    wrong = ""
    if cut(request.POST.get("name", ""), 120).casefold() != player.name.casefold():
        wrong = "That is not the name. Nothing was erased."
    else:
        try:
            receipt = erase(member=member, player=player, on=clock.today(member.club))
        except Refused as error:
            wrong = str(error)
        else:
            messages.success(request, f"Erased. {receipt} is in the list below.")
            return redirect("records:records")
    context = {"player": player, "wrong": wrong}
    return render(request, "records/player.html", context, status=422)


@require_POST
@owner_required
def archive(request: HttpRequest, member: Membership) -> HttpResponse:
    """The whole club as one file, as long work."""
    job = start(
        member=member,
        name="records.archive",
        label="The whole club as one file",
        arguments={"at": f"{timezone.now():%Y%m%d%H%M}"},
        back=reverse("records:records"),
    )
    return redirect("progress:job", job.pk)


@owner_required
def records(request: HttpRequest, member: Membership) -> HttpResponse:
    """Who was put aside, receipts, and how long what is kept; ?try=1 shows what typed periods
    would take, and keeps nothing.
    """
    club, today = member.club, clock.today(member.club)
    kept = periods_of(club)
    first = {"players": kept.players, "mail": kept.mail}
    form = PeriodsForm(request.POST or None, initial=first)
    tried = None
    if request.method == "POST" and form.is_valid():
        if "try" not in request.POST:
            keep_periods(member=member, on=today, **form.cleaned_data)
            messages.success(request, "Kept. What is due goes in the next night.")
            return redirect("records:records")
        tried = due(club, Retention(club=club, **form.cleaned_data), today)
    context = {
        "aside": Player.objects.aside_of(club),
        "receipts": Receipt.objects.of_club(club).with_by(),
        "form": form,
        "tried": tried,
        "due": due(club, kept, today),
        "today": today,
    }
    return render(request, "records/records.html", context, status=422 if form.errors else 200)
