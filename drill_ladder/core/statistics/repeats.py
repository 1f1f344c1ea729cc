"""Tests repeated: what several trials come to, and which results of one player are a repeat that
tells how noisy the test itself is (docs/methods.md, 9).
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from itertools import pairwise
from statistics import fmean, median

REPEAT_DAYS = 7  # our choice: within a week nobody has changed, so a difference is the test's


@dataclass(frozen=True, slots=True)
class Measured:
    """One result of a player: its day, score, how it was timed (hand, gate, or nothing) and on
    which side.
    """

    player: int
    on: date
    score: float
    timing: str = ""
    side: str = ""


def score_of(values: Sequence[float], score_by: str, higher_is_better: bool) -> float | None:
    """best, mean or median of trials; None without any."""
    if not values:
        return None
    if score_by == "best":
        return max(values) if higher_is_better else min(values)
    return fmean(values) if score_by == "mean" else float(median(values))


def repeat_pairs(results: Iterable[Measured]) -> list[tuple[float, float]]:
    """(first, second) of one player on one side, timed alike, on different days at most a week
    apart; a result is in one pair at most.
    """
    rows = sorted(results, key=lambda one: (one.player, one.side, one.timing, one.on))
    pairs, taken = [], False
    for one, other in pairwise(rows):
        alike = (one.player, one.side, one.timing) == (other.player, other.side, other.timing)
        near = 0 < (other.on - one.on).days <= REPEAT_DAYS
        if alike and near and not taken:
            pairs.append((one.score, other.score))
            taken = True
        else:
            taken = False
    return pairs
