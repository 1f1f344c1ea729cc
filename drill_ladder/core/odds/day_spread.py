"""Where days differ: on a day a player's true share is drawn about p, one draw for all lanes of the
day (docs/methods.md, 36).

x ~ Beta(p(1-r)/r, (1-p)(1-r)/r), r the day spread (an intra-day correlation). Every chance of a
session is its mean over that draw, by the trapezoidal rule in the normal score of the draw's
quantile, which converges geometrically for functions that fade like a normal density (Trefethen and
Weideman 2014, The exponentially convergent trapezoidal rule; from memory). Checked against
scipy.stats.betabinom.
"""

from collections.abc import Sequence
from functools import lru_cache
from math import ceil, prod, sqrt

import numpy as np
from scipy import special

from drill_ladder.core.odds.session_chances import (
    EarnedSession,
    LostSession,
    MakesSession,
    SessionChances,
    StreakSession,
    ToNSession,
    binom_tail,
)
from drill_ladder.core.thresholds import rounded_down, rounded_up

MOST_SPREAD = 0.5
SPAN = 8.0  # normal scores on either side: beyond lie less than 1e-15
FEWEST_NODES, MOST_NODES = 161, 8001
CROWDED = 0.6
Rates = Sequence[float]


@lru_cache(maxsize=512)
def _quantiles(p: float, r: float, count: int) -> np.ndarray:
    """The day's share at each node; p itself where nothing can differ."""
    scores = np.linspace(-SPAN, SPAN, count)
    if p <= 0 or p >= 1 or r <= 0:
        return np.full(count, p)
    a, b = p * (1 - r) / r, (1 - p) * (1 - r) / r
    low = special.betaincinv(a, b, special.ndtr(np.minimum(scores, 0)))
    high = 1 - special.betaincinv(b, a, special.ndtr(-np.maximum(scores, 0)))
    return np.where(scores <= 0, low, high)


@lru_cache(maxsize=32)
def _weights(count: int) -> np.ndarray:
    scores = np.linspace(-SPAN, SPAN, count)
    density = np.exp(-(scores**2) / 2)
    return np.asarray(density / density.sum())


def _nodes(rates: Rates, r: float, attempts: int) -> int:
    """As many as resolve the step that a session's chance takes over the day's share."""
    widest = max(sqrt(max(p * (1 - p), 0.0) * r) for p in rates)
    if any(min(p, 1 - p) * (1 - r) < r for p in rates):  # such a draw crowds at an end
        widest = max(widest, CROWDED)
    step = 0.25 / sqrt(max(1, attempts)) / max(widest, 1e-9)
    return int(min(MOST_NODES, max(FEWEST_NODES, 2 * ceil(SPAN / step) + 1)))


def spread_pass_and_low(session: SessionChances, p: Rates, r: float) -> tuple[float, float]:
    """(P(pass), P(low and not a pass)) of a session on a day as days are, one true rate for each
    lane; r: 0..0.5. Within 1e-6.
    """
    if r <= 0 or all(rate <= 0 or rate >= 1 for rate in p):
        return session.pass_and_low(p)
    if isinstance(session, MakesSession) and _is_one_pool(session, p):
        return _pooled(session, p[0], r)
    count = _nodes(p, r, _attempts(session))
    weights = _weights(count)
    shares = [_quantiles(rate, r, count) for rate in p]
    passing, floor = _marks(session)
    q = float(weights @ _reached(session, passing, shares))
    if floor is None:
        return _bounded(q), 0.0
    return _bounded(q), _bounded(1 - float(weights @ _reached(session, floor, shares)))


def reach_chance(n: int, needs: Sequence[int], rate: float, r: float) -> float:
    """P(each lane has its own need of n attempts) on a day as days are, all lanes at one rate."""
    if r <= 0 or rate <= 0 or rate >= 1:
        return prod(binom_tail(n, need, rate) for need in needs)
    count = _nodes([rate], r, n)
    shares = _quantiles(rate, r, count)
    return _bounded(float(_weights(count) @ np.prod([tails(n, k, shares) for k in needs], axis=0)))


def _is_one_pool(session: MakesSession, p: Rates) -> bool:
    return len(set(p)) == 1 and (session.lanes == 1 or not session.each_lane)


def _pooled(session: MakesSession, p: float, r: float) -> tuple[float, float]:
    """One pool of attempts: the beta-binomial itself."""
    passing, floor = _marks(session)
    n, a, b = session.reps, p * (1 - r) / r, (1 - p) * (1 - r) / r
    x = np.arange(n + 1)
    choose = special.gammaln(n + 1) - special.gammaln(x + 1) - special.gammaln(n - x + 1)
    pmf = np.exp(choose + special.betaln(x + a, n - x + b) - special.betaln(a, b))
    q = _bounded(float(pmf[max(0, passing) :].sum())) if passing <= n else 0.0
    return q, 0.0 if floor is None else _bounded(float(pmf[: max(0, floor)].sum()))


def _bounded(chance: float) -> float:
    return min(1.0, max(0.0, chance))


def _attempts(session: SessionChances) -> int:
    if isinstance(session, MakesSession):
        return session.n if session.each_lane else session.reps
    if isinstance(session, LostSession):
        return session.attempts_for(session.k)
    if isinstance(session, EarnedSession):
        return session.cap
    return session.n if isinstance(session, StreakSession) else session.k


def _marks(session: SessionChances) -> tuple[int, int | None]:
    """What a pass takes, and what keeps a session from being low, in the session's own unit."""
    floor = session.floor
    if isinstance(session, MakesSession):
        of = session.n if session.each_lane else session.reps
        wanted = session.k if session.each_lane else session.k * session.lanes
        return wanted, None if floor is None else min(wanted, rounded_up(floor * of))
    if isinstance(session, StreakSession | LostSession | EarnedSession):
        return session.k, None if floor is None else min(session.k, rounded_up(floor))
    return session.k, None if floor is None else max(session.k, rounded_down(floor))


def _reached(session: SessionChances, mark: int, shares: list[np.ndarray]) -> np.ndarray:
    """P(the mark is reached) at each node."""
    if isinstance(session, StreakSession):
        return run_chances(session.n, mark, shares[0])
    if isinstance(session, ToNSession):
        return tails(mark, session.good, shares[0])
    if isinstance(session, LostSession):
        return tails(session.attempts_for(mark), mark, shares[0])
    if isinstance(session, EarnedSession):
        return session.reached(mark, shares[0])
    return _makes_reached(session, mark, shares)


def _makes_reached(session: MakesSession, mark: int, shares: list[np.ndarray]) -> np.ndarray:
    if session.each_lane:
        return np.asarray(np.prod([tails(session.n, mark, x) for x in shares], axis=0))
    if all(x is shares[0] or np.array_equal(x, shares[0]) for x in shares):
        return tails(session.reps, mark, shares[0])
    return _sums(session.n, mark, shares)


def tails(n: int, k: int, shares: np.ndarray) -> np.ndarray:
    """P(X >= k) for X ~ Binomial(n, x) at each share."""
    if k <= 0:
        return np.ones_like(shares)
    if k > n:
        return np.zeros_like(shares)
    return np.asarray(special.betainc(k, n - k + 1, shares))


def _sums(n: int, k: int, shares: list[np.ndarray]) -> np.ndarray:
    """P(X1 + X2 + ... >= k) for binomials of n attempts with different shares, node by node."""
    if k <= 0:
        return np.ones_like(shares[0])
    x = np.arange(n + 1)
    logs = special.gammaln(n + 1) - special.gammaln(x + 1) - special.gammaln(n - x + 1)
    found = np.empty(len(shares[0]))
    for node in range(len(found)):
        total = np.ones(1)
        for lane in shares:
            p = lane[node]
            pmf = np.exp(logs + special.xlogy(x, p) + special.xlog1py(n - x, -p))
            total = np.convolve(total, pmf)
        found[node] = min(1.0, total[k:].sum())
    return found


def run_chances(n: int, r: int, shares: np.ndarray) -> np.ndarray:
    """P(a run of r or more good ones within n attempts) at each share; source as run_chance."""
    if r <= 0:
        return np.ones_like(shares)
    if r > n:
        return np.zeros_like(shares)
    first = shares**r
    found = [np.zeros_like(shares)] * r + [first]
    for m in range(r + 1, n + 1):
        found.append(found[m - 1] + (1 - shares) * first * (1 - found[m - r - 1]))
    return np.minimum(1.0, found[n])


def design_effect(attempts: float, r: float) -> float:
    """By how much a day of so many attempts counts less. Source: Kish (1965), Survey sampling, from
    memory.
    """
    return 1.0 + max(0.0, attempts - 1) * r


def shares_of_day(p: np.ndarray, r: float, chance: np.random.Generator) -> np.ndarray:
    """A day's shares about true ones, (runs, lanes): one draw of a day for all of its lanes."""
    if r <= 0:
        return p
    drawn = chance.uniform(size=(len(p), 1))
    safe = np.clip(p, 1e-12, 1 - 1e-12)
    a, b = safe * (1 - r) / r, (1 - safe) * (1 - r) / r
    if (p == p[:, :1]).all():
        return np.where((p > 0) & (p < 1), special.betaincinv(a[:, :1], b[:, :1], drawn), p)
    return np.where((p > 0) & (p < 1), special.betaincinv(a, b, drawn), p)
