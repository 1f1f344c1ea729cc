"""Who did and saw what: searched, by player, as CSV."""

from datetime import date
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.utils.http import urlencode

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.history.querysets import EventQuerySet
from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.formats.reading import cut, day, whole
from drill_ladder.ui.pages import TABLES, Context, page_of, table_file

SIZE, MOST_ROWS = 60, 50_000
FIRST = date(2000, 1, 1)


@coach_required
def history(request: HttpRequest, member: Membership) -> HttpResponse:
    """?q= words, ?player=ID, ?who=ID of a member, ?since=, ?until= days."""
    asked = _asked(request, member)
    rows = _rows(member, asked)
    context = asked | {
        "page": page_of(request, rows, SIZE),
        "members": _members(member),
        "address": urlencode(
            {key: str(value) for key, value in request.GET.items() if key != "page"}
        ),
    }
    return render(request, "records/history.html", context)


@coach_required
def history_out(request: HttpRequest, member: Membership, kind: str) -> HttpResponse:
    """What was asked for, as csv or xlsx."""
    if kind not in TABLES:
        raise Http404
    rows = _rows(member, _asked(request, member))[:MOST_ROWS]
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="exported",
        subject=member.club,
        what="history",
    )
    table = [
        [
            f"{row.at:%Y-%m-%d %H:%M:%S%z}",
            str(row.actor or ""),
            row.verb,
            row.subject,
            row.kind,
            row.row_id,
        ]
        for row in rows
    ]
    head = ["at", "who", "did", "about", "kind", "id"]
    return table_file(head, table, kind, "history")


def _asked(request: HttpRequest, member: Membership) -> Context:
    player = None
    if request.GET.get("player"):
        rows = Player.objects.known_to(member.club)
        player = get_object_or_404(rows, pk=whole(request.GET["player"]) or 0)
    return {
        "words": cut(request.GET.get("q", ""), 80),
        "player": player,
        "who": whole(request.GET.get("who", "")),
        "since": day(request.GET.get("since", ""), FIRST, date.max),
        "until": day(request.GET.get("until", ""), FIRST, date.max),
    }


def _rows(member: Membership, asked: Context) -> EventQuerySet:
    query: Any = asked
    rows = Event.objects.of_club(member.club_id)
    if query["player"] is not None:
        rows = rows.about(query["player"])
    rows = rows.with_words(query["words"]).by(query["who"])
    return rows.between(query["since"], query["until"]).with_actor()


def _members(member: Membership) -> list[tuple[int, str]]:
    rows = Membership.objects.of_club(member.club).as_team()
    return [(row.user_id, str(row.user)) for row in rows]
