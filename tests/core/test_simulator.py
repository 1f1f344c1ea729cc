"""A simulated term against the exact chain, against statsmodels, and against players of whom the
truth is known.
"""

import numpy as np
import pytest
import scipy

from drill_ladder.core.judging import Evidence, InARow, Rule, School, Volume, Window
from drill_ladder.core.looking_back import (
    Been,
    Climber,
    Draws,
    Plain,
    Storey,
    simulate_season,
)
from drill_ladder.core.odds import MakesSession, odds, simulate

RUNS = 4000
TEN_TWICE = MakesSession(n=10, k=7, lanes=2, each_lane=True, floor=0.3)
SCHOOLS = [InARow(1), InARow(2), InARow(3), Window(2, 3), Volume(sessions=3)]


def logit(p: float) -> float:
    return float(scipy.special.logit(p))


def certain(*levels: float, steps: tuple[float, ...] = (0.0,), runs: int = RUNS) -> Draws:
    """Players of whom everything is known, who learn nothing more."""
    level = np.tile(np.array(levels)[:, None], (1, runs))
    return Draws(level, np.zeros_like(level), np.tile(np.array(steps)[:, None], (1, runs)))


@pytest.mark.parametrize("school", SCHOOLS, ids=lambda school: repr(school))
@pytest.mark.parametrize("p", [0.6, 0.75, 0.9])
def test_one_rung_is_the_chain(school: School, p: float) -> None:
    """At a gain of nothing, P(climbed by session s) is the exact chain's; low_in_a_row 99 keeps the
    ease, which ends the chain and not the term, out of it.
    """
    rule = Rule(school, low_in_a_row=99)
    exact = odds(TEN_TWICE, rule, [[p, p]], 12)[0].climb_by
    storey = Storey("one", TEN_TWICE, rule)
    reached = simulate_season([storey], [Climber(0, 0)], certain(logit(p)), 12, seed=5)[0, :, 1]
    for session, chance in enumerate(exact, 1):
        share = float((reached <= session).mean())
        assert share == pytest.approx(chance, abs=4 * np.sqrt(0.25 / RUNS))


@pytest.mark.parametrize("each_lane", [True, False])
def test_one_rung_by_evidence_is_the_odds_own_simulation(each_lane: bool) -> None:
    session = MakesSession(n=10, k=7, lanes=2, each_lane=each_lane)
    rule = Rule(Evidence(0.9, 3))
    told = simulate(session, rule, [[0.8, 0.8]], 10, seed=1, runs=RUNS)[0].climb_by
    storey = Storey("one", session, rule)
    reached = simulate_season([storey], [Climber(0, 0)], certain(logit(0.8)), 10, seed=2)[0, :, 1]
    for number, chance in enumerate(told, 1):
        assert float((reached <= number).mean()) == pytest.approx(chance, abs=0.05)


def test_two_rungs_are_two_chains_after_each_other() -> None:
    """By hand: one pass each, chances q and r: P(through by s) = sum q(1-q)^(i-1) r(1-r)^(j-1)."""
    rule = Rule(InARow(1))
    q, r = 0.5, 0.25
    storeys = [
        Storey("one", Plain(1), rule),
        Storey("two", Plain(1), rule),
    ]
    draws = certain(logit(q), steps=(0.0, logit(q) - logit(r)))
    reached = simulate_season(storeys, [Climber(0, 0)], draws, 8, seed=3)[0, :, 2]
    for s in (2, 4, 8):
        exact = sum(
            q * (1 - q) ** (i - 1) * r * (1 - r) ** (j - 1)
            for i in range(1, s)
            for j in range(1, s - i + 1)
        )
        assert float((reached <= s).mean()) == pytest.approx(exact, abs=0.033)


def test_who_does_half_of_it_climbs_as_a_thinned_chain() -> None:
    """One pass with chance q, done with chance c: geometric with q c."""
    storey = Storey("one", Plain(1), Rule(InARow(1)))
    reached = simulate_season([storey], [Climber(0, 0, 0.5)], certain(logit(0.6)), 6, seed=4)[
        0, :, 1
    ]
    for s in range(1, 7):
        assert float((reached <= s).mean()) == pytest.approx(1 - 0.7**s, abs=0.033)


def test_the_day_before_counts() -> None:
    """Two in a row, one of them passed already: the next pass climbs."""
    storey = Storey("one", Plain(1), Rule(InARow(2)))
    fresh, passed = Climber(0, 0), Climber(0, 2, after=(Been("near"), Been("pass")))
    reached = simulate_season([storey], [fresh, passed], certain(0.0, 0.0), 1, seed=6)[:, :, 1]
    assert (reached[0] <= 1).mean() == 0
    assert (reached[1] <= 1).mean() == pytest.approx(0.5, abs=0.033)


def test_the_same_seed_gives_the_same_term_and_places_before_are_reached() -> None:
    storeys = [Storey(name, Plain(1), Rule(InARow(1))) for name in "abc"]
    crowd = [Climber(1, 0, 0.7)] * 3
    luck = np.random.default_rng(2)
    level, gain = luck.normal(0, 0.5, (3, 50)), luck.normal(0.1, 0.1, (3, 50))
    draws = Draws(level, gain, np.vstack([np.zeros(50), luck.normal(0.2, 0.1, (2, 50))]))
    first = simulate_season(storeys, crowd, draws, 20, seed=9)
    assert (first == simulate_season(storeys, crowd, draws, 20, seed=9)).all()
    assert (first[:, :, :2] == 0).all()
    there = np.isfinite(first[:, :, 2:])
    assert (first[:, :, 2:][there] > first[:, :, 1:-1][there]).all()


def test_days_that_differ_pass_as_often_as_the_chain_says() -> None:
    """One pass of ten balls at a day spread of 0.1 is the exact chain's with that spread."""
    session, rule = MakesSession(10, 8), Rule(InARow(1), low_in_a_row=99)
    exact = odds(session, rule, [[0.7]], 5, 0.1)[0].climb_by
    storey = Storey("one", session, rule)
    asked = ([storey], [Climber(0, 0)], certain(logit(0.7)), 5)
    reached = simulate_season(*asked, seed=8, day_spread=0.1)[0, :, 1]
    for number, chance in enumerate(exact, 1):
        assert float((reached <= number).mean()) == pytest.approx(chance, abs=0.033)


def test_evidence_remembers_what_was_made_and_not_half_the_mark() -> None:
    """Days of 6 of 10 under a mark of 7 weigh as 6, not as 3.5: the climb comes sooner."""
    session, rule = MakesSession(10, 7), Rule(Evidence(0.8, 3))
    storey = Storey("one", session, rule)
    known = Climber(0, 3, after=(Been("near", 0.6),) * 3)
    guessed = Climber(0, 3, after=(Been("near"),) * 3)
    asked = ([storey], [known, guessed], certain(logit(0.85), logit(0.85)), 3)
    reached = simulate_season(*asked, seed=8)[:, :, 1]
    assert (reached[0] <= 2).mean() > (reached[1] <= 2).mean() + 0.05


def test_what_is_not_known_of_a_rung_is_the_same_for_everybody_in_a_run() -> None:
    """Two alike players and a step that is either nothing or a wall: in a run both pass or none
    does.
    """
    storeys = [Storey(name, Plain(1), Rule(InARow(1))) for name in "ab"]
    wall = np.where(np.arange(200) % 2 == 0, 0.0, 40.0)
    draws = Draws(np.full((2, 200), 9.0), np.zeros((2, 200)), np.vstack([np.zeros(200), wall]))
    reached = simulate_season(storeys, [Climber(0, 0)] * 2, draws, 6, seed=1)[:, :, 2]
    assert (np.isfinite(reached[0]) == np.isfinite(reached[1])).mean() > 0.98
    assert np.isfinite(reached[0]).mean() == pytest.approx(0.5, abs=0.05)
