"""What a rule really does: an absorbing Markov chain over sessions (docs/methods.md, 5).

State: the school's memory and the current run of lows. Skip, stall, layoff, trust, form and days
between are taken as no hindrance. Source: the textbook theory of absorbing chains (fundamental
matrix); checked by Monte Carlo.
"""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from math import inf

import numpy as np

from drill_ladder.core.judging.ladders import InARow, Rule, School, Volume, Window
from drill_ladder.core.odds.day_spread import spread_pass_and_low
from drill_ladder.core.odds.session_chances import Rates, SessionChances

FOREVER = 10_000
Memory = Hashable
Outcome = str
PASS, NEAR, LOW = "pass", "near", "low"
CLIMBED, EASED = -1, -2


@dataclass(frozen=True, slots=True)
class Odds:
    """At one true rate: chances by session 1..horizon, and until the end of the chain.

    expected and median sessions run until the chain ends, by climb or by ease; None where it never
    does or takes over 10 000 sessions. se: standard errors of climb_by where it was simulated.
    """

    passing: float
    low: float
    climb_by: list[float]
    ease_by: list[float]
    climb_before_ease: float | None
    expected_sessions: float | None
    median_sessions: int | None
    se: list[float] | None = None


def remember(school: School, memory: Memory, passed: bool) -> tuple[Memory, bool]:
    """(The school's memory after a session, whether it is met by it)."""
    if isinstance(school, InARow):
        run = min(school.passes, int(memory) + 1) if passed else 0  # type: ignore[call-overload]
        return run, passed and run >= school.passes
    if isinstance(school, Window):
        last: tuple[bool, ...] = (*memory, passed)  # type: ignore[misc]
        return last[-(school.of - 1) :] if school.of > 1 else (), passed and sum(
            last
        ) >= school.passes
    return 0, True


def first_memory(school: School) -> Memory:
    """The memory before any session."""
    return () if isinstance(school, Window) else 0


def earliest_climb(rule: Rule, reps: int) -> int:
    """The first session after which a climb is allowed at all."""
    school = rule.school
    needed = 1
    if isinstance(school, Volume):
        needed = school.sessions if school.sessions is not None else -(-(school.reps or 0) // reps)
    return max(1, rule.min_sessions, needed)


@dataclass(frozen=True, slots=True)
class Chain:
    """The states of a rule, and where each outcome leads: an index, CLIMBED or EASED.

    moves[outcome][state] while climbs are allowed, held[outcome][state] before that.
    """

    states: list[tuple[Memory, int]]
    moves: dict[Outcome, list[int]]
    held: dict[Outcome, list[int]]

    @classmethod
    def of(cls, rule: Rule, eases: bool) -> "Chain":
        """Every state that can be reached from the start, the start first."""
        start = (first_memory(rule.school), 0)
        states, index = [start], {start: 0}
        moves: dict[Outcome, list[int]] = {PASS: [], NEAR: [], LOW: []}
        held: dict[Outcome, list[int]] = {PASS: [], NEAR: [], LOW: []}
        for state in states:  # grows while it is walked
            for outcome in (PASS, NEAR, LOW):
                after, met, eased = _after(rule, state, outcome, eases)
                if not eased and after not in index:
                    index[after] = len(states)
                    states.append(after)
                stay = EASED if eased else index[after]
                # a rule that is met before its first allowed session stays where it is: each
                # outcome has two targets
                held[outcome].append(stay)
                moves[outcome].append(CLIMBED if met and not eased else stay)
        return cls(states, moves, held)


def _after(
    rule: Rule, state: tuple[Memory, int], outcome: Outcome, eases: bool
) -> tuple[tuple[Memory, int], bool, bool]:
    memory, lows = state
    after, met = remember(rule.school, memory, outcome == PASS)
    if isinstance(rule.school, Volume):
        # every repetition counts, passed or not; only a low session holds back
        met = outcome != LOW
    # where nothing can be low, rows of lows would only double the states
    lows = lows + 1 if outcome == LOW and eases else 0
    return (after, lows), met, lows >= rule.low_in_a_row and eases


def odds(
    session: SessionChances,
    rule: Rule,
    p: Sequence[Rates],
    horizon: int,
    day_spread: float = 0.0,
) -> list[Odds]:
    """Exact odds for each scenario of true rates (one rate for each lane). Not for the evidence
    school.

    horizon: sessions, >= 1; day_spread: 0..0.5, by how much days differ.
    """
    chain = Chain.of(rule, session.floor is not None)
    first = earliest_climb(rule, session.reps)
    return [
        _at(chain, first, spread_pass_and_low(session, rates, day_spread), horizon) for rates in p
    ]


def climb_curve(
    session: SessionChances,
    rule: Rule,
    p: Sequence[Rates],
    horizon: int,
    day_spread: float = 0.0,
) -> list[float]:
    """P(climbed by the horizon) for each scenario, without the rest: for drawing. Not for the
    evidence school.
    """
    chain = Chain.of(rule, session.floor is not None)
    first = earliest_climb(rule, session.reps)
    # one product for all scenarios: a curve is drawn anew while a coach moves a slider
    chances = np.array([spread_pass_and_low(session, rates, day_spread) for rates in p])
    q, low = chances[:, 0], chances[:, 1]
    outcomes = {PASS: q, NEAR: np.maximum(0.0, 1 - q - low), LOW: low}
    free, held = (
        _stacked(moves, outcomes, len(chain.states)) for moves in (chain.moves, chain.held)
    )
    alive, climbed = np.zeros((len(p), 1, len(chain.states))), np.zeros(len(p))
    alive[:, :, 0] = 1.0
    for number in range(1, horizon + 1):
        flow = alive @ (free if number >= first else held)
        alive, climbed = flow[:, :, :-2], climbed + flow[:, 0, -2]
    return np.minimum(1.0, climbed).tolist()


def _stacked(
    moves: dict[Outcome, list[int]], chances: dict[Outcome, np.ndarray], size: int
) -> np.ndarray:
    """_Flow's matrices of all scenarios at once: scenario, from, to (the states, then climbed, then
    eased).
    """
    found = np.zeros((len(chances[PASS]), size, size + 2))
    for outcome, targets in moves.items():
        for state, target in enumerate(targets):
            column = {CLIMBED: size, EASED: size + 1}.get(target, target)
            found[:, state, column] += chances[outcome]
    return found


def climb_chance(rule: Rule, q: float, horizon: int, reps: int) -> float:
    """P(climbed by the horizon) with pass chance q and no easing."""
    chain = Chain.of(rule, False)
    flow = _Flow(chain, {PASS: q, NEAR: 1 - q, LOW: 0.0})
    first = earliest_climb(rule, reps)
    return flow.run(first, horizon)[0][-1]


class _Flow:
    """Probability flowing through a chain at fixed chances of the three outcomes."""

    def __init__(self, chain: Chain, chances: dict[Outcome, float]) -> None:
        self.size = len(chain.states)
        self.free = self._matrix(chain.moves, chances)
        self.held = self._matrix(chain.held, chances)
        self.start = np.zeros(self.size)
        self.start[0] = 1.0

    def _matrix(self, moves: dict[Outcome, list[int]], chances: dict[Outcome, float]) -> np.ndarray:
        """Rows: from; columns: the states, then climbed, then eased."""
        found = np.zeros((self.size, self.size + 2))
        for outcome, targets in moves.items():
            for state, target in enumerate(targets):
                column = {CLIMBED: self.size, EASED: self.size + 1}.get(target, target)
                found[state, column] += chances[outcome]
        return found

    def run(self, first: int, horizon: int) -> tuple[list[float], list[float], np.ndarray]:
        """climb_by, ease_by for sessions 1..horizon, and what is still in the chain after it."""
        alive, climbed, eased = self.start, 0.0, 0.0
        climb_by, ease_by = [], []
        for number in range(1, horizon + 1):
            flow = alive @ (self.free if number >= first else self.held)
            alive = flow[: self.size]
            climbed, eased = climbed + float(flow[-2]), eased + float(flow[-1])
            climb_by.append(min(1.0, climbed))
            ease_by.append(min(1.0, eased))
        return climb_by, ease_by, alive


def _at(chain: Chain, first: int, chance: tuple[float, float], horizon: int) -> Odds:
    q, low = chance
    flow = _Flow(chain, {PASS: q, NEAR: max(0.0, 1 - q - low), LOW: low})
    climb_by, ease_by, _ = flow.run(first, horizon)
    before, expected = _to_the_end(flow, first)
    median = None if expected is None else _median(flow, first)
    return Odds(q, low, climb_by, ease_by, before, expected, median)


def _to_the_end(flow: _Flow, first: int) -> tuple[float, float | None]:
    """(P(climb ever before ease), expected sessions until the end or None)."""
    alive, waited = flow.start, 0.0
    for _ in range(first - 1):
        waited += float(alive.sum())
        alive = (alive @ flow.held)[: flow.size]
    ends = _can_end(flow)
    if not ends[alive > 0].any():
        return 0.0, waited if float(alive.sum()) == 0 else None
    climbs, more = _solved(flow, ends)
    before, expected = float(alive @ climbs), waited + float(alive @ more)
    if not 0 <= expected <= FOREVER:  # not a number, too, where an end is lost in rounding
        before, expected = _before_ease(flow, ends, alive), inf
    # nobody is ever eased: whoever comes to an end has climbed, whatever rounding says
    if not flow.free[:, -1].any() and not flow.held[:, -1].any():
        before = float(alive[ends].sum())
    known = bool(ends[alive > 0].all()) and expected <= FOREVER
    return min(1.0, max(0.0, before)), expected if known else None


def _solved(flow: _Flow, ends: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """For each state: P(climb before ease), expected sessions to the end (the fundamental matrix
    applied).
    """
    inner = np.eye(flow.size) - flow.free[:, : flow.size]
    goals = np.column_stack([flow.free[:, -2], np.ones(flow.size)])
    # states without an end would make it singular: each is its own end, with nothing gained
    inner[~ends], goals[~ends] = np.eye(flow.size)[~ends], 0.0
    try:
        solved = np.linalg.solve(inner, goals)
    except np.linalg.LinAlgError:  # an end so unlikely that it is lost in rounding
        return np.zeros(flow.size), np.full(flow.size, np.inf)
    return solved[:, 0], solved[:, 1]


def _before_ease(flow: _Flow, ends: np.ndarray, alive: np.ndarray) -> float:
    """P(climb before ease) where both are so unlikely that 1 minus the rest is lost in rounding:
    states are taken out one by one, and nothing is ever subtracted.

    Source: Grassmann, Taksar and Heyman (1985), Regenerative analysis and steady state
    distributions for Markov chains.
    """
    states = np.flatnonzero(ends)
    # the start, then the states that can end; columns: those, then climbed and eased
    table = np.zeros((len(states) + 1, len(states) + 3))
    table[0, 1:-2] = alive[states]
    table[1:, 1:-2] = flow.free[np.ix_(states, states)]
    table[1:, -2:] = flow.free[states][:, -2:]
    for k in range(len(states), 0, -1):
        away = table[k].copy()
        away[k : len(states) + 1] = 0.0  # itself, and what is out already
        leaves = away.sum()
        if leaves > 0:
            table[:k] += np.outer(table[:k, k] / leaves, away)
    climbed, eased = table[0, -2:]
    return float(climbed / (climbed + eased)) * float(alive[states].sum()) if climbed else 0.0


def _can_end(flow: _Flow) -> np.ndarray:
    """Which states can reach an end at all."""
    reach = flow.free[:, flow.size :].sum(axis=1) > 0
    steps = flow.free[:, : flow.size] > 0
    for _ in range(flow.size):
        wider = reach | (steps & reach).any(axis=1)
        if (wider == reach).all():
            break
        reach = wider
    return reach


def _median(flow: _Flow, first: int) -> int:
    """The least number of sessions after which the chain has ended with probability 0.5 or more.

    Walks one by one while climbs are held, then by doubling: the mass still alive only shrinks.
    """
    alive, done = flow.start, 0
    while done < first - 1:
        step = (alive @ flow.held)[: flow.size]
        if float(step.sum()) <= 0.5 + 1e-9:
            return done + 1
        alive, done = step, done + 1
    # twenty doublings are a million sessions: longer than any player stays
    powers = [flow.free[:, : flow.size]]
    while float((alive @ powers[-1]).sum()) > 0.5 + 1e-9 and len(powers) < 20:
        powers.append(powers[-1] @ powers[-1])
    for exponent in range(len(powers) - 1, -1, -1):
        step = alive @ powers[exponent]
        if float(step.sum()) > 0.5 + 1e-9:
            alive, done = step, done + 2**exponent
    return done + 1
