"""A term in advance: players climbing a ladder by a rule, session by session, many times over.

The model, and everything it assumes: a player has a level on a rung, the log-odds of a good one
(the score over the target where scores are gone by; elsewhere the log-odds of a passing session).
It rises by the player's own gain with each session and falls by the rung's step on arriving at it;
what is not known of level, gain and steps is drawn once a run, and the share of a day about it each
day. All lanes are alike. Days between, layoffs, trust, form and stalls are taken as no hindrance;
an ease starts the rung's count again.
Seeded: the same seed gives every variant the same luck, so that two of them may be compared.
Checked against the exact chain of `odds`, which it must equal at a gain of nothing on one rung.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
import scipy

from drill_ladder.core.judging.ladders import ByCoach, Evidence, InARow, Rule
from drill_ladder.core.looking_back.knowledge import Draws
from drill_ladder.core.odds.chain import CLIMBED, LOW, NEAR, PASS, Chain, earliest_climb
from drill_ladder.core.odds.day_spread import design_effect, shares_of_day, spread_pass_and_low
from drill_ladder.core.odds.evidence import sure_from
from drill_ladder.core.odds.session_chances import MakesSession, Rates, SessionChances
from drill_ladder.core.thresholds import rounded_up

GRID = np.linspace(-8.0, 8.0, 161)  # log-odds at which a session's chances are known; else between
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
class Scored:
    """A session whose score decides: its level is what is expected over the target. noise: typical
    error of a day's score, above 0; low: as of Plain.
    """

    reps: int
    noise: float
    low: float = 0.0

    floor = None

    def pass_and_low(self, level: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """(P(pass), P(low and not a pass)) at each level."""
        passing = scipy.special.ndtr(level / self.noise)
        return passing, (1 - passing) * self.low


@dataclass(frozen=True, slots=True)
class Storey:
    """A rung as simulated. title: for the words of it."""

    title: str
    session: SessionChances | Plain | Scored
    rule: Rule


@dataclass(frozen=True, slots=True)
class Been:
    """A full day that was: pass, near or low, and the share of good ones in it; None: not
    counted.
    """

    outcome: str
    share: float | None = None


@dataclass(frozen=True, slots=True)
class Climber:
    """A player: the rung (from 0), full sessions on the ladder so far, and the share of planned
    sessions that they do; after: full days since arrival.
    """

    at: int
    before: int
    done: float = 1.0
    after: tuple[Been, ...] = ()


def unsimulated(rule: Rule) -> bool:
    """Whether a rule waits for somebody's word, which nobody can simulate."""
    return isinstance(rule.school, ByCoach)


def simulate_season(
    storeys: Sequence[Storey],
    climbers: Sequence[Climber],
    draws: Draws,
    sessions: int,
    seed: int = 0,
    day_spread: float = 0.0,
    until: int | None = None,
) -> np.ndarray:
    """The planned session (from 1) with which each rung is reached.

    draws: of the climbers in their order, and of the steps to the rungs. sessions: planned for each
    player over the term, >= 0; until: over earlier where all are at this place. Returns climbers x
    runs x (rungs + 1), the last being the ladder finished; 0: was there before; infinity: not in
    this time. No storey's rule may wait for somebody's word.
    """
    luck = np.random.default_rng(seed)
    crowd = _Crowd(storeys, climbers, draws, luck, day_spread)
    for number in range(1, sessions + 1):
        crowd.play(number, luck)
        if until is not None and (crowd.at >= until).all():
            break
    return crowd.reached.reshape(len(climbers), draws.runs, len(storeys) + 1)


class _Crowd:
    """Every run of every climber, one row each."""

    def __init__(
        self,
        storeys: Sequence[Storey],
        climbers: Sequence[Climber],
        draws: Draws,
        luck: np.random.Generator,
        day_spread: float,
    ) -> None:
        runs, size = draws.runs, len(climbers) * draws.runs
        self.floors = [_floor(storey, size, luck, day_spread) for storey in storeys]
        self.at = np.repeat([c.at for c in climbers], runs)
        self.done = np.repeat([c.done for c in climbers], runs)
        levels = [
            draws.now(row, min(c.at, len(storeys) - 1), c.before) for row, c in enumerate(climbers)
        ]
        self.level = np.concatenate(levels)
        self.gain = draws.gain.reshape(-1)
        steps = np.vstack([draws.steps[: len(storeys)], np.zeros(runs)])
        self.steps = np.tile(steps, len(climbers))
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


def _floor(
    storey: Storey, size: int, luck: np.random.Generator, day_spread: float
) -> "_ChainFloor | _EvidenceFloor":
    if isinstance(storey.rule.school, Evidence) and isinstance(storey.session, MakesSession):
        asked = (storey.session, storey.rule, storey.rule.school, size, luck, day_spread)
        return _EvidenceFloor(*asked)
    rule = storey.rule
    if isinstance(rule.school, Evidence):  # nothing counted: the evidence is passes
        rule = replace(rule, school=InARow(1))
    return _ChainFloor(storey.session, rule, size, day_spread)


@lru_cache(maxsize=128)
def _chances(session: SessionChances | Plain, day_spread: float) -> tuple[np.ndarray, np.ndarray]:
    """P(pass) and P(low) at each log-odds of the grid."""
    lanes = session.lanes if isinstance(session, MakesSession) else 1
    shares = [[p] * lanes for p in scipy.special.expit(GRID)]
    if isinstance(session, Plain):
        found = [session.pass_and_low(p) for p in shares]
    else:
        found = [spread_pass_and_low(session, p, day_spread) for p in shares]
    passing, low = np.array(found).T
    return passing, low


class _ChainFloor:
    """A rung whose rule remembers little: everybody's place in the chain of `odds`."""

    def __init__(
        self, session: SessionChances | Plain | Scored, rule: Rule, size: int, day_spread: float
    ) -> None:
        if isinstance(session, Plain | Scored):
            eases = session.low > 0
        else:
            eases = session.floor is not None
        self.chain = Chain.of(rule, eases)
        self.first = earliest_climb(rule, session.reps)
        self.session, self.day_spread = session, day_spread
        order = (PASS, NEAR, LOW)
        self.free = np.array([self.chain.moves[outcome] for outcome in order])
        self.held = np.array([self.chain.held[outcome] for outcome in order])
        self.state, self.here = np.zeros(size, dtype=int), np.zeros(size, dtype=int)

    def arrived(self, who: np.ndarray, after: Sequence[Been]) -> None:
        """Go through the days that were before; a climb that was due then is due still."""
        state = 0
        for day in after:
            state = max(0, self.chain.held[day.outcome][state])
        self.state[who], self.here[who] = state, len(after)

    def play(self, who: np.ndarray, level: np.ndarray, lot: np.ndarray) -> np.ndarray:
        """A session of those; which of them climb by it."""
        outcome = np.ones(len(who), dtype=int)
        passing, low = self._at(level)
        outcome[lot < passing] = 0
        outcome[lot > 1 - low] = 2
        self.here[who] += 1
        state = self.state[who]
        may = self.here[who] >= self.first
        now = np.where(may, self.free[outcome, state], self.held[outcome, state])
        self.state[who] = np.maximum(0, now)
        return np.asarray(now == CLIMBED)

    def _at(self, level: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """P(pass) and P(low) of everybody's level."""
        if isinstance(self.session, Scored):
            return self.session.pass_and_low(level)
        passing, low = _chances(self.session, self.day_spread)
        return np.interp(level, GRID, passing), np.interp(level, GRID, low)


class _EvidenceFloor:
    """A rung whose rule weighs all sets: everybody's makes, fading."""

    def __init__(
        self,
        session: MakesSession,
        rule: Rule,
        school: Evidence,
        size: int,
        luck: np.random.Generator,
        day_spread: float,
    ) -> None:
        self.session, self.rule, self.school = session, rule, school
        self.units = session.lanes if session.each_lane else 1
        self.of = session.n if session.each_lane else session.reps
        self.day_spread, self.less = day_spread, design_effect(self.of, day_spread)
        self.fade = 0.5 ** (1 / school.half_life)
        self.makes = np.full((size, self.units), 0.5)
        self.here, self.lows = np.zeros(size, dtype=int), np.zeros(size, dtype=int)
        self.marks = [np.inf]
        self.luck = luck
        self.total = 1.0

    def arrived(self, who: np.ndarray, after: Sequence[Been]) -> None:
        """Days before count by what was made in them; where nobody knows, at the mark where they
        passed and halfway to it where they did not.
        """
        mark = self.session.k / self.session.n
        for day in after:
            usual = mark if day.outcome == PASS else mark / 2
            share = usual if day.share is None else day.share
            makes = self.of * share / self.less
            self.makes[who] = 0.5 + (self.makes[who] - 0.5) * self.fade + makes
        self.here[who] = len(after)

    def play(self, who: np.ndarray, level: np.ndarray, lot: np.ndarray) -> np.ndarray:
        """A session of those; which of them climb by it."""
        shares = shares_of_day(scipy.special.expit(level)[:, None], self.day_spread, self.luck)
        makes = self.luck.binomial(self.of, shares, (len(who), self.units))
        self.makes[who] = 0.5 + (self.makes[who] - 0.5) * self.fade + makes / self.less
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
            self.total = 1.0 + (self.total - 1.0) * self.fade + self.of / self.less
            rate = self.session.k / self.session.n
            self.marks.append(sure_from(self.total, rate, self.school.confidence))
        return self.marks[number]
