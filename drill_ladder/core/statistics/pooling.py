"""Many small estimates put together: what they have in common, how much they really differ, and
each one drawn towards the middle as far as its own noise asks for.

Source: DerSimonian and Laird (1986), Meta-analysis in clinical trials: the method of moments for
random effects; the shrinking is the textbook's empirical Bayes. Checked against statsmodels.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt


@dataclass(frozen=True, slots=True)
class Pooled:
    """mean and its standard error; spread: standard deviation of the true values between cases
    (0 where noise explains all); n: estimates put together.
    """

    mean: float
    se: float
    spread: float
    n: int

    def shrunk(self, value: float, variance: float) -> tuple[float, float]:
        """(Best guess of one case's true value, its standard deviation), given its own estimate
        and that estimate's variance (> 0).
        """
        if self.spread == 0:
            return self.mean, self.se
        own = self.spread**2 / (self.spread**2 + variance)
        return self.mean + own * (value - self.mean), self.spread * sqrt(1 - own)


def pooled(values: Sequence[float], variances: Sequence[float]) -> Pooled | None:
    """Random effects over estimates with their variances (each > 0); None without any."""
    if not values:
        return None
    weights = [1 / v for v in variances]
    total = sum(weights)
    fixed = sum(w * x for w, x in zip(weights, values, strict=True)) / total
    heterogeneity = sum(w * (x - fixed) ** 2 for w, x in zip(weights, values, strict=True))
    scale = total - sum(w * w for w in weights) / total
    excess = heterogeneity - (len(values) - 1)
    between = max(0.0, excess / scale) if len(values) > 1 else 0.0
    weights = [1 / (v + between) for v in variances]
    total = sum(weights)
    mean = sum(w * x for w, x in zip(weights, values, strict=True)) / total
    return Pooled(mean, sqrt(1 / total), sqrt(between), len(values))
