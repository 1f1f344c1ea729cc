"""Small probability tools. scipy is loaded only where a beta tail is asked for, so that `decide`
starts fast.
"""

from collections.abc import Callable
from functools import lru_cache
from math import exp, lgamma, log1p


def _log_beta(a: float, b: float) -> float:
    return lgamma(a) + lgamma(b) - lgamma(a + b)


@lru_cache(maxsize=4096)
def _log_choose(n: int, k: int) -> float:
    return -log1p(n) - _log_beta(n - k + 1, k + 1)


def beta_binomial_pmf(n: int, x: int, a: float, b: float) -> float:
    """P(X = x) for X ~ BetaBinomial(n, a, b). Source: the standard closed form with log-gamma."""
    return exp(_log_choose(n, x) + _log_beta(x + a, n - x + b) - _log_beta(a, b))


def beta_binomial_tail(n: int, k: int, a: float, b: float) -> float:
    """P(X >= k): the chance of k or more makes in the next n at the present posterior
    Beta(a, b).
    """
    if k <= 0:
        return 1.0
    if k > n:
        return 0.0
    head = n - k + 1 > k
    total = sum(beta_binomial_pmf(n, x, a, b) for x in (range(k) if head else range(k, n + 1)))
    return min(1.0, max(0.0, 1 - total if head else total))


def beta_above() -> Callable[[float, float, float], float]:
    """A function (a, b, target) -> P(rate >= target) for rate ~ Beta(a, b); loads scipy on first
    use.
    """
    from scipy.special import betaincc

    return lambda a, b, target: float(betaincc(a, b, min(1.0, max(0.0, target))))


NODES, SPAN = 121, 8.0


def spread_pmf(n: int, a: float, b: float, r: float) -> list[float]:
    """P(X = x), x 0..n, on the next day where days differ: p ~ Beta(a, b), the day's own share
    about p with the day spread r > 0. By the trapezoidal rule in the normal score of p's quantile.
    """
    import numpy as np
    from scipy.special import betaincinv, betaln, gammaln, ndtr

    scores = np.linspace(-SPAN, SPAN, NODES)
    weights = np.exp(-(scores**2) / 2)
    low = betaincinv(a, b, ndtr(np.minimum(scores, 0)))
    high = 1 - betaincinv(b, a, ndtr(-np.maximum(scores, 0)))
    p = np.clip(np.where(scores <= 0, low, high), 1e-9, 1 - 1e-9)[:, None]
    of_day = (1 - r) / r
    x = np.arange(n + 1)[None, :]
    choose = gammaln(n + 1) - gammaln(x + 1) - gammaln(n - x + 1)
    up, down = p * of_day, (1 - p) * of_day
    table = np.exp(choose + betaln(x + up, n - x + down) - betaln(up, down))
    return list((weights / weights.sum()) @ table)


def spread_tail(n: int, k: int, a: float, b: float, r: float) -> float:
    """P(X >= k) of the same."""
    return min(1.0, max(0.0, sum(spread_pmf(n, a, b, r)[max(0, k) :]))) if k <= n else 0.0
