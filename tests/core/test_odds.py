"""Odds against closed forms, tables and Monte Carlo."""

from itertools import product
from math import prod

import numpy as np
import pytest
from scipy import stats

from drill_ladder.core.judging.ladders import Evidence, InARow, Rule, Volume, Window
from drill_ladder.core.odds.chain import odds
from drill_ladder.core.odds.evidence import simulate
from drill_ladder.core.odds.rule_finder import Question, find_rule
from drill_ladder.core.odds.session_chances import (
    EarnedSession,
    LostSession,
    MakesSession,
    StreakSession,
    ToNSession,
    run_chance,
)

EIGHT = MakesSession(10, 8)


def at(session, school, p, horizon=6, **gates):
    return odds(session, Rule(school, **gates), [p if isinstance(p, list) else [p]], horizon)[0]


def test_an_example_worked_by_hand():
    """8 of 10 at a true 60 %: 0.167 a session, 0.67 within six, 0.64 with easing, 0.12 with two in
    a row.
    """
    once = at(EIGHT, InARow(1), 0.6)
    assert once.passing == pytest.approx(0.16729, abs=5e-6)
    assert once.climb_by[-1] == pytest.approx(1 - (1 - once.passing) ** 6)
    assert round(once.climb_by[-1], 2) == 0.67
    assert round(at(MakesSession(10, 8, floor=0.5), InARow(1), 0.6).climb_by[-1], 2) == 0.64
    assert round(at(EIGHT, InARow(2), 0.6).climb_by[-1], 2) == 0.12


def test_one_pass_is_geometric():
    """Source: the geometric distribution, scipy.stats.geom."""
    found = at(EIGHT, InARow(1), 0.7, 12)
    q = stats.binom.sf(7, 10, 0.7)
    assert found.climb_by == pytest.approx(stats.geom.cdf(np.arange(1, 13), q))
    assert found.expected_sessions == pytest.approx(1 / q)
    assert found.median_sessions == stats.geom.median(q)
    assert found.climb_before_ease == 1


def test_two_in_a_row_by_hand():
    """Expected trials to two successes in a row: (1 + q) / q^2, a textbook result."""
    found = at(EIGHT, InARow(2), 0.8)
    assert found.expected_sessions == pytest.approx((1 + found.passing) / found.passing**2)


def test_a_single_sampling_plan_is_one_pass_within_one_session():
    """Source: the OC curve of the plan n = 89, c = 2 in Montgomery, Statistical Quality Control
    (from memory): P(accept) 0.9397 at 1 % defective, 0.7366 at 2 %, 0.4985 at 3 %.
    """
    plan = MakesSession(89, 87)
    for defective, accepted in ((0.01, 0.9397), (0.02, 0.7366), (0.03, 0.4985)):
        assert at(plan, InARow(1), 1 - defective, 1).climb_by[0] == pytest.approx(
            accepted, abs=5e-4
        )


def test_five_heads_in_a_row_within_a_hundred():
    """Source: the published 0.8101 for a fair coin (Feller's recursion)."""
    assert run_chance(100, 5, 0.5) == pytest.approx(0.8101, abs=5e-5)
    assert run_chance(5, 5, 0.5) == 0.5**5
    assert (run_chance(4, 5, 0.9), run_chance(4, 0, 0.1), run_chance(9, 3, 1.0)) == (0, 1, 1)


@pytest.mark.parametrize(("n", "r", "p"), [(12, 3, 0.4), (10, 4, 0.7), (7, 1, 0.2)])
def test_runs_by_counting_all_outcomes(n, r, p):
    total = 0.0
    for code in range(2**n):
        bits = f"{code:0{n}b}"
        if "1" * r in bits:
            total += p ** bits.count("1") * (1 - p) ** bits.count("0")
    assert run_chance(n, r, p) == pytest.approx(total)


def test_until_lost_is_negative_binomial():
    """Good ones before the third miss; source: scipy.stats.nbinom, which counts the failures before
    so many successes, with good and missed changed over.
    """
    for k in (1, 4, 9):
        passed, low = LostSession(3, k, floor=2).pass_and_low([0.7])
        assert passed == pytest.approx(stats.nbinom.sf(k - 1, 3, 0.3), abs=1e-12)
        assert low == pytest.approx(stats.nbinom.cdf(min(k, 2) - 1, 3, 0.3), abs=1e-12)


def test_what_is_never_earned_is_binomial():
    """More good ones than there are attempts would earn any. Source: scipy.stats.binom."""
    passed, low = EarnedSession(10, 11, 20, 7, floor=3).pass_and_low([0.6])
    assert passed == pytest.approx(stats.binom.sf(6, 10, 0.6), abs=1e-12)
    assert low == pytest.approx(stats.binom.cdf(2, 10, 0.6), abs=1e-12)


@pytest.mark.parametrize("p", [0.2, 0.55, 0.9])
def test_earned_attempts_are_every_row_added_up(p):
    """Each of the rows of ten good ones and misses has its chance, and stops where nothing is left:
    by the definition, without the sum that is tested.
    """
    chances = dict.fromkeys(range(11), 0.0)
    for row in product((True, False), repeat=10):
        good = tried = 0
        for one in row:
            if tried >= min(10, 3 + 2 * (good // 2)):
                break
            good, tried = good + one, tried + 1
        chances[good] += prod(p if one else 1 - p for one in row)
    for mark in range(11):
        wanted = sum(chance for good, chance in chances.items() if good >= mark)
        assert EarnedSession(3, 2, 10, mark).pass_and_low([p])[0] == pytest.approx(wanted)


def test_to_n_is_negative_binomial():
    """Source: scipy.stats.nbinom (failures before the n-th success)."""
    for k in (4, 6, 9):
        found = at(ToNSession(4, k, floor=12), InARow(1), 0.6)
        assert found.passing == pytest.approx(stats.nbinom.cdf(k - 4, 4, 0.6))
        assert found.low == pytest.approx(stats.nbinom.sf(12 - 4, 4, 0.6))


def test_lanes_each_or_pooled():
    each = MakesSession(10, 8, 2, each_lane=True)
    assert at(each, InARow(1), [0.6, 0.9]).passing == pytest.approx(
        stats.binom.sf(7, 10, 0.6) * stats.binom.sf(7, 10, 0.9)
    )
    pooled = MakesSession(10, 8, 2)
    assert at(pooled, InARow(1), [0.7, 0.7]).passing == pytest.approx(stats.binom.sf(15, 20, 0.7))
    by_hand = sum(
        stats.binom.pmf(a, 10, 0.6) * stats.binom.pmf(b, 10, 0.9)
        for a in range(11)
        for b in range(11)
        if a + b >= 16
    )
    assert at(pooled, InARow(1), [0.6, 0.9]).passing == pytest.approx(by_hand)


def test_low_is_low_and_not_a_pass():
    assert at(MakesSession(10, 4, floor=0.8), InARow(1), 0.6).low == pytest.approx(
        stats.binom.cdf(3, 10, 0.6)
    )
    both = at(MakesSession(10, 8, 2, True, floor=0.5), InARow(1), [0.6, 0.6])
    assert both.low == pytest.approx(1 - stats.binom.sf(4, 10, 0.6) ** 2)


MONTE_CARLO = [
    (MakesSession(10, 8, floor=0.5), Rule(InARow(2)), [0.65]),
    (MakesSession(10, 7, 2, True, 0.4), Rule(InARow(2), low_in_a_row=3), [0.55, 0.8]),
    (MakesSession(5, 4, 2, False, 0.5), Rule(Window(3, 5), min_sessions=4), [0.7, 0.6]),
    (MakesSession(10, 8, floor=0.6), Rule(Window(2, 3), low_in_a_row=1), [0.7]),
    (MakesSession(10, 9, floor=0.5), Rule(Volume(reps=50)), [0.5]),
    (StreakSession(30, 5, 2), Rule(InARow(1), min_sessions=3), [0.5]),
]


@pytest.mark.parametrize(("session", "rule", "p"), MONTE_CARLO)
def test_monte_carlo(session, rule, p):
    """40 000 simulated players, session by session, by the words of the rule and not by the
    chain.
    """
    chance, horizon, runs = np.random.default_rng(5), 8, 40_000
    found = odds(session, rule, [p], horizon)[0]
    q, low = session.pass_and_low(p)
    climb, ease = np.zeros(horizon), np.zeros(horizon)
    draws = chance.random((runs, horizon))
    for player in range(runs):
        history = ""
        for number in range(horizon):
            u = draws[player, number]
            history += "p" if u < q else "l" if u < q + low else "n"
            if _climbs(rule, history, session.reps):
                climb[number:] += 1
                break
            if session.floor is not None and history.endswith("l" * rule.low_in_a_row):
                ease[number:] += 1
                break
    assert found.climb_by == pytest.approx(climb / runs, abs=0.009)
    assert found.ease_by == pytest.approx(ease / runs, abs=0.009)


def _climbs(rule, history, reps):
    school = rule.school
    if len(history) < rule.min_sessions:
        return False
    if isinstance(school, InARow):
        return history.endswith("p" * school.passes)
    if isinstance(school, Window):
        return history.endswith("p") and history[-school.of :].count("p") >= school.passes
    return len(history) * reps >= school.reps and not history.endswith("l")


def test_the_end_of_the_chain():
    """Without any chance to pass there is no end; where lows ease, there is one."""
    never = at(EIGHT, InARow(1), 0.0)
    assert (never.climb_before_ease, never.expected_sessions, never.median_sessions) == (
        0,
        None,
        None,
    )
    eased = at(MakesSession(10, 8, floor=0.5), InARow(1), 0.0)
    assert (eased.ease_by[1], eased.climb_before_ease) == (1, 0)
    assert (eased.expected_sessions, eased.median_sessions) == (2, 2)
    sure = at(EIGHT, InARow(3), 1.0)
    assert (sure.expected_sessions, sure.median_sessions, sure.climb_by[:3]) == (3, 3, [0, 0, 1])
    rare = at(MakesSession(30, 30), InARow(1), 0.6)
    assert (rare.climb_before_ease, rare.expected_sessions) == (1, None)


def test_the_median_is_the_first_session_with_half_ended():
    for p in (0.55, 0.7, 0.9):
        for school in (InARow(2), Window(3, 5), Volume(sessions=4)):
            long = at(MakesSession(10, 8, floor=0.4), school, p, 400, min_sessions=3)
            ended = np.add(long.climb_by, long.ease_by)
            assert long.median_sessions == int(np.argmax(ended >= 0.5 - 1e-9)) + 1


def test_evidence_is_simulated_with_its_error():
    rule = Rule(Evidence(0.8, 3))
    one, two = simulate(MakesSession(10, 8), rule, [[0.6], [0.9]], 6, seed=3)
    again = simulate(MakesSession(10, 8), rule, [[0.9]], 6, seed=3)[0]
    assert again.climb_by == two.climb_by
    assert one.climb_by[-1] < 0.1 < 0.8 < two.climb_by[-1]
    c = two.climb_by[2]
    assert two.se[2] == pytest.approx((c * (1 - c) / 4000) ** 0.5)
    first = sum(
        stats.binom.pmf(x, 10, 0.9)
        for x in range(11)
        if stats.beta.sf(0.8, 0.5 + x, 10.5 - x) >= 0.8
    )
    assert two.climb_by[0] == pytest.approx(first, abs=4 * two.se[0])


ASK = {
    "p_not_ready": 0.6,
    "p_ready": 0.85,
    "alpha": 0.1,
    "beta": 0.1,
    "horizon": 6,
    "max_attempts": 30,
}


@pytest.mark.parametrize("school", [InARow(1), InARow(2), InARow(3), Window(2, 3), Window(3, 4)])
def test_the_rule_finder_finds_the_first_that_keeps_both_risks(school):
    rule, question = Rule(school), Question(**ASK)
    found = find_rule(question, rule)

    def risks(n, k):
        climbs = [at(MakesSession(n, k), school, p).climb_by[-1] for p in (0.6, 0.85)]
        return climbs[0], 1 - climbs[1]

    assert (found.false_climb, found.held_back) == pytest.approx(risks(found.n, found.k))
    for n in range(1, found.n + 1):
        safe = [k for k in range(n + 1) if risks(n, k)[0] <= 0.1]
        holds = bool(safe) and risks(n, safe[0])[1] <= 0.1
        assert holds == (n == found.n)
    assert found.k == safe[0]


def test_the_finder_over_lanes():
    """Each of two lanes at the mark: the risks are those of the exact chain over both; a shared
    mark over two lanes is one over an even number of attempts.
    """
    each = find_rule(Question(**ASK, lanes=2), Rule(InARow(2)))
    climbs = [
        at(MakesSession(each.n, each.k, 2, True), InARow(2), [p, p]).climb_by[-1]
        for p in (0.6, 0.85)
    ]
    assert (each.false_climb, 1 - each.held_back) == pytest.approx(climbs)
    shared = find_rule(Question(**ASK, step=2), Rule(InARow(2)))
    single = find_rule(Question(**ASK), Rule(InARow(2)))
    assert shared.n % 2 == 0
    assert single.n <= shared.n <= single.n + 4


def test_a_classical_acceptance_plan_is_found():
    """Source: tables of single-sampling plans (binomial): p1 = 0.05, alpha = 0.05, p2 = 0.2, beta =
    0.1 asks for about 38 pieces and 4 rejects (Hald's and Montgomery's nomograph, from memory: n
    near 38, c = 4).
    """
    question = Question(0.8, 0.95, 0.1, 0.05, 1, 100)
    found = find_rule(question, Rule(InARow(1)))
    assert found.n - found.k == 4
    assert abs(found.n - 38) <= 1
    assert stats.binom.sf(found.k - 1, found.n, 0.8) <= 0.1
    assert stats.binom.cdf(found.k - 1, found.n, 0.95) <= 0.05


def test_what_no_mark_can_do_is_said():
    assert (
        "up to 4 attempts"
        in find_rule(Question(**{**ASK, "max_attempts": 4}), Rule(InARow(1))).reason
    )
    for school in (Evidence(0.8, 3), Volume(reps=9)):
        found = find_rule(Question(**ASK), Rule(school))
        assert found.n is None
        assert found.reason
