"""One learning model of a club (docs/methods.md, 37).

logit P(good), or the score itself, = a of the player + g of the player x (full sessions on the
ladder before) - (steps up to the rung); a, g and the steps are each drawn about a mean of the
club's own. Penalised regression by Newton; the spreads, and the noise of a day's score, by an EM on
the Laplace approximation; standard errors by the inverse of the penalised Hessian. Sources: Breslow
and Clayton (1993), Approximate inference in generalized linear mixed models; Laird and Ware (1982)
for the EM; both from memory.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.linalg import cho_factor, cho_solve
from scipy.sparse import csr_matrix
from scipy.stats import t as t_dist

from drill_ladder.core.looking_back.likelihoods import Counts, Likelihood, Scores

FEWEST_DAYS, FEWEST_PLAYERS = 10, 2
ROUNDS, INNER = 60, 25
CLOSE = 1e-3
VAGUE = 1e-3  # weight of the means themselves, on the log-odds: so wide that it says nothing
LEAST = 1e-3  # least spread that is believed, on the log-odds
FIRST_SPREADS = (1.0, 0.1, 0.5)  # of levels, gains and steps, to begin with
STEADY = 3.0  # a spread begins with the weight of so many players: few of them say little of it


@dataclass(frozen=True, slots=True)
class DayOf:
    """A full day of a player. rung: from the easiest, from 1; before: full sessions on the ladder
    before it.
    """

    player: str
    rung: int
    before: int
    attempts: int
    makes: int


@dataclass(frozen=True, slots=True)
class ScoreOf:
    """A full day of a player, as DayOf. score: higher is better; times on their logarithm."""

    player: str
    rung: int
    before: int
    score: float


@dataclass(frozen=True, slots=True)
class Interval:
    """A value on the log-odds, or in the scores' unit, with its 95 % interval."""

    value: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Learnt:
    """level: on rung 1 before the first session; gain: a session."""

    level: Interval
    gain: Interval


@dataclass(frozen=True, slots=True)
class ClubModel:
    """gain: of the club; steps: from rung to rung, the first from 1 to 2; players: by their ids, in
    their order. mean, covariance: of everything that was estimated, for whoever simulates. noise:
    typical error of a day's score on each rung that was seen, from 1; empty where good ones are
    counted.
    """

    gain: Interval
    steps: list[Interval]
    players: dict[str, Learnt]
    mean: np.ndarray
    covariance: np.ndarray
    spreads: tuple[float, float, float]
    noise: tuple[float, ...] = ()


def club_model(days: Sequence[DayOf], day_spread: float = 0.05) -> ClubModel | None:
    """The club's model; None with too few days or players. day_spread: 0..0.5, by which the counts
    of one day count less.
    """
    players = _players(days)
    if players is None:
        return None
    attempts = np.array([day.attempts for day in days], dtype=float)
    makes = np.array([day.makes for day in days], dtype=float)
    return _Fit.of(days, players, Counts.of(attempts, makes, day_spread)).run()


def score_model(days: Sequence[ScoreOf]) -> ClubModel | None:
    """The club's model of scores; None with too few days or players, or where all are the same."""
    players = _players(days)
    scores = np.array([day.score for day in days])
    if players is None or np.ptp(scores) == 0:
        return None
    middle, unit = float(scores.mean()), float(scores.std())
    rungs = np.array([day.rung - 1 for day in days])
    likelihood = Scores.of((scores - middle) / unit, rungs)
    model = _Fit.of(days, players, likelihood).run()
    return _in_unit(model, middle, unit, likelihood.noise)


def _players(days: Sequence[DayOf | ScoreOf]) -> list[str] | None:
    players = list(dict.fromkeys(day.player for day in days))
    return players if len(days) >= FEWEST_DAYS and len(players) >= FEWEST_PLAYERS else None


def _in_unit(model: ClubModel, middle: float, unit: float, noise: np.ndarray) -> ClubModel:
    """From scores about nothing with a spread of one to the scores' own."""

    def told(one: Interval, more: float = 0.0) -> Interval:
        return Interval(*(more + unit * x for x in (one.value, one.low, one.high)))

    mean = unit * model.mean
    mean[0] += middle
    a, b, c = model.spreads
    return replace(
        model,
        gain=told(model.gain),
        steps=[told(step) for step in model.steps],
        players={
            id: Learnt(told(one.level, middle), told(one.gain)) for id, one in model.players.items()
        },
        mean=mean,
        covariance=unit**2 * model.covariance,
        spreads=(unit * a, unit * b, unit * c),
        noise=tuple(float(unit * x) for x in noise),
    )


@dataclass(slots=True)
class _Fit:
    """Parameters: the means of level, gain and step; then each player's level and gain beyond them;
    then each step beyond its mean.
    """

    players: list[str]
    design: csr_matrix
    likelihood: Likelihood
    steps: int
    theta: np.ndarray

    @classmethod
    def of(
        cls,
        days: Sequence[DayOf | ScoreOf],
        players: list[str],
        likelihood: Likelihood,
    ) -> "_Fit":
        index = {player: i for i, player in enumerate(players)}
        n, steps = len(players), max(day.rung for day in days) - 1
        design = np.zeros((len(days), 3 + 2 * n + steps))
        for row, day in enumerate(days):
            at, climbed = index[day.player], day.rung - 1
            design[row, :3] = 1, day.before, -climbed
            design[row, 3 + at], design[row, 3 + n + at] = 1, day.before
            design[row, 3 + 2 * n : 3 + 2 * n + climbed] = -1
        nothing = np.zeros(design.shape[1])
        return cls(players, csr_matrix(design), likelihood, steps, nothing)

    def run(self) -> ClubModel:
        spreads = np.array(FIRST_SPREADS)
        for _ in range(ROUNDS):
            covariance = self._newton(spreads)
            self._learn_noise(covariance)
            after = self._spreads(covariance)
            moved = float(np.abs(np.log(after / spreads)).max())
            spreads = after
            if moved < CLOSE:
                break
        return self._told(self._newton(spreads), spreads)

    def _penalty(self, spreads: np.ndarray) -> np.ndarray:
        n = len(self.players)
        weights = [np.full(3, VAGUE)]
        weights += [
            np.full(size, 1 / s**2) for size, s in zip((n, n, self.steps), spreads, strict=True)
        ]
        return np.concatenate(weights)

    def _newton(self, spreads: np.ndarray) -> np.ndarray:
        """Climb to the most likely parameters; the inverse of the penalised Hessian there."""
        penalty, x = self._penalty(spreads), self.design
        for _ in range(INNER):
            levels = x @ self.theta
            hessian = _squared(x, self.likelihood.weights(levels)) + np.diag(penalty)
            slope = x.T @ self.likelihood.slope(levels) - penalty * self.theta
            step = cho_solve(cho_factor(hessian), slope)
            self.theta = self.theta + np.clip(step, -2, 2)
            if np.abs(step).max() < CLOSE / 100:
                break
        hessian = _squared(x, self.likelihood.weights(x @ self.theta)) + np.diag(penalty)
        return np.asarray(cho_solve(cho_factor(hessian), np.eye(len(hessian))))

    def _learn_noise(self, covariance: np.ndarray) -> None:
        """What days differ by, as far as the likelihood learns it."""
        unsure = np.asarray(self.design.multiply(self.design @ covariance).sum(axis=1)).ravel()
        self.likelihood.learn(self.design @ self.theta, unsure)

    def _spreads(self, covariance: np.ndarray) -> np.ndarray:
        """What players and steps differ by: their squares as estimated, and what is not known of
        them.
        """
        n, at = len(self.players), 3
        found = []
        squares = self.theta**2 + np.diag(covariance)
        for size, first in zip((n, n, self.steps), FIRST_SPREADS, strict=True):
            own = squares[at : at + size].sum() + STEADY * (first / 3) ** 2
            found.append(max(LEAST, float(np.sqrt(own / (size + STEADY)))))
            at += size
        return np.array(found)

    def _told(self, covariance: np.ndarray, spreads: np.ndarray) -> ClubModel:
        n = len(self.players)
        scale = self.likelihood.steeper(self.design @ self.theta)
        sure = float(t_dist.ppf(0.975, n - 1))

        def told(*places: int) -> Interval:
            return _interval(self.theta, covariance, places, scale, sure)

        players = {
            player: Learnt(told(0, 3 + i), told(1, 3 + n + i))
            for i, player in enumerate(self.players)
        }
        steps = [told(2, 3 + 2 * n + j) for j in range(self.steps)]
        known = (float(spreads[0]), float(spreads[1]), float(spreads[2]))
        return ClubModel(told(1), steps, players, self.theta, covariance, known)


def _squared(x: csr_matrix, weights: np.ndarray) -> np.ndarray:
    """The design, weighed and squared: few of its entries are anything but zero."""
    return np.asarray((x.T.multiply(weights) @ x).toarray())


def _interval(
    theta: np.ndarray, covariance: np.ndarray, places: Sequence[int], scale: float, sure: float
) -> Interval:
    """Of a sum of parameters. scale: onto one day; sure: standard errors on either side."""
    at = list(places)
    value = scale * float(theta[at].sum())
    half = sure * scale * float(np.sqrt(max(0.0, covariance[np.ix_(at, at)].sum())))
    return Interval(value, value - half, value + half)
