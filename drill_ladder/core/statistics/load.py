"""Session load, monotony and strain week by week, and counts of strain-tagged reps
(docs/methods.md, 12).

Source: Foster's session-RPE, monotony and strain (1998, from memory). The program ships no limits:
a club enters them from its own governing body.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from statistics import fmean, stdev

from drill_ladder.core.thresholds import TOLERANCE


class Strain(StrEnum):
    """Repetitions that a body has only so many of (docs/methods.md, 12)."""

    THROWS = "throws"
    JUMPS = "jumps"
    FULL_SWINGS = "full swings"
    SPRINTS = "sprints"
    HEADERS = "headers"
    CONTACTS = "contacts"


@dataclass(frozen=True, slots=True)
class Effort:
    """One session's effort (0..10) and minutes."""

    on: date
    effort: float
    minutes: float

    @property
    def load(self) -> float:
        """Effort x minutes."""
        return self.effort * self.minutes


@dataclass(frozen=True, slots=True)
class Week:
    """Monday to Sunday. monotony: mean daily load / sample SD, None when all days are alike; change
    on last week.
    """

    start: date
    load: float
    monotony: float | None
    strain: float | None
    change: float | None


def weeks(days: Sequence[Effort]) -> list[Week]:
    """Every week from the first to the last day given, empty ones between included; [] without
    days.
    """
    if not days:
        return []
    loads: dict[date, float] = {}
    for entry in days:
        loads[entry.on] = loads.get(entry.on, 0.0) + entry.load
    monday = min(loads) - timedelta(days=min(loads).weekday())
    found: list[Week] = []
    for number in range((max(loads) - monday).days // 7 + 1):
        start = monday + timedelta(weeks=number)
        daily = [
            loads.get(start + timedelta(days=d), 0.0) if d <= (date.max - start).days else 0.0
            for d in range(7)
        ]
        found.append(_week(start, daily, found[-1].load if found else None))
    return found


def _week(start: date, daily: list[float], before: float | None) -> Week:
    load, mean, spread = sum(daily), fmean(daily), stdev(daily)
    change = (load - before) / before if before else None
    if load == 0:
        return Week(start, 0.0, None, 0.0, change)
    if spread < TOLERANCE * mean:
        return Week(start, load, None, None, change)
    return Week(start, load, mean / spread, load * mean / spread, change)


def strain_left(done: Mapping[str, int], limits: Mapping[str, int]) -> dict[str, int]:
    """Tag -> reps still allowed under the club's own limits (never under 0); tags without a limit
    are left out.
    """
    return {tag: max(0, limit - done.get(tag, 0)) for tag, limit in limits.items()}
