"""How likely a player climbs within so many further sessions, by the club's own model (design,
section 37): what is known of their level and gain is drawn once a run, the day's share each day.
"""

from dataclasses import dataclass

import numpy as np

from drill_ladder.core.judging.rules import ByCoach, Evidence, Rule, Volume
from drill_ladder.core.looking_back.one_model import ClubModel, coming
from drill_ladder.core.odds.chain import first_memory, remember
from drill_ladder.core.odds.day_spread import design_effect, shares_of_day
from drill_ladder.core.odds.evidence import sure_from

FAR = 200  # sessions after which nobody waits any more
RUNS = 2000
BAND = (0.1, 0.9)


@dataclass(frozen=True, slots=True)
class Outlook:
    """chance: of climbing within the sessions that were asked about; median, low, high: sessions
    until the climb (80 % of the runs between), None where it is further than anybody waits.
    """

    chance: float
    median: int | None
    low: int | None
    high: int | None


@dataclass(frozen=True, slots=True)
class Standing:
    """Where a player stands: on which rung (from 1), after so many full sessions on the ladder,
    with k of n wanted, and passes so far.
    """

    player: str
    rung: int
    before: int
    n: int
    k: int
    passes_so_far: int = 0


def outlook(
    model: ClubModel,
    at: Standing,
    rule: Rule,
    sessions: int,
    day_spread: float,
    seed: int = 0,
    runs: int = RUNS,
) -> Outlook | None:
    """By seeded simulation; None where a coach's word decides, which nobody can simulate."""
    if isinstance(rule.school, ByCoach):
        return None
    log_odds = coming(model, at.player, at.rung, at.before, FAR, runs, seed)
    chance = np.random.default_rng([seed, 1])
    climbed = _climbed(at, rule, log_odds, day_spread, chance)
    ended = np.sort(climbed)
    low, middle, high = (_session(ended, share) for share in (BAND[0], 0.5, BAND[1]))
    return Outlook(float((climbed <= sessions).mean()), middle, low, high)


def _session(ended: np.ndarray, share: float) -> int | None:
    value = ended[min(len(ended) - 1, int(share * len(ended)))]
    return int(value) if np.isfinite(value) else None


def _climbed(
    at: Standing, rule: Rule, log_odds: np.ndarray, r: float, chance: np.random.Generator
) -> np.ndarray:
    """The session at which each run climbs; infinity for none."""
    runs, sessions = log_odds.shape
    shares = shares_of_day((1 / (1 + np.exp(-log_odds))).reshape(-1, 1), r, chance)
    makes = chance.binomial(at.n, shares).reshape(runs, sessions)
    passed = makes >= at.k
    least = max(1, rule.min_sessions)
    if isinstance(rule.school, Evidence):
        return _by_evidence(at, rule.school, makes, r, least)
    if isinstance(rule.school, Volume):
        wanted = rule.school.sessions or -(-(rule.school.reps or 0) // at.n)
        left = max(1, wanted - at.before) if rule.school.sessions else max(1, wanted)
        return np.full(runs, float(left))
    return np.array([_first_climb(rule, at.passes_so_far, row, least) for row in passed])


def _first_climb(rule: Rule, passes: int, row: np.ndarray, least: int) -> float:
    memory = first_memory(rule.school)
    for _ in range(passes):
        memory, _ = remember(rule.school, memory, True)
    for number, passed in enumerate(row, 1):
        memory, met = remember(rule.school, memory, bool(passed))
        if met and number >= least:
            return float(number)
    return float("inf")


def _by_evidence(
    at: Standing, school: Evidence, makes: np.ndarray, r: float, least: int
) -> np.ndarray:
    less, fade = design_effect(at.n, r), 0.5 ** (1 / school.half_life)
    a, total = np.full(len(makes), 0.5), 1.0
    climbed = np.full(len(makes), np.inf)
    for number in range(1, makes.shape[1] + 1):
        a = 0.5 + (a - 0.5) * fade + makes[:, number - 1] / less
        total = 1.0 + (total - 1.0) * fade + at.n / less
        sure = (a > sure_from(total, at.k / at.n, school.confidence)) & (number >= least)
        climbed = np.where(np.isinf(climbed) & sure, number, climbed)
    return climbed
