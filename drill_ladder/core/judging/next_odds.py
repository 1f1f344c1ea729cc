"""The chance that the next session completes the climb, at present form (design, 4.8)."""

from math import prod

from drill_ladder.core.judging.rules import ByCoach, Evidence, InARow, Volume, Window
from drill_ladder.core.judging.schools import Standing, passes_have, posteriors
from drill_ladder.core.judging.verdicts import Verdict
from drill_ladder.core.statistics.chances import (
    beta_above,
    beta_binomial_pmf,
    beta_binomial_tail,
    spread_pmf,
    spread_tail,
)
from drill_ladder.core.thresholds import at_least


def odds_next(standing: Standing) -> float | None:
    """P(the next full session passes and that pass meets the rule), form and faults taken to hold.

    Posterior predictive: beta-binomial per judged lane. None for other measures than makes, for
    volume and by_coach, and where the dose counts no attempts. 0 when one more pass would not be
    enough.
    """
    school, rung = standing.rule.school, standing.rung
    n = rung.default_attempts
    if not rung.counts_makes or isinstance(school, Volume | ByCoach) or n == 0:
        return None
    if len(standing.full) + 1 < standing.rule.min_sessions:
        return 0.0
    if isinstance(school, Evidence):
        return _evidence(standing, school, n)
    if not _one_pass_is_enough(standing, school):
        return 0.0
    need = rung.target.makes_needed(n)
    r, lanes = standing.day_spread, posteriors(standing).values()
    if r > 0:
        return prod(spread_tail(n, need, a, b, r) for a, b in lanes)
    return prod(beta_binomial_tail(n, need, a, b) for a, b in lanes)


def _one_pass_is_enough(standing: Standing, school: InARow | Window) -> bool:
    counted = standing.counted
    if isinstance(school, InARow):
        return passes_have(school, counted) + 1 >= school.passes
    before = counted[-(school.of - 1) :] if school.of > 1 else []
    return sum(1 for d in before if d.verdict is Verdict.PASS) + 1 >= school.passes


def _evidence(standing: Standing, school: Evidence, n: int) -> float:
    above, target = beta_above(), standing.rung.target.rate
    aged, r = posteriors(standing, extra_age=1), standing.day_spread
    less = 1 + (n - 1) * r
    chance = 1.0
    for lane, (a, b) in posteriors(standing).items():
        a1, b1 = aged[lane]
        clears = (
            x
            for x in range(n + 1)
            if at_least(above(a1 + x / less, b1 + (n - x) / less, target), school.confidence)
        )
        if r > 0:
            pmf = spread_pmf(n, a, b, r)
            chance *= sum(pmf[x] for x in clears)
        else:
            chance *= sum(beta_binomial_pmf(n, x, a, b) for x in clears)
    return min(1.0, chance)
