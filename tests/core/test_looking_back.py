"""Replaying rules, calibration and a ladder's steps, against survival and statistics packages."""

import random
from collections import Counter
from dataclasses import replace
from datetime import date, timedelta
from math import inf

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from lifelines import KaplanMeierFitter
from lifelines.utils import median_survival_times
from scipy import stats
from statsmodels.duration.survfunc import CumIncidenceRight
from statsmodels.stats.proportion import proportion_confint

from drill_ladder.core.judging import (
    Dose,
    InARow,
    Kind,
    Ladder,
    Makes,
    Observer,
    Rule,
    Rung,
    Session,
    SetResult,
    Target,
    Volume,
    Window,
    decide,
)
from drill_ladder.core.looking_back import (
    Flag,
    Left,
    PastStay,
    RungStay,
    backtest,
    calibration_of,
    health_of,
    incidence,
    median_time,
    median_up,
    skill_of,
)

D = date(2026, 3, 2)
RUNG = Rung("r", Makes(), Dose(reps=10), Target(8, 10), floor=0.4)
CODES = {Left.UP: 1, Left.DOWN: 2, Left.OPEN: 0}

ends = st.lists(st.tuples(st.integers(1, 12), st.sampled_from(list(Left))), min_size=1, max_size=30)


@settings(max_examples=150, deadline=None)
@given(ends)
def test_leaving_upwards_is_the_aalen_johansen_estimate(times):
    """Against statsmodels' CumIncidenceRight, which keeps ties."""
    if not any(left is not Left.OPEN for _, left in times):
        assert incidence(times) == []
        return
    t, codes = np.array([t for t, _ in times]), np.array([CODES[left] for _, left in times])
    with np.errstate(all="ignore"):  # its standard error where nobody is left
        known = CumIncidenceRight(t, codes)
    ours = dict(incidence(times))
    at = {float(time): i for i, time in enumerate(known.times)}
    if any(left is Left.UP for _, left in times):
        for time, share in ours.items():
            assert share == pytest.approx(known.cinc[0][at[float(time)]], abs=1e-12)
    else:
        assert set(ours.values()) == {0.0}


@settings(max_examples=150, deadline=None)
@given(st.lists(st.tuples(st.integers(1, 12), st.booleans()), min_size=1, max_size=30))
def test_without_a_competing_end_the_median_is_that_of_kaplan_and_meier(times):
    """Against lifelines' KaplanMeierFitter."""
    fitted = KaplanMeierFitter().fit([t for t, _ in times], [moved for _, moved in times])
    survival = fitted.survival_function_["KM_estimate"]
    reached = [t for t, alive in survival.items() if alive <= 0.5 + 1e-9]
    ours = median_up([(t, Left.UP if moved else Left.OPEN) for t, moved in times])
    assert ours == (int(reached[0]) if reached else None)


def stays(n, sessions, left=Left.UP, first=0.4, below=0.7, rung="b", low=False):
    """So many alike."""
    return [RungStay(rung, sessions, left, first, below, low) for _ in range(n)]


@settings(max_examples=80, deadline=None)
@given(st.lists(st.tuples(st.floats(0, 1), st.floats(0, 1)), min_size=2, max_size=20))
def test_the_step_is_a_paired_difference_with_a_t_interval(pairs):
    """Against scipy's ttest_rel."""
    told = [s for p in pairs for s in stays(1, 3, first=p[0], below=p[1])]
    [_, b] = health_of(["a", "b"], told).rungs
    first, below = np.array(pairs).T
    assert b.step == pytest.approx((below - first).mean())
    if np.ptp(below - first) > 1e-6:
        known = stats.ttest_rel(below, first).confidence_interval(0.95)
        assert (b.low, b.high) == (pytest.approx(known.low), pytest.approx(known.high))
    assert b.pairs == len(pairs)


def test_a_cliff_a_rung_that_is_no_step_and_a_wall():
    ladder = ["a", "b", "c"]
    cliff = health_of(ladder, stays(8, 3) + stays(8, 3, rung="a"))
    assert cliff.rungs[1].flags == [Flag.CLIFF]
    assert cliff.rungs[0].flags == []  # the easiest has no rung below
    assert (cliff.rungs[0].step, cliff.rungs[0].pairs) == (None, 0)
    assert cliff.rungs[2].flags == [Flag.TOO_FEW]
    assert cliff.median == 3
    at_once = stays(5, 1, first=0.8, below=0.8) + stays(4, 2, first=0.8, below=0.8)
    assert health_of(ladder, at_once).rungs[1].flags == [Flag.NO_STEP]
    assert health_of(ladder, at_once[1:]).rungs[1].flags == []  # half is not more than half
    was_low = [*at_once[:-1], *stays(1, 2, first=0.8, below=0.8, low=True)]
    assert health_of(ladder, was_low).rungs[1].flags == []
    wall = stays(12, 2, rung="a") + stays(8, 4, first=None)
    assert health_of(ladder, wall).rungs[1].flags == [Flag.WALL]
    assert health_of(ladder, wall[12:]).rungs[1].flags == []  # alone it is the whole ladder
    stuck = stays(20, 2, rung="a") + stays(8, 9, left=Left.OPEN, first=None)
    assert (health_of(ladder, stuck).rungs[1].median, health_of(ladder, stuck).median) == (None, 2)
    assert health_of(ladder, stuck).rungs[1].flags == [Flag.WALL]


def test_few_stays_say_nothing_and_stays_of_no_session_are_left_out():
    seven = health_of(["a", "b"], stays(7, 3) + stays(5, 0))
    assert (seven.rungs[1].stays, seven.rungs[1].flags) == (7, [Flag.TOO_FEW])
    assert (seven.rungs[1].step, seven.rungs[1].up_share) == (pytest.approx(0.3), 1.0)
    one = health_of(["a", "b"], stays(1, 3)).rungs[1]
    assert (one.pairs, one.low, one.high) == (1, None, None)
    assert health_of([], []).rungs == []
    assert health_of(["a"], []).rungs[0].up_share is None


@settings(max_examples=100, deadline=None)
@given(st.lists(st.tuples(st.floats(0, 1), st.booleans()), min_size=1, max_size=60))
def test_forecasts_against_what_happened(forecasts):
    """Bins against numpy, intervals against statsmodels, the score against its definition."""
    found = calibration_of(forecasts)
    p, hit = np.array(forecasts).T
    assert found.brier == pytest.approx(((p - hit) ** 2).mean())
    assert found.brier_base == pytest.approx(hit.mean() * (1 - hit.mean()))
    assert sum(one.n for one in found.bins) == found.n == len(forecasts)
    for one in found.bins:
        inside = hit[(p >= one.from_ - 1e-9) & ((p < one.to - 1e-9) | (one.to == 1))]
        assert (one.n, one.share) == (len(inside), pytest.approx(inside.mean()))
        known = proportion_confint(inside.sum(), len(inside), method="wilson")
        assert (one.low, one.high) == (pytest.approx(known[0], abs=1e-12), pytest.approx(known[1]))


def test_an_edge_belongs_to_the_bin_above_and_certainty_to_the_last():
    edges = calibration_of([(i / 10, True) for i in range(11)])
    assert [one.n for one in edges.bins] == [1] * 9 + [2]
    assert [one.from_ for one in edges.bins] == [i / 10 for i in range(10)]
    assert calibration_of([]) == calibration_of([]) != edges
    assert calibration_of([]).brier is None


def session(day, makes, **more):
    """Ten attempts seen by the coach."""
    sets = (SetResult(attempts=more.pop("attempts", 10), makes=makes),)
    return Session(D + timedelta(days=day), Observer.COACH, sets, **more)


def past(*makes, moved=Left.UP, came_back=None):
    """A stay with a session a day."""
    sessions = tuple(session(i, m) for i, m in enumerate(makes))
    return PastStay(sessions, moved, came_back)


def test_a_rule_that_asks_for_more_makes_wait():
    """By hand: eight, six, nine, eight of ten against one pass and two in a row."""
    told = [past(8, 6, 9, 8, came_back=True), past(9, came_back=False), past(7, moved=Left.DOWN)]
    one, two = backtest(RUNG, [Rule(InARow(1)), Rule(InARow(2))], told)
    assert (one.moves, one.by_then, one.later) == (2, 2, 0)
    assert (one.back_if_moved.n, one.back_if_moved.of) == (1, 2)
    assert one.median_sessions == 1
    # a pass of 0.9 on the first day is a skip only from 0.95 on, so that the second one waits
    assert (two.moves, two.by_then, two.later) == (1, 1, 1)
    assert (two.back_if_moved.n, two.back_if_moved.of) == (1, 1)
    assert (two.back_if_waited.n, two.back_if_waited.of) == (0, 1)
    assert two.median_sessions == 4


def test_short_days_take_no_place_and_extra_practice_counts_as_volume():
    short = PastStay((session(0, 1, attempts=3), session(1, 8)), Left.UP)
    [found] = backtest(RUNG, [Rule(InARow(1))], [short])
    assert found.median_sessions == 1
    more = session(1, 30, attempts=30, extra=True)
    work = PastStay((session(0, 8), session(1, 8), more), Left.UP)
    [volume] = backtest(RUNG, [Rule(Volume(reps=50), skip_at=None)], [work])
    assert (volume.moves, volume.median_sessions) == (1, 2)
    [empty] = backtest(RUNG, [Rule(InARow(1))], [PastStay((), Left.OPEN)])
    assert (empty.moves, empty.median_sessions) == (0, None)


makes = st.lists(st.integers(0, 10), max_size=9)
rules = st.sampled_from([InARow(1), InARow(2), InARow(3), Window(2, 3), Volume(sessions=3)])


@settings(max_examples=80, deadline=None)
@given(makes, rules)
def test_the_replay_moves_when_decide_would(found, school):
    """The first day on which `decide` itself says climb, skip or finish."""
    ladder = Ladder(tuple(replace(RUNG, id=f"r{i}") for i in range(3)), Rule(school))
    told = past(*found)
    first = next(
        (
            n
            for n in range(1, len(found) + 1)
            if decide(ladder, "r0", told.sessions[:n], told.sessions[n - 1].on).kind
            in (Kind.CLIMB, Kind.SKIP, Kind.FINISH)
        ),
        inf,
    )
    [replayed] = backtest(RUNG, [Rule(school)], [told])
    assert replayed.moves == (first < inf)
    assert replayed.median_sessions == (first if first < inf else None)


def test_who_waits_and_who_goes_are_all_who_went_up():
    told = [past(*m) for m in ((8, 8), (9, 3), (2, 9), (8,), (10,))]
    for found in backtest(RUNG, [Rule(InARow(n)) for n in (1, 2, 3)], told):
        assert found.by_then + found.later == Counter(s.moved for s in told)[Left.UP]


def test_the_median_and_its_interval_are_those_of_lifelines():
    """Its median_survival_times of the fit and of its confidence interval."""
    chance = random.Random(7)
    for size in (12, 30, 80):
        times = [(chance.randint(1, 25), chance.random() < 0.8) for _ in range(size)]
        fit = KaplanMeierFitter().fit([t for t, _ in times], [hit for _, hit in times])
        band = median_survival_times(fit.confidence_interval_survival_function_)
        theirs = [fit.median_survival_time_, *sorted(float(end) for end in band.iloc[0])]
        found = median_time(times)
        assert [inf if n is None else n for n in (found.value, found.low, found.high)] == theirs
    assert median_time([]) == median_time([(3, False)])
    assert median_time([(3, False)]).value is None


def test_a_forecast_is_better_only_where_that_can_be_told():
    chance = random.Random(3)
    knows = [(p, chance.random() < p) for p in (0.15, 0.85) * 40]
    found = skill_of(knows)
    assert found.better
    assert found.uncertain == 80
    table = stats.ttest_1samp(
        [(_share(knows) - hit) ** 2 - (p - hit) ** 2 for p, hit in knows], 0.0
    )
    interval = table.confidence_interval(0.95)
    assert found.low == pytest.approx(interval.low, abs=0.003)
    coin = [(0.5 + 0.2 * (i % 2), chance.random() < 0.5) for i in range(80)]
    assert not skill_of(coin).better
    assert not skill_of(knows[:49]).better
    sure = skill_of([(1.0, True), (0.0, True), (1.0, True)])
    assert (sure.certain, sure.right, sure.gain) == (3, 2, None)


def _share(forecasts):
    return sum(hit for _, hit in forecasts) / len(forecasts)
