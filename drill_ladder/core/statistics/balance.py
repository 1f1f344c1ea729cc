"""Balance between lanes: is a gap real, how to share practice, how to share the work in play
(design, section 10).
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from drill_ladder.core.statistics.intervals import newcombe
from drill_ladder.core.thresholds import TOLERANCE

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
    cover in play.
    """

    gap: float | None
    low: float | None
    high: float | None
    real: bool
    weaker: str | None
    practice_share: float | None
    cover_share: float | None


def two_lanes(first: LaneResult, second: LaneResult) -> Gap:
    """Compare two lanes. A gap is real only when its interval excludes 0.

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
    real = low > TOLERANCE or high < -TOLERANCE
    return Gap(r1 - r2, low, high, real, weaker, practice, 1 - strong)


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
