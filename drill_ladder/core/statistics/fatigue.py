"""Does it fall off inside a session? First third against last third (docs/methods.md, 11)."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from drill_ladder.core.statistics.intervals import Z95, newcombe
from drill_ladder.core.thresholds import TOLERANCE, at_least

RECENT = 4
DROP = 0.10


@dataclass(frozen=True, slots=True)
class Fatigue:
    """Rates early and late, their difference with its 95 % interval, and whether it is worth
    saying.
    """

    early: float | None
    late: float | None
    drop: float | None
    low: float | None
    high: float | None
    flagged: bool


def fatigue_of(sessions: Sequence[Sequence[int]]) -> Fatigue:
    """sessions: attempts in order (1 good, 0 miss), oldest session first; the last four are pooled.

    Source of the interval: Newcombe (1998). Thirds and the mark of 0.10: our choice, because less
    is not felt.
    """
    thirds = [
        (s[: len(s) // 3], s[len(s) - len(s) // 3 :]) for s in sessions[-RECENT:] if len(s) >= 3
    ]
    n = sum(len(early) for early, _ in thirds)
    if not n:
        return Fatigue(None, None, None, None, None, False)
    good_early, good_late = sum(sum(e) for e, _ in thirds), sum(sum(late) for _, late in thirds)
    low, high = newcombe(good_early, n, good_late, n)
    drop = (good_early - good_late) / n
    return Fatigue(
        good_early / n, good_late / n, drop, low, high, at_least(drop, DROP) and low > TOLERANCE
    )


@dataclass(frozen=True, slots=True)
class Pair:
    """A rung on a day that has it fresh and tired: good ones and attempts of each."""

    fresh: int
    of_fresh: int
    tired: int
    of_tired: int


def with_both(days: Sequence[Pair]) -> list[Pair]:
    """The last four days that have both; oldest first."""
    return [day for day in days if day.of_fresh and day.of_tired][-RECENT:]


def cost_of_fatigue(days: Sequence[Pair]) -> Fatigue:
    """Rate fresh less rate tired, pooled over the last four days that have both
    (docs/methods.md, 26); oldest first.

    Source of the interval: Newcombe (1998).
    """
    both = with_both(days)
    if not both:
        return Fatigue(None, None, None, None, None, False)
    fresh, of_fresh = sum(day.fresh for day in both), sum(day.of_fresh for day in both)
    tired, of_tired = sum(day.tired for day in both), sum(day.of_tired for day in both)
    low, high = newcombe(fresh, of_fresh, tired, of_tired)
    cost = fresh / of_fresh - tired / of_tired
    flagged = at_least(cost, DROP) and low > TOLERANCE
    return Fatigue(fresh / of_fresh, tired / of_tired, cost, low, high, flagged)


def visible_drop(attempts: int, rate: float) -> float | None:
    """How big a drop could have been seen at all: half the width of the interval at this rate, a
    third of `attempts` on each side. None under three attempts.
    """
    third = attempts // 3
    return None if third == 0 else min(1.0, Z95 * sqrt(2 * rate * (1 - rate) / third))


def form_fell_first(
    form: Sequence[tuple[float, float]], scores: Sequence[tuple[float, float]]
) -> bool | None:
    """Whether form fell before the score did. Both: (early, late) for each session, oldest first;
    None without any.
    """
    if not form or not scores:
        return None
    first_form = next(
        (i for i, (early, late) in enumerate(form) if early - late >= DROP - TOLERANCE), None
    )
    first_score = next(
        (i for i, (early, late) in enumerate(scores) if early - late >= DROP - TOLERANCE), None
    )
    return first_form is not None and (first_score is None or first_form < first_score)
