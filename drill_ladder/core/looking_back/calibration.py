"""Was "40 %" right four times in ten? Forecasts against what happened (docs/methods.md, 33).

Source: Brier (1950), Verification of forecasts expressed in terms of probability.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import fmean, stdev

from drill_ladder.core.statistics.intervals import wilson
from drill_ladder.core.thresholds import at_least, rounded_down

BINS = 10
ENOUGH = 50  # uncertain forecasts before anything is said of them


@dataclass(frozen=True, slots=True)
class Bin:
    """Forecasts of from_ <= p < to: how many, their mean, how often it happened, with the 95 %
    interval.
    """

    from_: float
    to: float
    n: int
    mean_p: float
    share: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Calibration:
    """brier: mean squared error, 0 is perfect; brier_base: what always saying the overall share
    would have cost. Both None without forecasts.
    """

    n: int
    brier: float | None
    brier_base: float | None
    bins: list[Bin]


def calibration_of(forecasts: Sequence[tuple[float, bool]]) -> Calibration:
    """forecasts: (probability 0..1, whether it happened)."""
    if not forecasts:
        return Calibration(0, None, None, [])
    brier = fmean((p - hit) ** 2 for p, hit in forecasts)
    share = fmean(hit for _, hit in forecasts)
    by_bin: dict[int, list[tuple[float, bool]]] = {}
    for p, hit in forecasts:
        by_bin.setdefault(_bin_of(p), []).append((p, hit))
    bins = [_bin(index, by_bin[index]) for index in sorted(by_bin)]
    return Calibration(len(forecasts), brier, share * (1 - share), bins)


def _bin_of(p: float) -> int:
    """The edge of a bin belongs to it, within 1e-9; certainty to the last one."""
    below = max(0, rounded_down(p * BINS) - 1)
    return max(i for i in range(below, BINS) if i == below or at_least(p, i / BINS))


def _bin(index: int, inside: Sequence[tuple[float, bool]]) -> Bin:
    hits, n = sum(hit for _, hit in inside), len(inside)
    mean_p = fmean(p for p, _ in inside)
    return Bin(index / BINS, (index + 1) / BINS, n, mean_p, hits / n, *wilson(hits, n))


@dataclass(frozen=True, slots=True)
class Skill:
    """Whether forecasts told more than always saying the overall share: of the uncertain ones the
    gain in squared error with its 95 % interval (None with under two); certain (0 and 1): how many,
    and how many of them were right.
    """

    uncertain: int
    gain: float | None
    low: float | None
    high: float | None
    certain: int
    right: int

    @property
    def better(self) -> bool:
        """Whether it may be said."""
        return self.uncertain >= ENOUGH and self.low is not None and self.low > 0


def skill_of(forecasts: Sequence[tuple[float, bool]]) -> Skill:
    """forecasts: (probability 0..1, whether it happened). Source: the paired difference of Brier
    scores with a normal interval (Diebold and Mariano 1995, without their lags: each forecast is of
    another day); from memory.
    """
    sure = [(p, hit) for p, hit in forecasts if p in (0.0, 1.0)]
    open_ = [(p, hit) for p, hit in forecasts if p not in (0.0, 1.0)]
    right = sum((p == 1.0) == hit for p, hit in sure)
    if len(open_) < 2:
        return Skill(len(open_), None, None, None, len(sure), right)
    share = fmean(hit for _, hit in open_)
    gains = [(share - hit) ** 2 - (p - hit) ** 2 for p, hit in open_]
    gain, half = fmean(gains), 1.96 * stdev(gains) / sqrt(len(gains))
    return Skill(len(open_), gain, gain - half, gain + half, len(sure), right)
