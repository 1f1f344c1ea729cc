"""Balance between lanes: is a gap real, how to share practice, how to share the work in play
(docs/methods.md, 10).
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

from drill_ladder.core.statistics.intervals import newcombe
from drill_ladder.core.thresholds import TOLERANCE, at_least

if TYPE_CHECKING:
    import numpy as np

PRACTICE_SHARE = (0.5, 0.67)
SHRINK_ATTEMPTS = 15


@dataclass(frozen=True, slots=True)
class LaneResult:
    """A lane's attempts and makes."""

    name: str
    attempts: int
    makes: int

    @property
    def rate(self) -> float | None:
        """Makes of attempts."""
        return self.makes / self.attempts if self.attempts else None


@dataclass(frozen=True, slots=True)
class Gap:
    """First lane - second, with its 95 % interval; shares of the weaker lane in practice and of its
    cover in play; e: evidence against equal rates, valid however often it is looked at, None with
    nothing to compare.
    """

    gap: float | None
    low: float | None
    high: float | None
    real: bool
    weaker: str | None
    practice_share: float | None
    cover_share: float | None
    e: float | None = None


SURE_E = 20.0  # as sure as 5 %, however often it is looked at
FEWEST_A_SIDE = 10
PAIRS, MOST_LOG = 60, 600.0
APART = 1.25  # log odds ratio
WORTH = 0.1  # points of a rate that are worth acting on


def two_lanes(
    first: LaneResult, second: LaneResult, many_looks: bool = False, worth: float = 0.0
) -> Gap:
    """Compare two lanes. A gap is real only when its interval excludes 0; with many looks when its
    e-value is at least 20, with ten attempts a side. worth: the least gap that is, 0..1.

    practice share = r_strong / (r_strong + r_weak), kept in 0.50..0.67: our choice, because more
    would starve the strong side; cover share = 1 - that, not clamped.
    """
    r1, r2 = first.rate, second.rate
    if r1 is None or r2 is None:
        return Gap(None, None, None, False, None, None, None)
    low, high = newcombe(first.makes, first.attempts, second.makes, second.attempts)
    lower = first.name if r1 < r2 else second.name
    weaker = None if abs(r1 - r2) <= TOLERANCE else lower
    strong = 0.5 if r1 + r2 == 0 else max(r1, r2) / (r1 + r2)
    practice = min(max(strong, PRACTICE_SHARE[0]), PRACTICE_SHARE[1])
    e = e_value(first, second)
    if many_looks:
        real = at_least(e, SURE_E) and min(first.attempts, second.attempts) >= FEWEST_A_SIDE
    else:
        real = low > TOLERANCE or high < -TOLERANCE
    real = real and at_least(abs(r1 - r2), worth)
    return Gap(r1 - r2, low, high, real, weaker, practice, 1 - strong, e)


def e_value(first: LaneResult, second: LaneResult) -> float:
    """Two rates of their own, mixed over how far they may lie apart, against the one rate that both
    together would have: over 20 in any of all looks in at most one series of twenty where they are
    alike, as long as both sides are practised in turn.

    Source: Turner, Ly and Grünwald (2024), Generic e-variables and exact sequential k-sample tests
    that allow for optional stopping, from memory; Ville's inequality. The mixture (log odds ratio
    of spread 1.25) is our own choice: it sees gaps of ten to thirty points soonest.
    """
    import numpy as np

    weights, one, other = _rate_pairs()
    n1, n2 = first.attempts, second.attempts
    both = (n1 * one + n2 * other) / (n1 + n2)
    logs = (
        first.makes * np.log(one / both)
        + (n1 - first.makes) * np.log((1 - one) / (1 - both))
        + second.makes * np.log(other / both)
        + (n2 - second.makes) * np.log((1 - other) / (1 - both))
    )
    return float((weights * np.exp(np.minimum(logs, MOST_LOG))).sum())


@lru_cache(maxsize=1)
def _rate_pairs() -> "tuple[np.ndarray, np.ndarray, np.ndarray]":
    """(Weight, one rate, the other) over a grid of pairs."""
    import numpy as np

    rates = (np.arange(PAIRS) + 0.5) / PAIRS
    one, other = np.meshgrid(rates, rates, indexing="ij")
    apart = np.log(one / (1 - one)) - np.log(other / (1 - other))
    weights = np.exp(-((apart / APART) ** 2) / 2) / np.sqrt(one * (1 - one) * other * (1 - other))
    return weights / weights.sum(), one, other


@dataclass(frozen=True, slots=True)
class Homogeneity:
    """Chi-square of equal rates over the lanes with attempts, and (lane, shrunk rate) with the
    weakest first.
    """

    chi2: float | None
    p: float | None
    ranked: list[tuple[LaneResult, float | None]]


def many_lanes(lanes: Sequence[LaneResult]) -> Homogeneity:
    """Three or more lanes. Source: Pearson's chi-square without Yates' correction (statsmodels is a
    check).

    Rates are shrunk to the pooled one as if 15 attempts more had gone like all: our choice, because
    a lane with three attempts must not lead the list.
    """
    attempts, makes = sum(lane.attempts for lane in lanes), sum(lane.makes for lane in lanes)
    mean = makes / attempts if attempts else None
    chi2, p = _chi_square([lane for lane in lanes if lane.attempts], mean)
    shrunk = [
        (
            lane,
            None
            if mean is None
            else (lane.makes + SHRINK_ATTEMPTS * mean) / (lane.attempts + SHRINK_ATTEMPTS),
        )
        for lane in lanes
    ]
    return Homogeneity(
        chi2, p, sorted(shrunk, key=lambda pair: (pair[0].attempts == 0, pair[1] or 0.0))
    )


def _chi_square(lanes: list[LaneResult], mean: float | None) -> tuple[float | None, float | None]:
    if mean is None or len(lanes) < 2:
        return None, None
    if mean <= 0 or mean >= 1:
        return 0.0, 1.0
    from scipy.special import gammaincc

    chi2 = sum(
        (lane.makes - lane.attempts * mean) ** 2 / (lane.attempts * mean * (1 - mean))
        for lane in lanes
    )
    return chi2, float(gammaincc((len(lanes) - 1) / 2, chi2 / 2))


def dose_balance(
    done: Mapping[str, int], intended: Mapping[str, float]
) -> dict[str, tuple[float | None, float]]:
    """Lane -> (share of all reps done, intended share). done: reps; intended: any weights, summing
    to more than 0.
    """
    total, wanted = sum(done.values()), sum(intended.values())
    return {
        lane: (done.get(lane, 0) / total if total else None, weight / wanted)
        for lane, weight in intended.items()
    }
