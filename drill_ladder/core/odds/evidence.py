"""Odds of the evidence school, which has no finite memory: seeded simulation with its standard
error (docs/methods.md, 5).
"""

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
import scipy

from drill_ladder.core.judging.ladders import Evidence, Rule
from drill_ladder.core.odds.chain import Odds
from drill_ladder.core.odds.day_spread import design_effect, shares_of_day, spread_pass_and_low
from drill_ladder.core.odds.session_chances import MakesSession, Rates
from drill_ladder.core.thresholds import TOLERANCE, rounded_up

BEYOND = 200  # sessions simulated beyond the horizon to find the end


def simulate(
    session: MakesSession,
    rule: Rule,
    p: Sequence[Rates],
    horizon: int,
    seed: int = 0,
    runs: int = 4000,
    beyond: int = BEYOND,
    day_spread: float = 0.0,
) -> list[Odds]:
    """Odds for each scenario. The same seed gives the same answer, whatever other scenarios are
    asked.

    Where some runs have not ended `beyond` sessions after the horizon, expected sessions and
    climb_before_ease are None; a drawing needs none of them, and asks for 0.
    """
    most = max(horizon, rule.min_sessions) + beyond
    return [
        _one(session, rule, rates, horizon, most, np.random.default_rng(seed), runs, day_spread)
        for rates in p
    ]


def _one(
    session: MakesSession,
    rule: Rule,
    p: Rates,
    horizon: int,
    most: int,
    chance: np.random.Generator,
    runs: int,
    day_spread: float,
) -> Odds:
    climbed_at, eased_at = _ends(session, rule, np.tile(p, (runs, 1)), most, chance, day_spread)
    sessions = np.arange(1, horizon + 1)
    climb = (climbed_at[None, :] <= sessions[:, None]).mean(axis=1)
    ease = (eased_at[None, :] <= sessions[:, None]).mean(axis=1)
    ended = np.minimum(climbed_at, eased_at)
    all_ended = bool(np.isfinite(ended).all())
    # the lower of two in the middle, as the exact chain counts its median
    middle = np.sort(ended)[(runs + 1) // 2 - 1]
    q, low = spread_pass_and_low(session, p, day_spread)
    return Odds(
        q,
        low,
        climb.tolist(),
        ease.tolist(),
        float(np.isfinite(climbed_at).mean()) if all_ended else None,
        float(ended.mean()) if all_ended else None,
        int(middle) if np.isfinite(middle) else None,
        np.sqrt(climb * (1 - climb) / runs).tolist(),
    )


def simulated_curve(
    session: MakesSession,
    rule: Rule,
    p: Sequence[Rates],
    horizon: int,
    runs: int,
    seed: int = 0,
    day_spread: float = 0.0,
) -> list[float]:
    """P(climbed by the horizon) for each scenario, all of them simulated together: for drawing."""
    rates = np.repeat(np.asarray(p, dtype=float), runs, axis=0)
    chance = np.random.default_rng(seed)
    climbed_at, _ = _ends(session, rule, rates, horizon, chance, day_spread)
    return (climbed_at.reshape(len(p), runs) <= horizon).mean(axis=1).tolist()


def _ends(
    session: MakesSession,
    rule: Rule,
    p: np.ndarray,
    most: int,
    chance: np.random.Generator,
    day_spread: float = 0.0,
) -> tuple[np.ndarray, np.ndarray]:
    """The session at which each run climbed, and at which it was eased; infinity for neither.

    p: true rates, one row for each run, one column for each lane.
    """
    school, runs = rule.school, len(p)
    if not isinstance(school, Evidence):
        raise TypeError("only for the evidence school")
    units = session.lanes if session.each_lane else 1
    of = session.n if session.each_lane else session.reps
    # half a good one and half a miss before anything was seen: Jeffreys' prior
    a, total = np.full((runs, units), 0.5), 1.0
    # attempts of one day are alike, so they weigh as fewer of independent ones
    less = design_effect(of, day_spread)
    lows = np.zeros(runs, dtype=int)
    climbed_at, eased_at = np.full(runs, np.inf), np.full(runs, np.inf)
    fade, alive = 0.5 ** (1 / school.half_life), np.arange(runs)
    for number in range(1, most + 1):
        # a day is drawn once for all its attempts, then the attempts in it
        makes = _draw(session, shares_of_day(p[alive], day_spread, chance), chance)
        a[alive] = 0.5 + (a[alive] - 0.5) * fade + makes / less
        total = 1.0 + (total - 1.0) * fade + of / less
        mark = sure_from(total, session.k / session.n, school.confidence)
        climbs = (a[alive] > mark).all(axis=1) & (number >= rule.min_sessions)
        lows[alive] = np.where(_low(session, makes, of), lows[alive] + 1, 0)
        eases = ~climbs & (lows[alive] >= rule.low_in_a_row) & (session.floor is not None)
        climbed_at[alive[climbs]], eased_at[alive[eases]] = number, number
        alive = alive[~climbs & ~eases]
        if not len(alive):
            break
    return climbed_at, eased_at


@lru_cache(maxsize=4096)
def sure_from(total: float, rate: float, confidence: float) -> float:
    """The a above which P(Beta(a, total - a) >= rate) reaches the confidence; infinity where none
    does.

    Every run has made the same attempts, so a + b is the same for all of them and one mark serves
    all.
    """

    def lacks(a: float) -> float:
        return float(scipy.special.betaincc(a, total - a, rate)) - (confidence - TOLERANCE)

    low, high = 1e-6, total - 1e-6
    if lacks(low) > 0:
        return 0.0
    return (
        float(scipy.optimize.brentq(lacks, low, high, xtol=1e-12))
        if lacks(high) > 0
        else float("inf")
    )


def _draw(session: MakesSession, p: np.ndarray, chance: np.random.Generator) -> np.ndarray:
    """Makes of each run in each judged unit."""
    lanes = chance.binomial(session.n, p)
    return lanes if session.each_lane else lanes.sum(axis=1, keepdims=True)


def _low(session: MakesSession, makes: np.ndarray, of: int) -> np.ndarray:
    """Low and not a pass, as the chain has it."""
    if session.floor is None:
        return np.zeros(len(makes), dtype=bool)
    wanted = session.k if session.each_lane else session.k * session.lanes
    mark = min(wanted, rounded_up(session.floor * of))
    return np.asarray((makes < mark).any(axis=1))
