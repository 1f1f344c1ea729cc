"""A player's days and stored blocks as the core's."""

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

from drill_ladder.apps.people.models import Player, Where
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.core.planning import Day, Placed

EVERYBODY = 99  # helpers at the club


def days_of(player: Player, monday: date, skipped: Sequence[int], blocks: Sequence[PlannedBlock]) -> list[Day]:
    """The player's days of a week without those that are skipped, and those without minutes on which somebody put a
    block all the same.
    """
    days = {day.on: day for day in (_day(d, monday) for d in player.days.all() if d.weekday not in skipped)}
    extra = {b.on: Day(b.on, 0, b.place) for b in blocks if b.on not in days}
    return sorted([*days.values(), *extra.values()], key=lambda day: day.on)


def _day(day: Any, monday: date) -> Day:
    club = day.place == Where.CLUB
    helpers = EVERYBODY if club else int(day.helper)
    return Day(monday + timedelta(days=day.weekday), day.minutes, day.place, frozenset(), helpers, club or day.adult)


def placed_of(blocks: Sequence[PlannedBlock]) -> list[Placed]:
    """Stored blocks as the core's."""
    return [Placed(b.on, str(b.prescription_id), b.order, b.minutes) for b in blocks]


def days_of_week(week: Week, blocks: Sequence[PlannedBlock]) -> list[Day]:
    """The week's days as they are planned on."""
    return days_of(week.player, week.monday, week.skipped, blocks)
