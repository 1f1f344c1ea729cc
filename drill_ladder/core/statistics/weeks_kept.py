"""Kept at it: what was done of what was planned, week by week (docs/methods.md, 43)."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import floor

WHOLE = 7


@dataclass(frozen=True, slots=True)
class PlannedWeek:
    """planned, done: days of work; days: of the week that count, 1 to 7."""

    planned: int
    done: int
    days: int = WHOLE

    @property
    def asked(self) -> int:
        """Of a week that is not whole, its part, rounded half up."""
        if self.days >= WHOLE:
            return self.planned
        return floor(self.planned * self.days / WHOLE + 0.5)


@dataclass(frozen=True, slots=True)
class Kept:
    """done: each week's own, at most what it asked; share: done of planned, None where nothing was;
    weeks_in_row: whole weeks kept, back from the last one.
    """

    done: int
    planned: int
    share: float | None
    weeks_in_row: int


def kept(weeks: Sequence[PlannedWeek]) -> Kept:
    """Oldest first. A busy week pays for no other; a week that planned nothing neither breaks a row
    nor counts.
    """
    planned = sum(week.asked for week in weeks)
    done = sum(min(week.done, week.asked) for week in weeks)
    return Kept(done, planned, done / planned if planned else None, _in_row(weeks))


def _in_row(weeks: Sequence[PlannedWeek]) -> int:
    whole = [week for week in weeks if week.days >= WHOLE and week.planned > 0]
    row = 0
    for week in reversed(whole):
        if week.done < week.planned:
            break
        row += 1
    return row
