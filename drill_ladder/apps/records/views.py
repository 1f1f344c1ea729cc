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
from drill_ladder.apps.people.access import coach_required, owner_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player, Role
from drill_ladder.apps.records.aside import bring_back, put_aside
from drill_ladder.apps.records.erase import erase, preview
from drill_ladder.apps.records.family_file import family_file
from drill_ladder.apps.records.keeping import due, keep_periods, periods_of
from drill_ladder.apps.records.mentions import mentions
from drill_ladder.apps.records.models import LONGEST, Receipt, Retention
from drill_ladder.formats.reading import cut
from drill_ladder.ui.fields import Whole
from drill_ladder.ui.pages import Context, attachment

MOST_TEXT = 20_000  # letters of a text that has no limit of its own


class PeriodsForm(forms.Form):
    """Periods in months; empty for none."""

    players = Whole(
        label="Erase players, months after they were archived",
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
    """What can be done with everything that is a player's; before it is erased, what that does and
    where others wrote about them.
    """
    player = get_object_or_404(Player.objects.known_to(member.club), pk=pk)
    return render(request, "records/player.html", _of_player(member, player, ""))


def _of_player(member: Membership, player: Player, wrong: str) -> Context:
    asked = member.role == Role.OWNER and player.archived_on is not None
    return {
        "player": player,
        "wrong": wrong,
        "parts": preview(player) if asked else [],
        "mentions": mentions(player) if asked else [],
        "own_notes": member.role == Role.OWNER,
    }


@coach_required
def family(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Everything about a player, for the family; ?notes=all: an owner gives the coaches' own notes
    with it.
    """
    player = get_object_or_404(Player.objects.known_to(member.club), pk=pk)
    on = member.club.today()
    all_notes = request.GET.get("notes") == "all" and member.role == Role.OWNER
    file = family_file(player, on, all_notes)
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="exported",
        subject=player,
        what="everything, coaches' notes too" if all_notes else "everything",
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
        put_aside(member=member, player=player, on=member.club.today())
        messages.success(request, f"{player} is archived. Nothing is lost.")
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
            receipt = erase(
                member=member,
                player=player,
                on=member.club.today(),
                others=_others(request, player),
            )
        except Refused as error:
            wrong = str(error)
        else:
            messages.success(request, f"Erased. {receipt} is in the list below.")
            return redirect("records:records")
    return render(request, "records/player.html", _of_player(member, player, wrong), status=422)


def _others(request: HttpRequest, player: Player) -> dict[str, str | None]:
    """What the owner decided of other people's words: gone, or another text in their place."""
    chosen: dict[str, str | None] = {}
    for mention in mentions(player):
        act = request.POST.get(f"do-{mention.key}", "leave")
        if act == "blank":
            chosen[mention.key] = None
        elif act == "edit" and mention.whole:
            limit = (
                getattr(mention.model._meta.get_field(mention.column), "max_length", None)
                or MOST_TEXT
            )
            chosen[mention.key] = cut(request.POST.get(f"new-{mention.key}", ""), limit) or None
    return chosen


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
    club, today = member.club, member.club.today()
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
