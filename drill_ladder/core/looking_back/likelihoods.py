"""What a day tells of a player's level: good ones counted, or a score about it that days blur."""

from dataclasses import dataclass
from typing import Protocol

import numpy as np
from scipy.special import expit

STEADY_DAYS = 5.0  # a rung's own noise begins with the weight of so many days of all rungs
LEAST_NOISE = 1e-6  # of scores whose spread is one


class Likelihood(Protocol):
    """Of days in their order; levels: what is expected of each, in the model's unit."""

    def slope(self, levels: np.ndarray) -> np.ndarray:
        """Of the log-likelihood by each day's level."""
        ...

    def weights(self, levels: np.ndarray) -> np.ndarray:
        """What each day tells of its level: the curvature there."""
        ...

    def learn(self, levels: np.ndarray, unsure: np.ndarray) -> None:
        """What days differ by, from what is expected and the variances of that."""
        ...

    def steeper(self, levels: np.ndarray) -> float:
        """By how much one day's line is steeper than the one over many days."""
        ...


@dataclass(frozen=True, slots=True)
class Counts:
    """attempts, makes: of each day, already less by what the day has in common."""

    attempts: np.ndarray
    makes: np.ndarray
    day_spread: float

    @classmethod
    def of(cls, attempts: np.ndarray, makes: np.ndarray, day_spread: float) -> "Counts":
        """day_spread: 0..0.5, by which the counts of one day count less."""
        less = 1 + np.maximum(0.0, attempts - 1) * day_spread
        return cls(attempts / less, makes / less, day_spread)

    def slope(self, levels: np.ndarray) -> np.ndarray:
        """Binomial."""
        return np.asarray(self.makes - self.attempts * expit(levels))

    def weights(self, levels: np.ndarray) -> np.ndarray:
        """Binomial."""
        shares = expit(levels)
        return np.asarray(self.attempts * shares * (1 - shares))

    def learn(self, levels: np.ndarray, unsure: np.ndarray) -> None:
        """The day spread is the club's, measured elsewhere."""

    def steeper(self, levels: np.ndarray) -> float:
        """Source: Zeger, Liang and Albert (1988), Models for longitudinal data, from memory."""
        shares = expit(levels)
        noise = self.day_spread / max(0.05, float((shares * (1 - shares)).mean()))
        return float(np.sqrt(1 + (16 * np.sqrt(3) / (15 * np.pi)) ** 2 * noise))


@dataclass(slots=True)
class Scores:
    """scores: of each day, about a mean of nothing with a spread of one; rungs: of each, from 0;
    noise: typical error of a day on each rung, learnt on the way.
    """

    scores: np.ndarray
    rungs: np.ndarray
    noise: np.ndarray

    @classmethod
    def of(cls, scores: np.ndarray, rungs: np.ndarray) -> "Scores":
        """Days that differ by half of everything, to begin with."""
        return cls(scores, rungs, np.full(int(rungs.max()) + 1, 0.5))

    def slope(self, levels: np.ndarray) -> np.ndarray:
        """Normal."""
        return np.asarray((self.scores - levels) * self.weights(levels))

    def weights(self, levels: np.ndarray) -> np.ndarray:
        """By the typical error of the day's rung."""
        return np.asarray(1 / self.noise[self.rungs] ** 2)

    def learn(self, levels: np.ndarray, unsure: np.ndarray) -> None:
        """Each rung's from its own days, steadied by those of all."""
        squares = (self.scores - levels) ** 2 + unsure
        all_days = float(squares.mean())
        sums = np.bincount(self.rungs, squares, minlength=len(self.noise))
        counts = np.bincount(self.rungs, minlength=len(self.noise))
        steadied = (sums + STEADY_DAYS * all_days) / (counts + STEADY_DAYS)
        self.noise = np.sqrt(np.maximum(LEAST_NOISE, steadied))

    def steeper(self, levels: np.ndarray) -> float:
        """A straight line is as steep on every day."""
        return 1.0
