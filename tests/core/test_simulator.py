"""A simulated term against the exact chain, against statsmodels, and against players of whom the
truth is known.
"""

import numpy as np
import pytest
import scipy
from statsmodels.stats.meta_analysis import combine_effects

from drill_ladder.core.judging import Evidence, InARow, Rule, School, Volume, Window
from drill_ladder.core.looking_back import (
    Climber,
    Level,
    Plain,
    Storey,
    Watched,
    learning_of,
    simulate_season,
)
from drill_ladder.core.odds import MakesSession, odds, simulate
from drill_ladder.core.statistics import pooled

RUNS = 4000
TEN_TWICE = MakesSession(n=10, k=7, lanes=2, each_lane=True, floor=0.3)
SCHOOLS = [InARow(1), InARow(2), InARow(3), Window(2, 3), Volume(sessions=3)]


def logit(p: float) -> float:
    return float(scipy.special.logit(p))


def still(p: float, at: int = 0, done: float = 1.0) -> Climber:
    return Climber(at, Level(logit(p)), Level(0.0), done)


@pytest.mark.parametrize("school", SCHOOLS, ids=lambda school: repr(school))
@pytest.mark.parametrize("p", [0.6, 0.75, 0.9])
def test_one_rung_is_the_chain(school: School, p: float) -> None:
    """At a gain of nothing, P(climbed by session s) is the exact chain's; low_in_a_row 99 keeps the
    ease, which ends the chain and not the term, out of it.
    """
    rule = Rule(school, low_in_a_row=99)
    exact = odds(TEN_TWICE, rule, [[p, p]], 12)[0].climb_by
    storey = Storey("one", TEN_TWICE, rule, Level(0.0))
    reached = simulate_season([storey], [still(p)], 12, RUNS, seed=5)[0, :, 1]
    for session, chance in enumerate(exact, 1):
        share = float((reached <= session).mean())
        assert share == pytest.approx(chance, abs=4 * np.sqrt(0.25 / RUNS))


@pytest.mark.parametrize("each_lane", [True, False])
def test_one_rung_by_evidence_is_the_odds_own_simulation(each_lane: bool) -> None:
    session = MakesSession(n=10, k=7, lanes=2, each_lane=each_lane)
    rule = Rule(Evidence(0.9, 3))
    told = simulate(session, rule, [[0.8, 0.8]], 10, seed=1, runs=RUNS)[0].climb_by
    storey = Storey("one", session, rule, Level(0.0))
    reached = simulate_season([storey], [still(0.8)], 10, RUNS, seed=2)[0, :, 1]
    for number, chance in enumerate(told, 1):
        assert float((reached <= number).mean()) == pytest.approx(chance, abs=0.05)


def test_two_rungs_are_two_chains_after_each_other() -> None:
    """By hand: one pass each, chances q and r: P(through by s) = sum q(1-q)^(i-1) r(1-r)^(j-1)."""
    rule = Rule(InARow(1))
    q, r = 0.5, 0.25
    storeys = [
        Storey("one", Plain(1), rule, Level(0.0)),
        Storey("two", Plain(1), rule, Level(logit(q) - logit(r))),
    ]
    reached = simulate_season(storeys, [still(q)], 8, RUNS, seed=3)[0, :, 2]
    for s in (2, 4, 8):
        exact = sum(
            q * (1 - q) ** (i - 1) * r * (1 - r) ** (j - 1)
            for i in range(1, s)
            for j in range(1, s - i + 1)
        )
        assert float((reached <= s).mean()) == pytest.approx(exact, abs=0.033)


def test_who_does_half_of_it_climbs_as_a_thinned_chain() -> None:
    """One pass with chance q, done with chance c: geometric with q c."""
    storey = Storey("one", Plain(1), Rule(InARow(1)), Level(0.0))
    reached = simulate_season([storey], [still(0.6, done=0.5)], 6, RUNS, seed=4)[0, :, 1]
    for s in range(1, 7):
        assert float((reached <= s).mean()) == pytest.approx(1 - 0.7**s, abs=0.033)


def test_the_day_before_counts() -> None:
    """Two in a row, one of them passed already: the next pass climbs."""
    storey = Storey("one", Plain(1), Rule(InARow(2)), Level(0.0))
    fresh, passed = still(0.5), Climber(0, Level(0.0), Level(0.0), 1.0, ("near", "pass"))
    reached = simulate_season([storey], [fresh, passed], 1, RUNS, seed=6)[:, :, 1]
    assert (reached[0] <= 1).mean() == 0
    assert (reached[1] <= 1).mean() == pytest.approx(0.5, abs=0.033)


def test_the_same_seed_gives_the_same_term_and_places_before_are_reached() -> None:
    storeys = [Storey(name, Plain(1), Rule(InARow(1)), Level(0.2, 0.1)) for name in "abc"]
    crowd = [Climber(1, Level(0.0, 0.5), Level(0.1, 0.1), 0.7)] * 3
    first = simulate_season(storeys, crowd, 20, 50, seed=9)
    assert (first == simulate_season(storeys, crowd, 20, 50, seed=9)).all()
    assert (first[:, :, :2] == 0).all()
    assert (np.diff(first[:, :, 1:], axis=2)[np.isfinite(first[:, :, 2:])] > 0).all()


def test_pooling_is_statsmodels_dersimonian_and_laird() -> None:
    luck = np.random.default_rng(1)
    for n in (2, 5, 12):
        values, variances = luck.normal(0.3, 0.8, n), luck.uniform(0.01, 0.05, n)
        told = combine_effects(values, variances, method_re="dl")
        found = pooled(list(values), list(variances))
        assert found is not None
        assert found.mean == pytest.approx(told.mean_effect_re)
        assert found.se == pytest.approx(told.sd_eff_w_re)
        assert found.spread**2 == pytest.approx(told.tau2)


def test_shrinking_lies_between_own_and_all() -> None:
    found = pooled([0.0, 1.0, 2.0, 3.0], [0.1] * 4)
    assert found is not None
    own, sd = found.shrunk(3.0, 0.1)
    assert found.mean < own < 3.0
    assert 0 < sd < found.spread
    assert pooled([], []) is None
    alike = pooled([1.0, 1.0], [0.1, 0.1])
    assert alike is not None
    assert alike.shrunk(5.0, 0.1)[0] == pytest.approx(1.0)


def test_learning_finds_what_was_put_in() -> None:
    """Forty players of known gain and step on three rungs, twenty balls a day, for six days each:
    the mean gain and step come back within four of their own standard errors.
    """
    luck = np.random.default_rng(7)
    stays = []
    for player in range(40):
        level, gain = luck.normal(0.2, 0.3), luck.normal(0.15, 0.05)
        for rung in range(3):
            days = []
            for _ in range(6):
                rate = scipy.special.expit(level)
                days.append((20, int(luck.binomial(20, rate))))
                level += gain
            stays.append(Watched(player, rung, tuple(days), True))
            level -= 0.6
    found = learning_of(stays)
    assert found.gain is not None
    assert found.step is not None
    assert found.gain.mean == pytest.approx(0.15, abs=4 * found.gain.se)
    assert found.step.mean == pytest.approx(0.6, abs=4 * max(found.step.se, 0.05))
    assert set(found.steps) == {1, 2}
    level_now = found.level_of(999, [(20, 10), (20, 10)])
    assert abs(level_now.mean) < 0.6


def test_of_nothing_nothing_is_learnt() -> None:
    found = learning_of([])
    assert found.gain is None
    assert found.gain_of(1) == Level(0.0)
    assert found.step_to(2) == Level(0.0)
    assert found.level_of(1, []).sd == 1.5
