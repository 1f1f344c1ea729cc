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
