"""The feeder's account: how good the feeds were, and what the receiver made of them
(docs/methods.md, 30). Common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from drill_ladder.core.statistics.intervals import wilson


class Policy(StrEnum):
    """Who owns a bad feed: nobody (neither make nor miss), or the receiver, who has to cope."""

    VOID = "void"
    COUNT = "count"


@dataclass(frozen=True, slots=True)
class Feeding:
    """What one feeder fed. makes_on_good: makes from the good feeds among them."""

    feeder: str
    feeds: int
    good: int
    makes: int
    makes_on_good: int


@dataclass(frozen=True, slots=True)
class Feeder:
    """A feeder's share of good feeds with its 95 % interval."""

    feeder: str
    share: float | None
    low: float | None
    high: float | None


@dataclass(frozen=True, slots=True)
class Feeds:
    """rate: of all feeds; rate_on_good: given a good feed; counted: the one that counts."""

    feeders: list[Feeder]
    rate: float | None
    rate_on_good: float | None
    counted: float | None


def feeds_of(feeds: Sequence[Feeding], policy: Policy) -> Feeds:
    """Feeders in the order given, entries of one of them added."""
    sums: dict[str, tuple[int, int]] = {}
    for feed in feeds:
        fed, good = sums.get(feed.feeder, (0, 0))
        sums[feed.feeder] = (fed + feed.feeds, good + feed.good)
    feeders = [_feeder(name, fed, good) for name, (fed, good) in sums.items()]
    all_fed, all_good = sum(f.feeds for f in feeds), sum(f.good for f in feeds)
    rate = sum(f.makes for f in feeds) / all_fed if all_fed else None
    on_good = sum(f.makes_on_good for f in feeds) / all_good if all_good else None
    return Feeds(feeders, rate, on_good, on_good if policy is Policy.VOID else rate)


def _feeder(name: str, fed: int, good: int) -> Feeder:
    if not fed:
        return Feeder(name, None, None, None)
    return Feeder(name, good / fed, *wilson(good, fed))
