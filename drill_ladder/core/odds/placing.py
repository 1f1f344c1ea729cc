"""Placing on fine ladders: what is known of the level is a curve over a grid, and each set is asked
where it tells the most (docs/methods.md, 45).

Source: Kontsevich and Tyler (1999), Bayesian adaptive estimation of psychometric slope and
threshold; Watson (2017), QUEST+; both from memory.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.special import expit, gammaln

from drill_ladder.core.judging.placement import MOST_SETS, Probe
from drill_ladder.core.thresholds import at_least

LEVELS = np.linspace(-4.0, 4.0, 401)
USUAL_SET = 5  # attempts of a set, before there was any
SURE = (0.1, 0.9)  # an 80 % interval
NARROW = 1.5  # rungs: narrower than that nothing is asked any more


@dataclass(frozen=True, slots=True)
class FinePlacement:
    """next: the rung to probe (from 0), None when done; fitted: (rung, rate) of every rung; start:
    None before any set; level, low, high: log-odds on the first rung, with 80 % between.
    """

    next: int | None
    fitted: list[tuple[int, float]]
    start: int | None
    level: float
    low: float
    high: float


def place_finely(
    rungs: int, probes: Sequence[Probe], step: float, zone: tuple[float, float]
) -> FinePlacement:
    """step: log-odds between two rungs, above 0."""
    shares = expit(LEVELS[None, :] - step * np.arange(rungs)[:, None])
    known = _posterior(probes, shares)
    low, high = (_quantile(known, share) for share in SURE)
    rates = shares @ known
    fitted = [(rung, float(rate)) for rung, rate in enumerate(rates)]
    done = len(probes) >= MOST_SETS or (bool(probes) and high - low <= NARROW * step)
    attempts = sorted(p.attempts for p in probes)[len(probes) // 2] if probes else USUAL_SET
    upcoming = None if done else _most_told(known, shares, attempts)
    good = [rung for rung, rate in fitted if at_least(rate, zone[0])]
    lowest = good[-1] if good else 0
    start = lowest if probes else None
    return FinePlacement(upcoming, fitted, start, float(LEVELS @ known), low, high)


def _posterior(probes: Sequence[Probe], shares: np.ndarray) -> np.ndarray:
    """Even before the first set."""
    logs = np.zeros(len(LEVELS))
    for probe in probes:
        p = np.clip(shares[probe.rung], 1e-12, 1 - 1e-12)
        logs += probe.makes * np.log(p) + (probe.attempts - probe.makes) * np.log1p(-p)
    weights = np.exp(logs - logs.max())
    return np.asarray(weights / weights.sum())


def _quantile(known: np.ndarray, share: float) -> float:
    return float(np.interp(share, np.cumsum(known), LEVELS))


def _most_told(known: np.ndarray, shares: np.ndarray, attempts: int) -> int:
    """The rung whose set leaves the least open on average; the easiest of equals."""
    left = [_left_open(known, p, attempts) for p in shares]
    least = min(left)
    return next(rung for rung, one in enumerate(left) if one <= least + 1e-9)


def _left_open(known: np.ndarray, p: np.ndarray, attempts: int) -> float:
    """Expected entropy after a set of so many attempts."""
    x = np.arange(attempts + 1)[:, None]
    p = np.clip(p, 1e-12, 1 - 1e-12)[None, :]
    chance = np.exp(_chosen(attempts)[:, None] + x * np.log(p) + (attempts - x) * np.log1p(-p))
    joint = chance * known[None, :]
    seen = joint.sum(axis=1, keepdims=True)
    after = joint / np.maximum(seen, 1e-300)
    entropy = -(after * np.log(np.maximum(after, 1e-300))).sum(axis=1)
    return float(seen[:, 0] @ entropy)


@lru_cache(maxsize=64)
def _chosen(n: int) -> np.ndarray:
    x = np.arange(n + 1)
    return np.asarray(gammaln(n + 1) - gammaln(x + 1) - gammaln(n - x + 1))
