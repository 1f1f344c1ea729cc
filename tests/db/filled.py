"""A club with something in most tables."""

from uuid import uuid4

import pytest

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.apps.weeks.services import solve
from tests.every_address import paths_of
from tests.make import owner_of


@pytest.fixture
def full(w, today):
    """A club with something in most tables, and a week told."""
    paths_of(w)
    monday = monday_of(today)
    w.player.days.create(club=w.club, weekday=today.weekday(), minutes=60)
    for stop in w.player.stops.all():
        stop.delete()
    solve(member=w.coach, player=w.player, monday=monday)
    publish(member=w.coach, player=w.player, monday=monday, at=Event.objects.latest("pk").at)
    owner_of(w.club)
    for act, value in (("comfort", {"numbers": {"level": 3}}), ("undo", {})):
        last = FloorTap.objects.last()
        FloorTap.objects.create(
            uid=uuid4(),
            club=w.club,
            player=w.player,
            on=today,
            at=Event.objects.latest("pk").at,
            act=act,
            value=value | ({"of": str(last.uid)} if act == "undo" else {}),
        )
    return w
