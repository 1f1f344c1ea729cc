"""A speed block stops itself: rounds in order, until one is too slow beside the best so far
(docs/methods.md, 27).

The limit of 5 % is common practice, no source; the noise of a difference between two trials,
sqrt(2) typical errors, as in Hopkins (2000), Measures of reliability in sports medicine and
science.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import median
from typing import NamedTuple

from drill_ladder.core.thresholds import at_least

LIMIT = 0.05


class Stopping(NamedTuple):
    """How sure a stop has to be. te: the timing's typical error in seconds, None where it is not
    known; running: slow rounds in a row that it takes, 2 by hand, since a thumb errs by a tenth;
    adds_up: whether what adds up stops it, in the place of single rounds.
    """

    te: float | None = None
    running: int = 1
    adds_up: bool = False


ALONE = Stopping()


@dataclass(frozen=True, slots=True)
class DropOff:
    """Where it stopped. best: the least of the counted rounds, in seconds; drops: share by which a
    round was slower than the best of all before it, None for the first; stop_after: how many rounds
    were done with the stop, None without one; counted: how many count.
    """

    best: float | None
    drops: tuple[float | None, ...]
    stop_after: int | None
    counted: int


def drop_off(
    rounds: Sequence[float], limit: float = LIMIT, te: float | None = None, running: int = 1
) -> DropOff:
    """rounds: seconds above 0, in order; limit: share above 0."""
    drops: list[float | None] = []
    best = slow = 0.0
    stop_after: int | None = None
    for number, seconds in enumerate(rounds, 1):
        drop = (seconds - best) / best if number > 1 else None
        drops.append(drop)
        if drop is not None:
            mark = max(limit, 2 * sqrt(2) * (te or 0.0) / best)
            slow = slow + 1 if at_least(drop, mark) else 0
            if slow >= running and stop_after is None:
                stop_after = number
        best = seconds if number == 1 else min(best, seconds)
    counted = len(rounds) if stop_after is None else stop_after
    return DropOff(min(rounds[:counted], default=None), tuple(drops), stop_after, counted)


BASE_ROUNDS = 3
USUAL_NOISE = 0.02  # share of a round's time, where nobody knows the typical error
# the sum at which a block stops, in noises, by how many noises half the limit is: so that ten
# rounds without tiring stop once in ten at most; from 40 000 simulated blocks
_HALF_LIMITS = (0.25, 0.5, 0.75, 1.0, 1.25, 1.5, 2.0, 3.0)
_HEIGHTS = (6.16, 4.59, 3.39, 2.49, 1.80, 1.32, 0.70, 0.50)


def drop_off_sum(rounds: Sequence[float], limit: float = LIMIT, te: float | None = None) -> DropOff:
    """Where what adds up says that it stopped: each round's share over the usual one, less half the
    limit, summed and never under 0. The usual one is the median of the first three; during those
    only two rounds running slower by twice the limit stop. drops: against the usual round. Source:
    Page (1954), Continuous inspection schemes, the one-sided cumulative sum.
    """
    early = _early_stop(rounds[:BASE_ROUNDS], limit)
    if early is not None or len(rounds) <= BASE_ROUNDS:
        return _summed(rounds, rounds[0] if rounds else None, early)
    base = median(rounds[:BASE_ROUNDS])
    noise = te / base if te is not None else USUAL_NOISE
    height = noise * _height(limit / 2 / noise)
    total, stop = 0.0, None
    for number, seconds in enumerate(rounds[BASE_ROUNDS:], BASE_ROUNDS + 1):
        total = max(0.0, total + seconds / base - 1 - limit / 2)
        if stop is None and at_least(total, height):
            stop = number
    return _summed(rounds, base, stop)


def _early_stop(rounds: Sequence[float], limit: float) -> int | None:
    best, slow = rounds[0] if rounds else 0.0, 0
    for number, seconds in enumerate(rounds, 1):
        slow = slow + 1 if at_least((seconds - best) / best, 2 * limit) else 0
        if slow == 2:
            return number
        best = min(best, seconds)
    return None


def _height(ratio: float) -> float:
    """Between the points of the table, by straight lines."""
    if ratio <= _HALF_LIMITS[0]:
        return _HEIGHTS[0]
    for low, high, a, b in zip(
        _HALF_LIMITS, _HALF_LIMITS[1:], _HEIGHTS, _HEIGHTS[1:], strict=False
    ):
        if ratio <= high:
            return a + (b - a) * (ratio - low) / (high - low)
    return _HEIGHTS[-1]


def _summed(rounds: Sequence[float], base: float | None, stop: int | None) -> DropOff:
    drops = tuple(None if base is None or i == 0 else s / base - 1 for i, s in enumerate(rounds))
    counted = len(rounds) if stop is None else stop
    return DropOff(min(rounds[:counted], default=None), drops, stop, counted)


def stop_after(rounds: Sequence[float], limit: float, stopping: Stopping) -> int | None:
    """After how many rounds a block stops itself; None where it does not."""
    if stopping.adds_up:
        return drop_off_sum(rounds, limit, stopping.te).stop_after
    return drop_off(rounds, limit, stopping.te, stopping.running).stop_after
