"""What counts and what does not, to the letter: each of these once could be changed in the code
without a test noticing (./ladder mutate, and by hand).
"""

import numpy as np
import pytest
import scipy.stats

from drill_ladder.core.hall import Beam, Beat, runs_of
from drill_ladder.core.judging import InARow, Trust, Window, decide
from drill_ladder.core.judging.decision import PRODUCT
from drill_ladder.core.judging.ladders import Evidence, Rule, Target
from drill_ladder.core.judging.schools import Standing, posteriors
from drill_ladder.core.judging.sessions import by_day, pool
from drill_ladder.core.judging.verdicts import judge
from drill_ladder.core.odds.day_spread import _marks
from drill_ladder.core.odds.evidence import _low, simulate
from drill_ladder.core.odds.session_chances import MakesSession, StreakSession, ToNSession
from tests.core.build import ladder, made, on, rung


def said(steps, *sessions, **more):
    return decide(steps, "r1", sessions, on(30), **more)


def three(school, **gates):
    more = {name: gates.pop(name) for name in ("floor", "ease") if name in gates}
    return ladder(*(rung(f"r{i}", **more) for i in (1, 2, 3)), school=school, **gates)


def test_a_window_that_is_full_enough_waits_for_a_pass_today():
    """Two of the last three passed, and the latest is none of them: not now."""
    window = three(Window(2, 3))
    found = said(window, made(25, 8), made(26, 8), made(27, 7))
    assert (found.kind, dict(found.missing[0].numbers)) == ("hold", {"have": 2, "need": 2})
    assert said(window, made(25, 8), made(26, 7), made(27, 8)).kind == "climb"


def test_eased_days_say_nothing_in_evidence():
    """They add no attempts, and they age nothing."""
    sure = three(Evidence(0.9, 3), ease="bigger gate", skip_at=None)
    plain = said(sure, made(25, 8), made(29, 8))
    beside = said(sure, made(25, 8), made(27, 2, eased=True), made(29, 8))
    assert beside.missing[0].numbers == plain.missing[0].numbers


def test_eased_days_are_no_points_of_a_trend():
    """Six days that get worse, one more made easier at the end: still no progress."""
    steps = three(InARow(3), ease="bigger gate", skip_at=None)
    down = [made(20 + day, score) for day, score in enumerate((7, 7, 6, 6, 5, 5))]
    assert said(steps, *down).kind == "stalled"
    eased = [made(26 + day, 10, eased=True) for day in range(3)]
    assert said(steps, *down, *eased).kind == "stalled"


def test_the_least_number_of_sessions_asks_nobody_who_saw_them():
    steps = three(InARow(1), trust=Trust.OBSERVED_ONLY, min_sessions=3, skip_at=None)
    alone = [made(day, 9, seen="self") for day in (27, 28)]
    assert said(steps, *alone, made(29, 9)).kind == "climb"
    assert said(steps, *alone[:1], made(29, 9)).kind == "hold"


def test_nobody_skips_without_a_pass():
    """All made, but fewer than the form asks for: clear by the numbers, and no pass."""
    at = rung("r1", target=Target(makes=8, of=10, form_min=0.8))
    steps = ladder(at, rung("r2"), rung("r3"), school=InARow(1))
    assert said(steps, made(29, 10, form=0.9)).kind == "skip"
    assert said(steps, made(29, 10, form=0.5)).kind == "hold"


def test_what_is_done_tired_does_not_judge_a_day_that_was_seen_fresh():
    """Seen fresh 8 of 10, seen tired 2 of 10, alone 2 of 10: the fresh one alone is judged."""
    steps = three(InARow(1), skip_at=None)
    day = [made(29, 8), made(29, 2, tired=True), made(29, 2, seen="self")]
    assert said(steps, *day, settings=PRODUCT).kind == "climb"


def test_a_days_attempts_count_less_by_the_design_effect():
    """Worked by hand: ten attempts at r = 0.1 count 10 / (1 + 9 x 0.1), one attempt as one."""
    steps = ladder(rung(), school=Evidence(0.9, 3))
    for of, less in ((10, 1.9), (1, 1.0)):
        at = steps.rungs[0]
        days = [judge(at, 0.0, pool(d, at.measure, at.dose)) for d in by_day([made(1, 1, of=of)])]
        found = posteriors(Standing.of(at, steps.rule, days, (), 0.1))
        assert found[None] == (pytest.approx(0.5 + 1 / less), pytest.approx(0.5 + (of - 1) / less))


# --- gates


def beats(*moments):
    return [Beat(Beam.START, True, at) for at in moments]


def test_a_burst_goes_on_as_long_as_breaks_follow_each_other():
    """Slow legs through a beam: 300 ms from break to break, 900 in all, are one runner; what comes
    exactly at the end of a burst is of it, and a moment later is not.
    """
    finish = [Beat(Beam.FINISH, True, 9_000)]
    assert runs_of([*beats(0, 300, 600, 900), *finish]).runs[0].start == 0
    assert runs_of([*beats(0, 400), *finish]).runs[0].start == 0
    assert runs_of([*beats(0, 401), *finish]).runs[0].start == 401


# --- odds: a floor is a share, and a session is low under it in whole ones


@pytest.mark.parametrize(
    ("floor", "of", "low_at_most"), [(0.55, 10, 5), (0.5, 10, 4), (0.34, 9, 3), (0.3, 9, 2)]
)
def test_a_floor_in_whole_makes_is_rounded_up(floor, of, low_at_most):
    session = MakesSession(of, of, floor=floor)
    _, low = session.pass_and_low([0.4])
    assert low == pytest.approx(scipy.stats.binom.cdf(low_at_most, of, 0.4))
    assert _marks(session)[1] == low_at_most + 1
    makes = np.array([[low_at_most], [low_at_most + 1]])
    assert _low(session, makes, of).tolist() == [True, False]


def test_a_floor_between_whole_ones_is_rounded_towards_the_better_side():
    """A run of 2.5 asks for three; 12.5 attempts at most are twelve."""
    streak, to_n = StreakSession(10, 5, floor=2.5), ToNSession(3, 8, floor=12.5)
    assert (_marks(streak)[1], _marks(to_n)[1]) == (3, 12)
    _, low = streak.pass_and_low([0.5])
    assert low == StreakSession(10, 5, floor=3.0).pass_and_low([0.5])[1]
    assert low != StreakSession(10, 5, floor=2.0).pass_and_low([0.5])[1]
    _, late = to_n.pass_and_low([0.3])
    assert late == pytest.approx(scipy.stats.nbinom.sf(12 - 3, 3, 0.3))


def test_a_tired_result_that_was_seen_does_not_outweigh_a_fresh_one_that_was_not():
    steps = three(InARow(1), skip_at=None)
    day = [made(29, 10, tired=True), made(29, 2, seen="self")]
    assert said(steps, *day, settings=PRODUCT).kind == "hold"


def test_simulated_evidence_climbs_and_eases_on_the_very_session():
    """Who never misses climbs on the third session where three are asked; who never hits is eased
    on the second low one: without any chance in it.
    """
    rule = Rule(Evidence(0.6, 3), min_sessions=3, low_in_a_row=2)
    good, bad = simulate(MakesSession(10, 8, floor=0.5), rule, [[1.0], [0.0]], 4, runs=3)
    assert good.climb_by == [0.0, 0.0, 1.0, 1.0]
    assert bad.ease_by == [0.0, 1.0, 1.0, 1.0]
