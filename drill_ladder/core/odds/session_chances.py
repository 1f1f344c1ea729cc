"""The chance that one session passes or is low, given the player's true rate (docs/methods.md, 5).

A session is described by its own small class; each gives pass_and_low(p) -> (q, l), l being low and
not a pass.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import prod

import numpy as np
import scipy

from drill_ladder.core.thresholds import rounded_down, rounded_up

Rates = Sequence[float]


def binom_tail(n: int, k: int, p: float) -> float:
    """P(X >= k) for X ~ Binomial(n, p), by the regularised incomplete beta function; source:
    scipy.special.bdtrc.
    """
    if k <= 0:
        return 1.0
    if k > n:
        return 0.0
    return float(scipy.special.betainc(k, n - k + 1, p))


@dataclass(frozen=True, slots=True)
class MakesSession:
    """n attempts in each of `lanes` lanes, k of them wanted; floor: a rate 0..1 or None.

    each_lane: every lane for itself; otherwise the sum over lanes, at least k x lanes of n x lanes.
    """

    n: int
    k: int
    lanes: int = 1
    each_lane: bool = False
    floor: float | None = None

    @property
    def reps(self) -> int:
        """Attempts in one session, all lanes together."""
        return self.n * self.lanes

    def pass_and_low(self, p: Rates) -> tuple[float, float]:
        """(P(pass), P(low and not a pass)) at one true rate for each lane."""
        of = self.n if self.each_lane else self.reps
        wanted = self.k if self.each_lane else self.k * self.lanes
        q = self._all_at_least(wanted, p)
        if self.floor is None:
            return q, 0.0
        return q, 1 - self._all_at_least(min(wanted, rounded_up(self.floor * of)), p)

    def _all_at_least(self, k: int, p: Rates) -> float:
        if self.each_lane:
            return prod(binom_tail(self.n, k, rate) for rate in p)
        if len(set(p)) == 1:
            return binom_tail(self.reps, k, p[0])
        return _sum_tail(self.n, k, p)


def _sum_tail(n: int, k: int, p: Rates) -> float:
    """P(X1 + X2 + ... >= k) for independent binomials of n attempts with different rates, by
    convolution.
    """
    if k <= 0:
        return 1.0
    total = np.ones(1)
    for rate in p:
        total = np.convolve(total, scipy.stats.binom.pmf(np.arange(n + 1), n, rate))
    return float(min(1.0, total[k:].sum()))


def run_chance(n: int, r: int, p: float) -> float:
    """P(a run of r or more good ones within n attempts).

    Recursion over attempts on the length of the current run: f(m) = f(m-1) + (1 - p) p^r (1 -
    f(m-r-1)). Source: the classical run recursion (Feller's book has it, from memory); a fair coin,
    5 within 100: 0.8101.
    """
    if r <= 0:
        return 1.0
    if r > n:
        return 0.0
    found = [0.0] * (n + 1)
    found[r] = p**r
    for m in range(r + 1, n + 1):
        found[m] = found[m - 1] + (1 - p) * p**r * (1 - found[m - r - 1])
    return min(1.0, found[n])


@dataclass(frozen=True, slots=True)
class StreakSession:
    """n attempts in one lane, a run of k wanted; floor: a run or None."""

    n: int
    k: int
    floor: float | None = None

    @property
    def reps(self) -> int:
        """Attempts in one session."""
        return self.n

    def pass_and_low(self, p: Rates) -> tuple[float, float]:
        """(P(pass), P(low and not a pass))."""
        q = run_chance(self.n, self.k, p[0])
        if self.floor is None:
            return q, 0.0
        return q, 1 - run_chance(self.n, min(self.k, rounded_up(self.floor)), p[0])


@dataclass(frozen=True, slots=True)
class ToNSession:
    """Attempts until `good` good ones, at most k of them wanted; floor: attempts or None."""

    good: int
    k: int
    floor: float | None = None

    @property
    def reps(self) -> int:
        """One set: its attempts are not known beforehand."""
        return 1

    def pass_and_low(self, p: Rates) -> tuple[float, float]:
        """(P(pass), P(low and not a pass)); source: the negative binomial is a binomial tail on the
        attempts.
        """
        q = binom_tail(self.k, self.good, p[0])
        if self.floor is None:
            return q, 0.0
        return q, 1 - binom_tail(max(self.k, rounded_down(self.floor)), self.good, p[0])


@dataclass(frozen=True, slots=True)
class LostSession:
    """One set until `lost` misses, at least k good ones wanted; floor: good ones or None."""

    lost: int
    k: int
    floor: float | None = None

    @property
    def reps(self) -> int:
        """One set: its attempts are not known beforehand."""
        return 1

    def attempts_for(self, makes: int) -> int:
        """Attempts within which so many good ones have to come: before the last of the misses."""
        return makes + self.lost - 1

    def pass_and_low(self, p: Rates) -> tuple[float, float]:
        """(P(pass), P(low and not a pass)); source: the negative binomial is a binomial tail on the
        attempts: k good ones before the last miss are k of k + lost - 1.
        """
        q = binom_tail(self.attempts_for(self.k), self.k, p[0])
        if self.floor is None:
            return q, 0.0
        least = min(self.k, rounded_up(self.floor))
        return q, 1 - binom_tail(self.attempts_for(least), least, p[0])


@dataclass(frozen=True, slots=True)
class EarnedSession:
    """One set of n attempts to which every `earn` good ones add as many more, up to cap: at least k
    good ones wanted; floor: good ones or None.
    """

    n: int
    earn: int
    cap: int
    k: int
    floor: float | None = None

    @property
    def reps(self) -> int:
        """One set: its attempts are not known beforehand."""
        return 1

    def pass_and_low(self, p: Rates) -> tuple[float, float]:
        """(P(pass), P(low and not a pass))."""
        share = np.array([p[0]])
        q = float(self.reached(self.k, share)[0])
        if self.floor is None:
            return q, 0.0
        return q, 1 - float(self.reached(min(self.k, rounded_up(self.floor)), share)[0])

    def reached(self, mark: int, shares: np.ndarray) -> np.ndarray:
        """P(at least so many good ones) at each rate, attempt by attempt: who has used what was
        earned is out, and everybody else misses or has one more.
        """
        good = np.arange(self.cap + 1)
        allowed = np.minimum(self.cap, self.n + self.earn * (good // self.earn))
        chance = np.zeros((self.cap + 1, len(shares)))
        chance[0] = 1
        for attempt in range(self.cap):
            going = np.where((allowed > attempt)[:, None], chance, 0)
            chance = chance - going * shares
            chance[1:] += (going * shares)[:-1]
        return chance[max(0, mark) :].sum(axis=0)


SessionChances = MakesSession | StreakSession | ToNSession | LostSession | EarnedSession
