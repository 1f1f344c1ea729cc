"""A sheet of paper typed in: of one player, of a squad, or of a day at the club."""

from collections.abc import Sequence
from datetime import date, timedelta

from django.contrib import messages
from django.http import HttpRequest, HttpResponse, QueryDict
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse

from drill_ladder.apps.card.paper.typed_in import (
    Grid,
    Stored,
    card_grid,
    club_grid,
    hear_sheet,
    store_grid,
)
from drill_ladder.apps.people.access import holds_report, member_required
from drill_ladder.apps.people.models import Membership, Player, Squad
from drill_ladder.apps.weeks.querysets import asked_day, monday_of
from drill_ladder.formats.reading import whole
from drill_ladder.formats.words import many
from drill_ladder.ui.pages import Context

MOST_PLAYERS = 40


@holds_report
@member_required
def typed_in(request: HttpRequest, member: Membership) -> HttpResponse:
    """?player=ID or ?squad=ID: the home cards of the week of ?of=; with ?club=1 the sheet of that
    day at the club.
    """
    today = member.club.today()
    on = min(asked_day(request, today), today)
    player, squad = _asked(request, member)
    at_club = request.GET.get("club") == "1"

    def grid_of(sent: QueryDict | None) -> Grid:
        if at_club:
            return club_grid(member.club, on, squad, sent)
        return card_grid(_players(member, player, squad), monday_of(on), today, sent)

    posted = request.method == "POST"
    grid = grid_of(request.POST if posted else None)
    wrong, names = "", ""
    if posted:
        resting = hear_sheet(grid, member)
        names = ", ".join(map(str, resting))
        wrong, stored = _stored(request, grid, member, today, resting)
        if not wrong:
            return redirect(_after(request, player))
        grid = grid_of(request.POST)  # with what is stored now as it is stored
        grid.is_valid()
        grid.refuse(stored.refused)
    context = _context(member, grid, on, at_club) | {
        "player": player,
        "squad": squad,
        "wrong": wrong,
        "told": names,
    }
    return render(request, "card/paper_in.html", context, status=422 if wrong else 200)


def _asked(request: HttpRequest, member: Membership) -> tuple[Player | None, Squad | None]:
    """The player or the squad that is asked for."""
    player = squad = None
    if "player" in request.GET:
        rows = Player.objects.of_club(member.club)
        player = get_object_or_404(rows, pk=whole(request.GET["player"]))
    elif request.GET.get("squad"):
        squad = get_object_or_404(
            Squad.objects.of_club(member.club), pk=whole(request.GET["squad"])
        )
    return player, squad


def _players(member: Membership, player: Player | None, squad: Squad | None) -> Sequence[Player]:
    if player is not None:
        return [player]
    rows = Player.objects.of_club(member.club)
    return list(rows.of_squad(squad.pk) if squad else rows)[:MOST_PLAYERS]


def _stored(
    request: HttpRequest, grid: Grid, member: Membership, today: date, resting: Sequence[Player]
) -> tuple[str, Stored]:
    """Store the page row by row: (what is left to look at, or nothing; what became of the rows)."""
    good = grid.is_valid()
    if good and not grid.numbers and not resting:
        return "Nothing is typed yet.", Stored()
    stored = store_grid(grid, member, today, {player.pk for player in resting})
    said = f"{many(stored.new, 'session')} stored from paper"
    more = f", {stored.there} were there already." if stored.there else "."
    if good and not stored.refused:
        messages.success(request, said + more)
        for player in resting:
            messages.success(request, f"{player} rests until a coach ends the stop.")
        return "", stored
    return f"{said}{more} What is marked below is not: it needs a second look.", stored


def _after(request: HttpRequest, player: Player | None) -> str:
    if player is not None:
        return reverse("progress:player", args=[player.pk])
    return request.get_full_path()


def _context(member: Membership, grid: Grid, on: date, at_club: bool) -> Context:
    step = timedelta(days=1 if at_club else 7)
    return {
        "grid": grid,
        "on": on,
        "monday": monday_of(on),
        "before": on - step,
        "after": on + step,
        "at_club": at_club,
        "squads": list(Squad.objects.of_club(member.club)),
    }
