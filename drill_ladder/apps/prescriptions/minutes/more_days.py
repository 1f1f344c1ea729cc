"""What one more day a week would be expected to bring, by what the club's record knows of the
player; never more than the data carry (docs/methods.md, 37).
"""

from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.prescriptions.models import Prescription

WEEK = 7
MOST_DAYS = 6


@dataclass(frozen=True, slots=True)
class Reach:
    """Days until the next rung at so many sessions a week: 80 % between low and high, most likely
    middle.
    """

    per_week: int
    low: int
    middle: int
    high: int


@dataclass(frozen=True, slots=True)
class MoreDays:
    """on: the day of which it is known."""

    on: date
    now: Reach
    more: Reach | None


def more_days(prescription: Prescription, per_week: int) -> MoreDays | None:
    """At so many days a week, and at one more; None where nobody can say."""
    learning = getattr(prescription, "learning", None)
    if learning is None or not learning.carries:
        return None
    band = (learning.next_low, learning.next_middle, learning.next_high)
    if any(sessions is None for sessions in band):
        return None
    now = _reach(per_week, band)
    return MoreDays(learning.on, now, _reach(per_week + 1, band) if per_week <= MOST_DAYS else None)


def _reach(per_week: int, sessions: tuple[int, int, int]) -> Reach:
    low, middle, high = (round(WEEK * n / per_week) for n in sessions)
    return Reach(per_week, low, middle, high)
