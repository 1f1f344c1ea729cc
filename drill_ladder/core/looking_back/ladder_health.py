"""Is the ladder well stepped? From all stays of all players on it (docs/methods.md, 34).

The step is a paired difference with Student's t interval over players; time on a rung is the
cumulative incidence of leaving upwards (survival.py). The marks of 0.2, of twice the ladder's
median and of eight stays are our choice.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from math import sqrt
from statistics import fmean, stdev

from drill_ladder.core.looking_back.survival import Left, incidence, median_up
from drill_ladder.core.thresholds import TOLERANCE, at_least

FEWEST_STAYS, FEWEST_PAIRS = 8, 2
CLIFF, WALL = 0.2, 2.0


@dataclass(frozen=True, slots=True)
class RungStay:
    """One player's time on a rung. sessions: full ones; first: rate of the first full session
    there, first_below: of the same player's first full session on the rung below, None without
    attempts; low_first: whether the first session here was low.
    """

    rung: str
    sessions: int
    left: Left
    first: float | None
    first_below: float | None
    low_first: bool


class Flag(StrEnum):
    """What is wrong with a rung: too big a step, none at all, nobody gets past it; or too little
    is known.
    """

    CLIFF = "cliff"
    NO_STEP = "no_step"
    WALL = "wall"
    TOO_FEW = "too_few"


@dataclass(frozen=True, slots=True)
class RungHealth:
    """median: sessions until half have climbed, None where that is not reached; up_share: how many
    ever go up; step: how much harder it is than the rung below, with its 95 % interval, from so
    many pairs.
    """

    rung: str
    stays: int
    median: int | None
    up_share: float | None
    pairs: int
    step: float | None
    low: float | None
    high: float | None
    flags: list[Flag]


@dataclass(frozen=True, slots=True)
class LadderHealth:
    """Every rung from the easiest; median: of all stays together."""

    rungs: list[RungHealth]
    median: int | None


def health_of(rungs: Sequence[str], stays: Sequence[RungStay]) -> LadderHealth:
    """rungs: ids from the easiest. Stays of no session are left out."""
    by_rung: dict[str, list[RungStay]] = {rung: [] for rung in rungs}
    for stay in stays:
        if stay.sessions:
            by_rung[stay.rung].append(stay)
    whole = median_up([(s.sessions, s.left) for of in by_rung.values() for s in of])
    # one rung alone is no wall: it is the whole ladder
    mark = whole if sum(1 for of in by_rung.values() if of) > 1 else None
    return LadderHealth(
        [_rung(rung, by_rung[rung], mark, i == 0) for i, rung in enumerate(rungs)], whole
    )


def _rung(
    rung: str, stays: Sequence[RungStay], ladder_median: int | None, easiest: bool
) -> RungHealth:
    times = [(s.sessions, s.left) for s in stays]
    shares = [0.0, *(share for _, share in incidence(times))]
    up_share = shares[-1] if stays else None
    gaps = [] if easiest else _gaps(stays)
    step, low, high = _interval(gaps)
    median = median_up(times)
    flags = [Flag.TOO_FEW]
    if len(stays) >= FEWEST_STAYS:
        stuck = median if median is not None else max(s.sessions for s in stays)
        held = {
            Flag.CLIFF: len(gaps) >= FEWEST_STAYS and _is_cliff(step, low),
            Flag.NO_STEP: _no_step(stays),
            Flag.WALL: ladder_median is not None and at_least(stuck, WALL * ladder_median),
        }
        flags = [flag for flag, holds in held.items() if holds]
    return RungHealth(rung, len(stays), median, up_share, len(gaps), step, low, high, flags)


def _gaps(stays: Sequence[RungStay]) -> list[float]:
    return [
        s.first_below - s.first for s in stays if s.first is not None and s.first_below is not None
    ]


def _is_cliff(step: float | None, low: float | None) -> bool:
    return step is not None and low is not None and at_least(step, CLIFF) and low > TOLERANCE


def _no_step(stays: Sequence[RungStay]) -> bool:
    at_once = sum(1 for s in stays if s.left is Left.UP and s.sessions == 1)
    return 2 * at_once > len(stays) and not any(s.low_first for s in stays)


def _interval(gaps: Sequence[float]) -> tuple[float | None, float | None, float | None]:
    """Mean and its 95 % t interval."""
    if not gaps:
        return None, None, None
    mean, n = fmean(gaps), len(gaps)
    if n < FEWEST_PAIRS:
        return mean, None, None
    spread = stdev(gaps)
    if spread < TOLERANCE:
        return mean, mean, mean
    from scipy.special import stdtrit  # a third of a second to import

    half = float(stdtrit(n - 1, 0.975)) * spread / sqrt(n)
    return mean, mean - half, mean + half
