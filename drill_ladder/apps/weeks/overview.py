"""Many players' weeks beside each other: the minutes of each day, and how many ladders found too
few places. Nothing is solved and no drill is looked at.
"""

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.plan import days_of
from drill_ladder.core.work import Place


@dataclass(frozen=True, slots=True)
class DayMinutes:
    """A day of one player: minutes planned, minutes there are (none: no time on that day)."""

    on: date
    used: int
    has: int
    there: bool
    at_club: bool

    @property
    def share(self) -> int:
        """Percent of the day that is used, at most 100, for its bar."""
        return min(100, round(100 * self.used / self.has)) if self.has else 0

    @property
    def over(self) -> bool:
        """Whether more is planned than the day has."""
        return self.used > self.has


@dataclass(frozen=True, slots=True)
class WeekRow:
    """One player's week among many. unmet: ladders that found too few places."""

    player: Player
    week: Week | None
    days: list[DayMinutes]
    unmet: int

    @property
    def used(self) -> int:
        """Minutes planned."""
        return sum(day.used for day in self.days)

    @property
    def has(self) -> int:
        """Minutes that there are."""
        return sum(day.has for day in self.days)


def overview(players: Sequence[Player], monday: date, weeks: Mapping[int, Week]) -> list[WeekRow]:
    """A row for each. weeks: player id -> week, with its blocks at hand; the players' days are at
    hand too.
    """
    asked = _asked(players, monday + timedelta(days=6))
    return [_row(p, monday, weeks.get(p.pk), asked.get(p.pk, {})) for p in players]


def _asked(players: Sequence[Player], sunday: date) -> dict[int, dict[int, int]]:
    """Player id -> prescription id -> how often a week; of those who rest nothing is asked."""
    wanted: dict[int, dict[int, int]] = defaultdict(dict)
    rows = Prescription.objects.active().of_players(players).begun(sunday).not_resting()
    for player, pk, per_week in rows.values_list("player", "pk", "per_week"):
        wanted[player][pk] = per_week
    return wanted


def _row(player: Player, monday: date, week: Week | None, asked: Mapping[int, int]) -> WeekRow:
    blocks = list(week.blocks.all()) if week else []
    placed = Counter(block.prescription_id for block in blocks if not block.tired)
    unmet = sum(per_week > placed[pk] for pk, per_week in asked.items())
    return WeekRow(player, week, _minutes(player, monday, week, blocks), unmet)


def _minutes(
    player: Player, monday: date, week: Week | None, blocks: Sequence[PlannedBlock]
) -> list[DayMinutes]:
    skipped = week.skipped if week else ()
    days = {day.on: day for day in days_of(player, monday, skipped, blocks)}
    used: Counter[date] = Counter()
    for block in blocks:
        used[block.on] += block.minutes
    shown = []
    for on in (monday + timedelta(days=n) for n in range(7)):
        day = days.get(on)
        has = round(day.minutes) if day else 0
        at_club = day is not None and day.place == Place.CLUB
        shown.append(DayMinutes(on, used[on], has, day is not None, at_club))
    return shown
