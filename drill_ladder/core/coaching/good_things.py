"""The good things, choices apart from execution, and how the coach's own calls went
(docs/methods.md, 1, 4 and 23).

None of them gates anything; the good things are shown first.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from statistics import fmean

from drill_ladder.core.judging.verdicts import Verdict


@dataclass(frozen=True, slots=True)
class Choices:
    """Decisions of a choice drill with leave-it cues: hits, misses, false alarms, correct leaves;
    carried out: good executions among the right choices.
    """

    hits: int
    misses: int
    false_alarms: int
    correct_leaves: int
    carried_out: int

    @property
    def right(self) -> float | None:
        """Share of right choices, acting and leaving."""
        total = self.hits + self.misses + self.false_alarms + self.correct_leaves
        return (self.hits + self.correct_leaves) / total if total else None

    @property
    def execution(self) -> float | None:
        """Share of the right actions that were carried out well."""
        return self.carried_out / self.hits if self.hits else None


def good_feed_share(attempts: int, voids: int) -> float | None:
    """Share of feeds that were good; voids: attempts spoiled by the feed. None without any feed."""
    return attempts / (attempts + voids) if attempts + voids else None


def towards_goal(counts: Sequence[int], goal: int) -> tuple[int, float]:
    """(Good ones noticed by the whole squad, share of the goal 0..1). Nobody's own count is named.
    goal >= 1.
    """
    total = sum(counts)
    return total, min(1.0, total / goal)


def comfort(ratings: Sequence[tuple[date, int]]) -> tuple[int, int] | None:
    """Comfort with the ball, 1..5: (first, latest) by date; None without ratings."""
    if not ratings:
        return None
    ordered = sorted(ratings)
    return ordered[0][1], ordered[-1][1]


UNEASY = 2  # of 5: not at ease, or a little
TWICE = 2


def is_uneasy(level: int) -> bool:
    """Whether somebody who says so, 1 to 5, is not at ease."""
    return level <= UNEASY


def uneasy_again(latest: Sequence[int]) -> bool:
    """Whether it was said twice running: levels on one rung, the latest first."""
    return len(latest) >= TWICE and all(map(is_uneasy, latest[:TWICE]))


def personal_bests(
    scores: Sequence[tuple[date, float]], higher_is_better: bool
) -> list[tuple[date, float]]:
    """Every day on which the player beat their own best so far; the first score is the
    first best.
    """
    found: list[tuple[date, float]] = []
    for on, score in sorted(scores):
        if not found or (score > found[-1][1] if higher_is_better else score < found[-1][1]):
            found.append((on, score))
    return found


@dataclass(frozen=True, slots=True)
class Call:
    """A decision of a coach: whether it overrode the proposal, and the verdicts of the next three
    sessions.
    """

    overridden: bool
    upcoming: tuple[Verdict, ...]


def how_calls_went(calls: Sequence[Call]) -> tuple[float | None, float | None]:
    """(Share of passes in the three sessions after followed proposals, the same after overrides);
    None without any.
    """

    def share(overridden: bool) -> float | None:
        after = [
            v is Verdict.PASS for c in calls if c.overridden is overridden for v in c.upcoming[:3]
        ]
        return fmean(after) if after else None

    return share(False), share(True)
