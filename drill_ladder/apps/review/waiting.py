"""How much waits for a coach: the one number that stands on every page."""

from dataclasses import dataclass
from functools import cache
from typing import Any

from django.db import connection
from django.db.models import Count, Window

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.review.models import Proposal

ANY_CLUB = -1


@cache
def _question() -> tuple[str, tuple[Any, ...]]:
    """The question as SQL. Putting it together takes three times as long as asking it, and every
    page asks it. That a player stands there still is not asked: who leaves a rung leaves nothing
    open (close_open).
    """
    rows = Proposal.objects.open_of_working().filter(club=ANY_CLUB).order_by()
    return rows.values("club").annotate(n=Count("pk")).values_list("n").query.sql_with_params()


@dataclass(frozen=True, slots=True)
class Waiting:
    """What a list shows of a proposal: which, of whom, and where on which ladder. rungs: how many
    the ladder has.
    """

    pk: int
    kind: str
    player_id: int
    player: str
    ladder: str
    position: int
    title: str
    rungs: int


def waiting(club: Club, most: int | None = None) -> tuple[list[Waiting], int]:
    """What waits for a decision, the most urgent first; so many at most, and how many there are."""
    rows = Proposal.objects.of_club(club).awaiting_review().with_rung_count()
    shown = (
        "pk",
        "kind",
        "player_id",
        "player__name",
        "stay__prescription__ladder__title",
        "stay__rung__position",
        "stay__rung__title",
        "rung_count",
    )
    shown_rows = list(rows.annotate(of=Window(Count("pk"))).values_list(*shown, "of")[:most])
    return [Waiting(*row[:-1]) for row in shown_rows], shown_rows[0][-1] if shown_rows else 0


def waiting_count(club: Club) -> int:
    """Open proposals of players without a stop."""
    sql, values = _question()
    with connection.cursor() as cursor:
        cursor.execute(sql, [club.pk if value == ANY_CLUB else value for value in values])
        row = cursor.fetchone()
    return row[0] if row else 0
