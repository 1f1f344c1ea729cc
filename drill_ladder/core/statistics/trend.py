"""Is it getting better? Theil-Sen slope with Kendall's tau (design, section 8)."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from itertools import combinations
from math import isnan
from statistics import fmean, median

from drill_ladder.core.errors import CoreError
from drill_ladder.core.thresholds import TOLERANCE

Point = tuple[date, float]
FEWEST, MOST = 5, 3000


def theil_sen_slope(points: Sequence[Point]) -> float:
    """Median of the slopes between all pairs of points, per week.

    points: (day, score), days all different, at least two. Source: Theil (1950), Sen (1968);
    checked against scipy.stats.theilslopes. Plain Python on purpose: `decide` uses it and must
    start fast.
    """
    days = [(on.toordinal(), score) for on, score in points]
    return 7 * median(
        [(later - earlier) / (b - a) for (a, earlier), (b, later) in combinations(days, 2)]
    )


@dataclass(frozen=True, slots=True)
class Trend:
    """verdict: improving, flat, worsening or too_few; slope with its 90 % interval in score units
    per week.
    """

    verdict: str
    slope_per_week: float | None
    low: float | None
    high: float | None
    p: float | None
    n: int


def daily(points: Sequence[Point]) -> list[Point]:
    """Points of one day averaged, oldest first."""
    days: dict[date, list[float]] = {}
    for on, score in points:
        days.setdefault(on, []).append(score)
    return [(on, fmean(days[on])) for on in sorted(days)]


def trend_of(points: Sequence[Point], higher_is_better: bool) -> Trend:
    """The trend over at least five days; the slope keeps its sign whatever is better.

    Source: scipy.stats.theilslopes (90 %) and scipy.stats.kendalltau. Raises CoreError for over
    3000 days.
    """
    days = daily(points)
    if len(days) < FEWEST:
        return Trend("too_few", None, None, None, None, len(days))
    if len(days) > MOST:
        raise CoreError(f"a trend over {len(days)} days is too long (at most {MOST})")
    from scipy import stats

    weeks = [(on - days[0][0]).days / 7 for on, _ in days]
    scores = [score for _, score in days]
    slope, _, low, high = (float(x) for x in stats.theilslopes(scores, weeks, 0.90))
    alike = max(scores) == min(scores)
    p = None if alike else float(stats.kendalltau(weeks, scores).pvalue)
    p = None if p is None or isnan(p) else p
    return Trend(_verdict(low, high, higher_is_better), slope, low, high, p, len(days))


def _verdict(low: float, high: float, higher_is_better: bool) -> str:
    if low > TOLERANCE:
        return "improving" if higher_is_better else "worsening"
    if high < -TOLERANCE:
        return "worsening" if higher_is_better else "improving"
    return "flat"


def best_so_far(scores: Sequence[float], higher_is_better: bool) -> float | None:
    """The best score, None without any."""
    return (max if higher_is_better else min)(scores, default=None)


def last_against_before(scores: Sequence[float], span: int = 4) -> tuple[float, float] | None:
    """(mean of the last `span` scores, mean of the `span` before); None with fewer than two
    spans.
    """
    if len(scores) < 2 * span:
        return None
    return fmean(scores[-span:]), fmean(scores[-2 * span : -span])
