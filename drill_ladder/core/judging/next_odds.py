"""The chance that the next session completes the climb, at present form (docs/methods.md, 4.8)."""

from bisect import bisect_left
from collections.abc import Sequence
from math import prod
from typing import Protocol

from drill_ladder.core.judging.rules import ByCoach, Evidence, InARow, Volume, Window
from drill_ladder.core.judging.schools import Standing, passes_have, posteriors
from drill_ladder.core.judging.verdicts import Verdict
from drill_ladder.core.statistics.chances import (
    beta_above,
    beta_binomial_tail,
    spread_tail,
)
from drill_ladder.core.thresholds import at_least


class Form(Protocol):
    """What is known of a player's next session from more than this rung's own days."""

    def passes(self, n: int, needs: Sequence[int]) -> float:
        """P(each lane has its need of n attempts)."""
        ...


def odds_next(standing: Standing, form: Form | None = None) -> float | None:
    """P(the next full session passes and that pass meets the rule), form and faults taken to hold.

    Posterior predictive: beta-binomial per judged lane; by the player's form where it is known.
    None for other measures than makes, for volume and by_coach, and where the dose counts no
    attempts. 0 when one more pass would not be enough.
    """
    school, rung = standing.rule.school, standing.rung
    n = rung.default_attempts
    if not rung.counts_makes or isinstance(school, Volume | ByCoach) or n == 0:
        return None
    if len(standing.full) + 1 < standing.rule.min_sessions:
        return 0.0
    lanes = posteriors(standing)
    if isinstance(school, Evidence):
        needs = _sure_with(standing, school, n)
    else:
        enough = _one_pass_is_enough(standing, school)
        needs = dict.fromkeys(lanes, rung.target.makes_needed(n) if enough else n + 1)
    if any(need > n for need in needs.values()):
        return 0.0
    if form is not None:
        return form.passes(n, list(needs.values()))
    return prod(_tail(n, need, *lanes[lane], standing.day_spread) for lane, need in needs.items())


def _tail(n: int, need: int, a: float, b: float, r: float) -> float:
    return spread_tail(n, need, a, b, r) if r > 0 else beta_binomial_tail(n, need, a, b)


def _one_pass_is_enough(standing: Standing, school: InARow | Window) -> bool:
    counted = standing.counted
    if isinstance(school, InARow):
        return passes_have(school, counted) + 1 >= school.passes
    before = counted[-(school.of - 1) :] if school.of > 1 else []
    return sum(1 for d in before if d.verdict is Verdict.PASS) + 1 >= school.passes


def _sure_with(standing: Standing, school: Evidence, n: int) -> dict[str | None, int]:
    """How many of n next time make each lane sure; n + 1 where not even all would."""
    above, target = beta_above(), standing.rung.target.rate
    aged = posteriors(standing, extra_age=1)
    less = 1 + (n - 1) * standing.day_spread

    def clears(a: float, b: float, x: int) -> bool:
        return at_least(above(a + x / less, b + (n - x) / less, target), school.confidence)

    return {
        lane: bisect_left(range(n + 1), True, key=lambda x: clears(a, b, x))
        for lane, (a, b) in aged.items()
    }
