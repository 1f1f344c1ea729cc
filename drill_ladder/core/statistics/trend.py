"""Is it getting better? Theil-Sen slope with Kendall's tau (docs/methods.md, 8)."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from itertools import combinations
from math import isnan
from statistics import fmean, median
from typing import TYPE_CHECKING

from drill_ladder.core.errors import CoreError
from drill_ladder.core.thresholds import TOLERANCE

if TYPE_CHECKING:
    from drill_ladder.core.statistics.logit import Counts, LogitLine

Point = tuple[date, float]
FEWEST, MOST = 5, 3000
LOGIT = "logit"


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
    per week; method: theil_sen, or logit for counts (then in shares a week).
    """

    verdict: str
    slope_per_week: float | None
    low: float | None
    high: float | None
    p: float | None
    n: int
    method: str = "theil_sen"


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


def trend_of_counts(points: Sequence[tuple[date, int, int]]) -> Trend:
    """The trend of (day, attempts, makes) over at least five days: a straight line on the log-odds,
    told as the fitted share's change a week at the middle day, with its 90 % interval. The
    dispersion is estimated and at least 1, so that days may differ by more than chance.

    Source: quasi-binomial logistic regression, McCullagh and Nelder (1989); checked against
    statsmodels' GLM.
    """
    days: dict[date, list[int]] = {}
    for on, attempts, makes in points:
        pooled = days.setdefault(on, [0, 0])
        pooled[0], pooled[1] = pooled[0] + attempts, pooled[1] + makes
    rows = [(on.toordinal(), n, made) for on, (n, made) in sorted(days.items()) if n]
    if len(rows) < FEWEST:
        return Trend("too_few", None, None, None, None, len(rows), LOGIT)
    from drill_ladder.core.statistics.logit import Counts, logit_line

    counts = Counts.of(rows)
    if counts.one_sided:
        return Trend("flat", 0.0, 0.0, 0.0, None, len(rows), LOGIT)
    return _logit_trend(logit_line(counts), counts, len(rows))


def _logit_trend(line: "LogitLine", counts: "Counts", n: int) -> Trend:
    from math import sqrt

    from scipy.special import expit, stdtr, stdtrit

    shares = line.shares(counts.days)
    spread = counts.attempts * shares * (1 - shares)
    known = spread > 1e-9
    off = (counts.makes - counts.attempts * shares)[known]
    dispersion = max(1.0, float((off**2 / spread[known]).sum()) / (n - 2))
    error = sqrt(line.variance * dispersion)
    middle = float(expit(line.level))
    a_week = 7 * middle * (1 - middle)
    half = float(stdtrit(n - 2, 0.95)) * error
    low, high = (line.slope - half) * a_week, (line.slope + half) * a_week
    p = float(2 * stdtr(n - 2, -abs(line.slope) / error)) if error > 0 else None
    return Trend(_verdict(low, high, True), line.slope * a_week, low, high, p, n, LOGIT)


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
