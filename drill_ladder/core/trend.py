"""Is it getting better? Theil-Sen slope with Kendall's tau (design, section 8)."""

from collections.abc import Sequence
from datetime import date
from statistics import median

Point = tuple[date, float]


def theil_sen_slope(points: Sequence[Point]) -> float:
    """Median of the slopes between all pairs of points, per week.

    points: (day, score), days all different, at least two. Source: Theil (1950), Sen (1968); checked against
    scipy.stats.theilslopes. Plain Python on purpose: `decide` uses it and must start fast.
    """
    return 7 * median(
        (later - earlier) / (b - a).days for i, (a, earlier) in enumerate(points) for b, later in points[i + 1 :]
    )
