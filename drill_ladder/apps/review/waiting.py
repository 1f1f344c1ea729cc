"""How much waits for a coach: the one number that stands on every page."""

from functools import cache
from typing import Any

from django.db import connection
from django.db.models import Count, Exists, OuterRef

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.review.models import Proposal, State

ANY_CLUB = -1


@cache
def _question() -> tuple[str, tuple[Any, ...]]:
    """The question as SQL. Putting it together takes three times as long as asking it, and every
    page asks it.
    """
    rests = Stop.objects.open().filter(player=OuterRef("player"))
    rows = Proposal.objects.filter(~Exists(rests), club=ANY_CLUB, state=State.OPEN).order_by()
    return rows.values_list(Count("pk")).query.sql_with_params()


def waiting_count(club: Club) -> int:
    """Open proposals of players without a stop."""
    sql, values = _question()
    with connection.cursor() as cursor:
        cursor.execute(sql, [club.pk if value == ANY_CLUB else value for value in values])
        row = cursor.fetchone()
    return row[0] if row else 0
