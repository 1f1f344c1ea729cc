"""A straight line on the log-odds of counts, by maximum likelihood. Source: iteratively reweighted
least squares (Newton), McCullagh and Nelder (1989); checked against statsmodels.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.special import expit

ROUNDS, CLOSE = 100, 1e-11
RIDGE = 1e-10  # against days that separate made from missed without any overlap
STEEPEST = 30.0


@dataclass(frozen=True, slots=True)
class Counts:
    """Days (numbers, any origin) with attempts and makes."""

    days: np.ndarray
    attempts: np.ndarray
    makes: np.ndarray

    @classmethod
    def of(cls, rows: Sequence[tuple[int, int, int]]) -> "Counts":
        """From (day, attempts, makes)."""
        table = np.asarray(rows, dtype=float)
        return cls(table[:, 0] - table[:, 0].min(), table[:, 1], table[:, 2])

    @property
    def one_sided(self) -> bool:
        """Whether all were made, or all missed."""
        return bool(self.makes.sum() in (0, self.attempts.sum()))

    @property
    def one_day(self) -> bool:
        """Whether all lie on one day, so that there is no slope."""
        return bool(np.ptp(self.days) == 0)


@dataclass(frozen=True, slots=True)
class LogitLine:
    """log-odds = level + slope x (day - middle); slope 0 where all lie on one day. variance: of the
    slope, at a dispersion of 1.
    """

    level: float
    slope: float
    middle: float
    variance: float

    def shares(self, days: np.ndarray) -> np.ndarray:
        """The fitted share of each day, 0..1."""
        return np.asarray(expit(self.level + self.slope * (days - self.middle)))


def logit_line(counts: Counts) -> LogitLine:
    """The most likely line."""
    middle = float(counts.days.mean())
    centred = counts.days - middle
    scale = float(np.abs(centred).max()) or 1.0
    design = np.column_stack([np.ones_like(centred), centred / scale])
    free = 1 if counts.one_day else 2
    beta = np.zeros(free)
    beta[0] = np.log(
        (counts.makes.sum() + 0.5) / (counts.attempts.sum() - counts.makes.sum() + 0.5)
    )
    x = design[:, :free]
    for _ in range(ROUNDS):
        shares = expit(x @ beta)
        weights = counts.attempts * shares * (1 - shares)
        hessian = x.T @ (weights[:, None] * x) + RIDGE * np.eye(free)
        step = np.linalg.solve(
            hessian, x.T @ (counts.makes - counts.attempts * shares) - RIDGE * beta
        )
        beta = np.clip(beta + np.clip(step, -2, 2), -STEEPEST, STEEPEST)
        if np.abs(step).max() < CLOSE:
            break
    if free == 1:
        return LogitLine(float(beta[0]), 0.0, middle, 0.0)
    shares = expit(x @ beta)
    weights = counts.attempts * shares * (1 - shares)
    covariance = np.linalg.inv(x.T @ (weights[:, None] * x) + RIDGE * np.eye(free))
    return LogitLine(
        float(beta[0]), float(beta[1]) / scale, middle, float(covariance[1, 1]) / scale**2
    )
