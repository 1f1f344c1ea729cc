"""The feed that is kept: from gentle to hard, one step at a time by what was done with it
(docs/methods.md, 30).

Two good days running for a step up, one day under the floor or twice not at ease for a step back:
common practice, no source.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

UP_AFTER = 2


class Came(StrEnum):
    """Why today's feed is another one than that of the day before."""

    GOOD = "good"
    LOW = "low"
    UNEASY = "uneasy"


@dataclass(frozen=True, slots=True)
class FedDay:
    """A day's work on a rung. feed: the gentler one it was done with, "" for the one that the rung
    asks; met: whether the target was met; low: whether it was under the floor.
    """

    on: date
    feed: str
    met: bool = False
    low: bool = False


@dataclass(frozen=True, slots=True)
class KeptFeed:
    """The feed of today, by its place among those of the rung. why: what changed it, None where it
    is the one of the day before; more: good days that a harder one still takes, None at the
    hardest.
    """

    at: int
    why: Came | None = None
    more: int | None = None


def kept_feed(
    feeds: Sequence[str], days: Sequence[FedDay], uneasy: Collection[date] = ()
) -> KeptFeed:
    """feeds: from gentle to hard, one at least; days: whole ones before today; uneasy:
    days on which the player said, twice running, not to be at ease.

    A day with another feed than was told counts for the feed that it was done with: whoever was
    there knew why. A feed that the rung does not have any more is taken for the one that was told.
    """
    keeping = _Keeping(feeds)
    by_day = {day.on: day for day in days}
    for on in sorted({*by_day, *uneasy}):
        if on in by_day:
            keeping.take(by_day[on])
        if on in uneasy:
            keeping.step(-1, Came.UNEASY)
    more = None if keeping.at == keeping.top else UP_AFTER - keeping.good
    return KeptFeed(keeping.at, keeping.why, more)


class _Keeping:
    def __init__(self, feeds: Sequence[str]) -> None:
        self.top = len(feeds) - 1
        self.places = {feed: place for place, feed in enumerate(feeds)} | {"": self.top}
        self.at = self.good = 0
        self.why: Came | None = None

    def take(self, day: FedDay) -> None:
        done = self.places.get(day.feed, self.at)
        if done != self.at or not day.met:
            self.good = 0
        self.at, self.why, self.good = done, None, self.good + day.met
        if day.low:
            self.step(-1, Came.LOW)
        elif self.good >= UP_AFTER:
            self.step(1, Came.GOOD)

    def step(self, by: int, why: Came) -> None:
        """One up or down, where there is one: what was good before is counted anew."""
        if 0 <= self.at + by <= self.top:
            self.at, self.why, self.good = self.at + by, why, 0
