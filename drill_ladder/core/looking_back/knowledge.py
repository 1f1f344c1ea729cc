"""What a club's learning model knows of some players and a ladder, and draws of it: what is not
known for all is drawn once a run and is the same for everybody in it (docs/methods.md, 37).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import fmean

import numpy as np

from drill_ladder.core.looking_back.one_model import STEADY, ClubModel

SMALL = 1e-9  # so that rounding leaves a covariance that can be drawn from


@dataclass(frozen=True, slots=True)
class Draws:
    """All on the log-odds of a good one over many days, one column a run. level: of each player on
    the first rung before the first session; gain: with each session; steps: what each rung costs on
    arriving, the first nothing.
    """

    level: np.ndarray
    gain: np.ndarray
    steps: np.ndarray

    @property
    def runs(self) -> int:
        """How many."""
        return self.level.shape[1]

    def now(self, player: int, place: int, before: int) -> np.ndarray:
        """A player's log-odds on a rung (from 0) after so many sessions on the ladder."""
        climbed = self.steps[: place + 1].sum(axis=0)
        return np.asarray(self.level[player] + self.gain[player] * before - climbed)


@dataclass(frozen=True, slots=True)
class Known:
    """mean, covariance: of each player's level, then of each one's gain, then of the steps from
    rung to rung. noise: as the model's; freedom: degrees of it in what steps differ by, which few
    of them tell: drawn by Student's t.
    """

    players: int
    mean: np.ndarray
    covariance: np.ndarray
    noise: tuple[float, ...] = ()
    freedom: float = 30.0

    @property
    def rungs(self) -> int:
        """How many rungs are known of."""
        return len(self.mean) - 2 * self.players + 1

    def drawn(self, runs: int, seed: int = 0) -> Draws:
        """Seeded: the same seed gives the same luck."""
        chance = np.random.default_rng([seed, 37])
        root = np.linalg.cholesky(self.covariance + SMALL * np.eye(len(self.mean)))
        apart = root @ chance.standard_normal((len(self.mean), runs))
        n = self.players
        apart[2 * n :] *= np.sqrt(self.freedom / chance.chisquare(self.freedom, runs))
        found = self.mean[:, None] + apart
        steps = np.vstack([np.zeros(runs), found[2 * n :]])
        return Draws(found[:n], found[n : 2 * n], steps)

    def form(self, place: int, before: int) -> tuple[float, float]:
        """(Mean, standard deviation) of the first player's log-odds on a rung (from 0) after so
        many sessions on the ladder.
        """
        weights = np.zeros(len(self.mean))
        weights[0], weights[self.players] = 1, before
        weights[2 * self.players : 2 * self.players + place] = -1
        spread = float(weights @ self.covariance @ weights)
        return float(weights @ self.mean), float(np.sqrt(max(0.0, spread)))

    def noise_on(self, place: int) -> float:
        """Typical error of a day's score on a rung (from 0); of all where nobody stood on it."""
        if place < len(self.noise):
            return self.noise[place]
        return sqrt(fmean(one**2 for one in self.noise)) if self.noise else 0.0

    def step(self, place: int) -> float:
        """What arriving on a rung (from 0) costs, as far as is known."""
        return float(self.mean[2 * self.players + place - 1]) if place else 0.0


def known(model: ClubModel, players: Sequence[str], rungs: int) -> Known:
    """Of some players, whether they were in the model or not, on a ladder of so many rungs, whether
    anybody stood on them or not: whoever is new is drawn from the club.
    """
    names = {name: at for at, name in enumerate(model.players)}
    n, steps = len(names), len(model.steps)
    size = 2 * len(players) + rungs - 1
    picks, own = np.zeros((size, len(model.mean))), np.zeros(size)
    for row, name in enumerate(players):
        for offset, mean_at in ((0, 0), (1, 1)):
            at = row + offset * len(players)
            picks[at, mean_at] = 1
            if name in names:
                picks[at, 3 + offset * n + names[name]] = 1
            else:
                own[at] = model.spreads[offset] ** 2
    for step in range(rungs - 1):
        at = 2 * len(players) + step
        picks[at, 2] = 1
        if step < steps:
            picks[at, 3 + 2 * n + step] = 1
        else:
            own[at] = model.spreads[2] ** 2
    covariance = picks @ model.covariance @ picks.T + np.diag(own)
    freedom = len(model.steps) + STEADY
    return Known(len(players), picks @ model.mean, covariance, model.noise, freedom)
