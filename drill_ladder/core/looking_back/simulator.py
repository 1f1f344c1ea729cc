"""A term in advance: players climbing a ladder by a rule, session by session, many times over.

The model, and everything it assumes: a player has a level on a rung, the log-odds of a good one
(of a passing session where good ones are not counted). It rises by the player's own gain with each
session and falls by the rung's step on arriving at it. All lanes are alike. Days between, layoffs,
trust, form and stalls are taken as no hindrance; an ease starts the rung's count again. Seeded: the
same seed gives every variant the same luck, so that two of them may be compared.
Checked against the exact chain of `odds`, which it must equal at a gain of nothing on one rung.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import scipy

from drill_ladder.core.judging.rules import ByCoach, Evidence, InARow, Rule
from drill_ladder.core.odds.chain import CLIMBED, LOW, NEAR, PASS, Chain, earliest_climb
from drill_ladder.core.odds.evidence import sure_from
from drill_ladder.core.odds.session_chances import MakesSession, Rates, SessionChances
from drill_ladder.core.thresholds import rounded_up

GRID = np.linspace(-8.0, 8.0, 321)  # log-odds at which a session's chances are known; else between
NEVER = np.inf


@dataclass(frozen=True, slots=True)
class Plain:
    """A session of which only passed or not is known: its rate is the chance to pass. low: share of
    the others that are low.
    """

    reps: int
    low: float = 0.0

    floor = None

    def pass_and_low(self, p: Rates) -> tuple[float, float]:
        """(P(pass), P(low and not a pass))."""
        return p[0], (1 - p[0]) * self.low


@dataclass(frozen=True, slots=True)
class Level:
    """A number and how sure one is of it: mean and standard deviation of the log-odds."""

    mean: float
    sd: float = 0.0


@dataclass(frozen=True, slots=True)
class Storey:
    """A rung as simulated. step: what arriving here costs; title: for the words of it."""

    title: str
    session: SessionChances | Plain
    rule: Rule
    step: Level


@dataclass(frozen=True, slots=True)
class Climber:
    """A player: the rung (from 0), level and gain a session there, and the share of planned
    sessions that they do; after: full days since arrival, as the rule counted them.
    """

    at: int
    level: Level
    gain: Level
    done: float
    after: tuple[str, ...] = ()


def unsimulated(rule: Rule) -> bool:
    """Whether a rule waits for somebody's word, which nobody can simulate."""
    return isinstance(rule.school, ByCoach)


def simulate_season(
    storeys: Sequence[Storey],
    climbers: Sequence[Climber],
    sessions: int,
    runs: int = 400,
    seed: int = 0,
) -> np.ndarray:
    """The planned session (from 1) with which each rung is reached.

    sessions: planned for each player over the term, >= 0. Returns climbers x runs x (rungs + 1),
    the last being the ladder finished; 0: was there before; infinity: not in this time. No storey's
    rule may wait for somebody's word.
    """
    luck = np.random.default_rng(seed)
    crowd = _Crowd(storeys, climbers, runs, luck)
    for number in range(1, sessions + 1):
        crowd.play(number, luck)
    return crowd.reached.reshape(len(climbers), runs, len(storeys) + 1)


class _Crowd:
    """Every run of every climber, one row each."""

    def __init__(
        self,
        storeys: Sequence[Storey],
        climbers: Sequence[Climber],
        runs: int,
        luck: np.random.Generator,
    ) -> None:
        size = len(climbers) * runs
        self.floors = [_floor(storey, size, luck) for storey in storeys]
        self.at = np.repeat([c.at for c in climbers], runs)
        self.done = np.repeat([c.done for c in climbers], runs)
        self.level = _drawn([c.level for c in climbers], runs, luck)
        self.gain = _drawn([c.gain for c in climbers], runs, luck)
        steps = [_drawn([storey.step], size, luck) for storey in storeys]
        self.steps = np.stack([*steps, np.zeros(size)])
        self.reached = np.full((size, len(storeys) + 1), NEVER)
        for place in range(len(storeys) + 1):
            self.reached[self.at >= place, place] = 0.0
        for row, climber in enumerate(climbers):
            if climber.at < len(storeys):
                mine = np.arange(row * runs, (row + 1) * runs)
                self.floors[climber.at].arrived(mine, climber.after)

    def play(self, number: int, luck: np.random.Generator) -> None:
        """One planned session of everybody."""
        does = luck.random(len(self.at)) < self.done
        lot = luck.random(len(self.at))
        was_at = self.at.copy()
        for place, floor in enumerate(self.floors):
            who = np.flatnonzero(does & (was_at == place))
            if not len(who):
                continue
            up = who[floor.play(who, self.level[who], lot[who])]
            self.level[who] += self.gain[who]
            self.at[up] += 1
            self.level[up] -= self.steps[place + 1, up]
            self.reached[up, place + 1] = number


def _drawn(levels: Sequence[Level], runs: int, luck: np.random.Generator) -> np.ndarray:
    means, sds = ([getattr(one, name) for one in levels] for name in ("mean", "sd"))
    return np.repeat(means, runs) + np.repeat(sds, runs) * luck.standard_normal(len(levels) * runs)


def _floor(storey: Storey, size: int, luck: np.random.Generator) -> "_ChainFloor | _EvidenceFloor":
    if isinstance(storey.rule.school, Evidence) and isinstance(storey.session, MakesSession):
        return _EvidenceFloor(storey.session, storey.rule, storey.rule.school, size, luck)
    rule = storey.rule
    if isinstance(rule.school, Evidence):  # nothing counted: the evidence is passes
        rule = replace(rule, school=InARow(1))
    return _ChainFloor(storey.session, rule, size)


class _ChainFloor:
    """A rung whose rule remembers little: everybody's place in the chain of `odds`."""

    def __init__(self, session: SessionChances | Plain, rule: Rule, size: int) -> None:
        eases = session.floor is not None or (isinstance(session, Plain) and session.low > 0)
        self.chain = Chain.of(rule, eases)
        self.first = earliest_climb(rule, session.reps)
        lanes = session.lanes if isinstance(session, MakesSession) else 1
        chances = [session.pass_and_low([p] * lanes) for p in scipy.special.expit(GRID)]
        self.passing, self.low = np.array(chances).T
        order = (PASS, NEAR, LOW)
        self.free = np.array([self.chain.moves[outcome] for outcome in order])
        self.held = np.array([self.chain.held[outcome] for outcome in order])
        self.state, self.here = np.zeros(size, dtype=int), np.zeros(size, dtype=int)

    def arrived(self, who: np.ndarray, after: Sequence[str]) -> None:
        """Go through the days that were before; a climb that was due then is due still."""
        state = 0
        for outcome in after:
            state = max(0, self.chain.held[outcome][state])
        self.state[who], self.here[who] = state, len(after)

    def play(self, who: np.ndarray, level: np.ndarray, lot: np.ndarray) -> np.ndarray:
        """A session of those; which of them climb by it."""
        outcome = np.ones(len(who), dtype=int)
        outcome[lot < np.interp(level, GRID, self.passing)] = 0
        outcome[lot > 1 - np.interp(level, GRID, self.low)] = 2
        self.here[who] += 1
        state = self.state[who]
        may = self.here[who] >= self.first
        now = np.where(may, self.free[outcome, state], self.held[outcome, state])
        self.state[who] = np.maximum(0, now)
        return np.asarray(now == CLIMBED)


class _EvidenceFloor:
    """A rung whose rule weighs all sets: everybody's makes, fading."""

    def __init__(
        self,
        session: MakesSession,
        rule: Rule,
        school: Evidence,
        size: int,
        luck: np.random.Generator,
    ) -> None:
        self.session, self.rule, self.school = session, rule, school
        self.units = session.lanes if session.each_lane else 1
        self.of = session.n if session.each_lane else session.reps
        self.fade = 0.5 ** (1 / school.half_life)
        self.makes = np.full((size, self.units), 0.5)
        self.here, self.lows = np.zeros(size, dtype=int), np.zeros(size, dtype=int)
        self.marks = [np.inf]
        self.luck = luck
        self.total = 1.0

    def arrived(self, who: np.ndarray, after: Sequence[str]) -> None:
        """Days before are taken at the mark where they passed, and below it where they did not."""
        good = {PASS: self.session.k / self.session.n}
        for outcome in after:
            makes = self.of * good.get(outcome, 0.5 * self.session.k / self.session.n)
            self.makes[who] = 0.5 + (self.makes[who] - 0.5) * self.fade + makes
        self.here[who] = len(after)

    def play(self, who: np.ndarray, level: np.ndarray, lot: np.ndarray) -> np.ndarray:
        """A session of those; which of them climb by it."""
        rate = scipy.special.expit(level)[:, None]
        makes = self.luck.binomial(self.of, rate, (len(who), self.units))
        self.makes[who] = 0.5 + (self.makes[who] - 0.5) * self.fade + makes
        self.here[who] += 1
        marks = np.array([self._mark(n) for n in range(int(self.here[who].max()) + 1)])
        sure = (self.makes[who] > marks[self.here[who]][:, None]).all(axis=1)
        self._eased(who, makes, sure)
        return np.asarray(sure & (self.here[who] >= self.rule.min_sessions))

    def _eased(self, who: np.ndarray, makes: np.ndarray, sure: np.ndarray) -> None:
        if self.session.floor is None:
            return
        wanted = self.session.k * (1 if self.session.each_lane else self.session.lanes)
        low = (makes < min(wanted, rounded_up(self.session.floor * self.of))).any(axis=1)
        self.lows[who] = np.where(low, self.lows[who] + 1, 0)
        eased = who[~sure & (self.lows[who] >= self.rule.low_in_a_row)]
        self.makes[eased], self.here[eased], self.lows[eased] = 0.5, 0, 0

    def _mark(self, number: int) -> float:
        """What one's makes must exceed after so many sessions."""
        while len(self.marks) <= number:
            self.total = 1.0 + (self.total - 1.0) * self.fade + self.of
            rate = self.session.k / self.session.n
            self.marks.append(sure_from(self.total, rate, self.school.confidence))
        return self.marks[number]
