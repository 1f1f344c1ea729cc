"""Weeks, stations, cues, floor plans, forecasts."""

from collections import Counter
from datetime import date, timedelta
from itertools import pairwise, product
from unittest import mock

import numpy as np
import pytest
import scipy
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from drill_ladder.core.coaching.cues import calls, sequence
from drill_ladder.core.errors import CoreError
from drill_ladder.core.judging import Mode
from drill_ladder.core.judging.ladders import Intent
from drill_ladder.core.planning.stations import Station, rotate
from drill_ladder.core.planning.week import Day, Wish, allowed, plan_week, plan_within
from drill_ladder.core.planning.week_checks import breaks
from drill_ladder.core.plans import FloorPlan, Marker, Unit
from drill_ladder.core.plans.layout import (
    Leg,
    Plan,
    footprint,
    implausible,
    largest_scale,
    leg_lengths,
    mean_speed,
    turns,
)
from drill_ladder.core.statistics.forecast import Completion, forecast_of, weeks_in_a_row

D = date(2026, 3, 2)


def day(n, minutes=30, place="home", **more):
    return Day(D + timedelta(days=n), minutes, place, **more)


small_days = st.lists(
    st.tuples(st.integers(0, 5), st.integers(0, 60), st.sampled_from(["home", "club"])),
    max_size=4,
    unique_by=lambda d: d[0],
).map(lambda found: [day(n, m, p) for n, m, p in found])
small_wishes = st.lists(
    st.builds(
        Wish,
        st.just(""),
        st.integers(1, 3),
        st.sampled_from([10, 20, 35]),
        st.integers(1, 2),
        st.sampled_from([Intent.SPEED, Intent.SKILL]),
        st.sampled_from([frozenset(), frozenset({"home"})]),
        rest_day_between=st.booleans(),
    ),
    max_size=3,
).map(lambda found: [Wish(**{**_fields(w), "id": f"w{i}"}) for i, w in enumerate(found)])


def _fields(wish):
    return {name: getattr(wish, name) for name in wish.__dataclass_fields__}


def holds(chosen, days, wishes):
    """Whether a set of (day, wish) pairs breaks nothing, by the words of the design."""
    for d in range(len(days)):
        inside = [wishes[w] for dd, w in chosen if dd == d]
        if sum(w.minutes for w in inside) > days[d].minutes:
            return False
        if sum(w.intent is Intent.SPEED for w in inside) > 1:
            return False
    for w, wish in enumerate(wishes):
        ons = sorted(days[d].on for d, ww in chosen if ww == w)
        if len(ons) > wish.per_week:
            return False
        if wish.rest_day_between and any((b - a).days < 2 for a, b in pairwise(ons)):
            return False
    return True


def beyond_one(dates):
    """How many days the longest run of neighbouring days has beyond one."""
    run = longest = 0
    for a, b in pairwise(sorted(dates)):
        run = run + 1 if (b - a).days == 1 else 0
        longest = max(longest, run)
    return longest


def best_by_brute_force(days, wishes, fixed=(), spread=False):
    """(Blocks of priority 1, of priority 2, runs where they are spread, sum of ages) of the best of
    all plans that hold what is fixed.
    """
    pairs = [
        (d, w) for d in range(len(days)) for w in range(len(wishes)) if allowed(days[d], wishes[w])
    ]
    first = min((d.on for d in days), default=D)
    best = (0, 0, 0, 0)
    for take in product((False, True), repeat=len(pairs)):
        chosen = [pair for pair, taken in zip(pairs, take, strict=True) if taken]
        if set(fixed) <= set(chosen) and holds(chosen, days, wishes):
            counts = [sum(wishes[w].priority == level for _, w in chosen) for level in (1, 2)]
            of = [[days[d].on for d, w in chosen if w == i] for i in range(len(wishes))]
            runs = -sum(map(beyond_one, of)) if spread else 0
            ages = -sum((days[d].on - first).days for d, _ in chosen)
            best = max(best, (*counts, runs, ages))
    return best


@settings(max_examples=60, deadline=None)
@given(small_days, small_wishes)
def test_small_weeks_by_brute_force(days, wishes):
    days = sorted(days, key=lambda d: d.on)
    blocks, unmet = plan_week(days, wishes)
    index = {w.id: i for i, w in enumerate(wishes)}
    at = {d.on: i for i, d in enumerate(days)}
    chosen = [(at[b.on], index[b.id]) for b in blocks]
    assert holds(chosen, days, wishes)
    counts = [sum(wishes[w].priority == level for _, w in chosen) for level in (1, 2)]
    first = min((d.on for d in days), default=D)
    ages = -sum((b.on - first).days for b in blocks)
    assert (*counts, 0, ages) == best_by_brute_force(days, wishes)
    given_to = Counter(b.id for b in blocks)
    assert {u.id: u.given for u in unmet} == {
        w.id: given_to[w.id] for w in wishes if given_to[w.id] < w.per_week
    }


@settings(max_examples=60, deadline=None)
@given(small_days, small_wishes)
def test_a_spread_week_by_brute_force(days, wishes):
    """The counts as without it, then the shortest runs, then the earliest days."""
    blocks, _, proven = plan_within(days, wishes, spread=True)
    index = {w.id: i for i, w in enumerate(wishes)}
    counts = [sum(wishes[index[b.id]].priority == level for b in blocks) for level in (1, 2)]
    runs = sum(beyond_one([b.on for b in blocks if b.id == w.id]) for w in wishes)
    first = min((d.on for d in days), default=D)
    ages = sum((b.on - first).days for b in blocks)
    best = best_by_brute_force(days, wishes, spread=True)
    assert ((*counts, -runs, -ages), proven) == (best, True)


@pytest.mark.parametrize(
    ("often", "weekdays"),
    [(2, [0, 2]), (3, [0, 2, 4]), (4, [0, 2, 4, 6]), (5, [0, 1, 3, 4, 6])],
)
def test_a_whole_week_is_spread(often, weekdays):
    days = [Day(D + timedelta(days=n), 30, "home") for n in range(7)]
    blocks = plan_within(days, [Wish("a", often, 10, 1)], spread=True).blocks
    assert [(b.on - D).days for b in blocks] == weekdays


@settings(max_examples=30, deadline=None)
@given(small_days, small_wishes)
def test_a_plan_whose_nodes_are_used_up_keeps_every_rule(days, wishes):
    """The solver stops at once and knows nothing, or stops with what it knows."""
    days = sorted(days, key=lambda d: d.on)
    best, unmet = plan_week(days, wishes)
    real = scipy.optimize.milp
    for nothing in (True, False):

        def stopped(*given, nothing=nothing, **options):
            found = real(*given, **options | {"options": {"mip_rel_gap": 0}})
            found.status, found.x = 1, None if nothing else found.x
            return found

        with mock.patch("scipy.optimize.milp", stopped):
            blocks, _, proven = plan_within(days, wishes, (), 5)
        assert proven is (not days or not wishes)
        assert blocks == ([] if nothing else best)
        assert breaks(days, wishes, blocks) == []
    assert plan_within(days, wishes, (), 10_000) == (best, unmet, True)


@settings(max_examples=60, deadline=None)
@given(small_days, small_wishes, st.data())
def test_small_weeks_around_a_fixed_block_by_brute_force(days, wishes, data):
    """A block that somebody put where it may be: the rest is still the best that can be done around
    it.
    """
    days = sorted(days, key=lambda d: d.on)
    pairs = [
        (d, w) for d in range(len(days)) for w in range(len(wishes)) if allowed(days[d], wishes[w])
    ]
    assume(pairs)
    d, w = data.draw(st.sampled_from(pairs))
    blocks, _ = plan_week(days, wishes, [(days[d].on, wishes[w].id)])
    assert (days[d].on, wishes[w].id) in {(b.on, b.id) for b in blocks}
    level = {wish.id: wish.priority for wish in wishes}
    counts = [sum(level[b.id] == n for b in blocks) for n in (1, 2)]
    ages = sum((b.on - days[0].on).days for b in blocks)
    assert (*counts, 0, -ages) == best_by_brute_force(days, wishes, [(d, w)])


@pytest.mark.parametrize(
    ("wish", "why"),
    [
        ({"places": frozenset({"moon"})}, "place"),
        ({"equipment": frozenset({"bench"})}, "equipment"),
        ({"helpers": 2}, "helpers"),
        ({"adult": True}, "adult"),
        ({"minutes": 31}, "minutes"),
        ({"per_week": 4}, "days"),
        ({"rest_day_between": True, "per_week": 3}, "spacing"),
        ({"intent": Intent.SPEED, "per_week": 3}, "speed"),
        ({"per_week": 3, "minutes": 25}, "minutes"),
    ],
)
def test_why_not(wish, why):
    days = [day(0), day(1), day(2)]
    other = Wish(**{"id": "x", "per_week": 2, "minutes": 10, "priority": 2, **wish})
    wishes = [Wish("sprint", 3, 10, 1, Intent.SPEED), other]
    blocks, unmet = plan_week(days, wishes)
    assert [(u.id, u.why) for u in unmet] == [("x", why)]
    assert blocks == plan_week(days[::-1], wishes)[0]


def test_order_inside_a_day():
    wishes = [
        Wish("e", 1, 5, 1, Intent.ENDURANCE),
        Wish("p", 1, 5, 1, Intent.PRESSURE),
        Wish("b", 1, 5, 2),
        Wish("a", 1, 5, 1),
        Wish("s", 1, 5, 3, Intent.SPEED),
    ]
    blocks, _ = plan_week([day(0)], wishes)
    assert [(b.id, b.order) for b in blocks] == [("s", 1), ("a", 2), ("b", 3), ("p", 4), ("e", 5)]
    assert plan_week([], wishes)[1][0].why == "days"
    assert plan_week([day(0)], []) == ([], [])


GATE, WALL = Station("gate", 2, ("worker", "feeder"), 5), Station("wall", 2, ("worker",), 4)


@pytest.mark.parametrize("players", [4, 5, 7, 12])
def test_everybody_gets_the_same(players):
    found = rotate(players, [GATE, WALL], 120, 20)
    assert len(found.slots) == players
    for share in found.players:
        assert (share.stations, share.roles) == ({"gate": 2, "wall": 2}, {"worker": 3, "feeder": 1})
        assert share.reps == 24 + 2 * 30
    for slot in found.slots:
        assert len({turn.player for turn in slot}) == len(slot) == 4
    assert found.idle_share == pytest.approx(1 - 4 / players)


def test_the_gain_by_hand():
    """4 players, 4 slots of 120 s and 3 changes of 20 s: 540 s, 270 s a station, 54 + 67.5 reps for
    4 queueing.
    """
    found = rotate(4, [GATE, WALL], 120, 20)
    assert found.queue_reps == pytest.approx((270 / 5 + 270 / 4) / 4)
    assert found.gain == pytest.approx(84 / found.queue_reps - 1)


def test_what_cannot_be_filled_is_left_out():
    found = rotate(3, [GATE, WALL, Station("solo", 1, ("worker",), 3)], 60)
    assert found.left_out == ["wall"]
    assert {t.station for slot in found.slots for t in slot} == {"gate", "solo"}
    with pytest.raises(CoreError, match="no station"):
        rotate(1, [GATE, WALL], 60)


@given(st.integers(1, 6), st.integers(0, 60), st.integers(1, 3), st.integers(0, 99))
def test_random_cues_are_even_and_never_too_long_in_a_row(kinds, n, max_run, seed):
    cues = [f"c{i}" for i in range(kinds)]
    found = sequence(cues, n, Mode.RANDOM, max_run, seed)
    counts = [found.count(cue) for cue in cues]
    assert sum(counts) == n
    assert max(counts) - min(counts) <= 1
    assert found == sequence(cues, n, Mode.RANDOM, max_run, seed)
    if kinds > 1:
        assert all(len(set(found[i : i + max_run + 1])) > 1 for i in range(n - max_run))


def test_known_and_serial_cues():
    assert "".join(sequence("lrc", 8, Mode.KNOWN)) == "lllrrrcc"
    assert "".join(sequence("lrc", 8, Mode.SERIAL)) == "lrclrclr"
    surplus = {max("lr", key=sequence("lr", 5, Mode.RANDOM, seed=s).count) for s in range(20)}
    assert surplus == {"l", "r"}


def test_calls_with_delays_and_leave_it_cues():
    found = calls(["l"] * 40, (0.5, 1.5), leave_share=0.25, late_share=0.1, seed=2)
    assert (sum(c.leave for c in found), sum(c.late for c in found)) == (10, 4)
    assert all(0.5 <= c.delay_s <= 1.5 for c in found)
    assert calls([], (0, 1)) == []


T = Plan(
    {"start": (0, 0), "mid": (0, 10), "left": (-5, 10), "right": (5, 10)},
    [
        Leg("start", "mid"),
        Leg("mid", "left"),
        Leg("left", "right"),
        Leg("right", "mid"),
        Leg("mid", "start"),
    ],
)


def test_a_t_by_hand():
    assert leg_lengths(T) == [10, 5, 10, 5, 10]
    found = turns(T)
    assert (found.left, found.right, found.about) == (2, 0, 2)
    assert footprint(T) == (10, 10)
    assert mean_speed(T, 10) == 4
    assert implausible(T, 6) is True
    assert implausible(T, 8) is False
    straight = Plan({"a": (0, 0), "b": (0, 40)}, [Leg("a", "b")])
    assert implausible(straight, 5) is False
    assert implausible(straight, 4) is True


def test_mirrored_turns_change_sides():
    corners = {"a": (0, 0), "b": (0, 2), "c": (2, 2), "d": (2, 0)}
    drawn = FloorPlan(
        Unit.M,
        tuple(Marker(name, x, y) for name, (x, y) in corners.items()),
        tuple(Leg(a, b) for a, b in ("ab", "bc", "cd", "da")),
    )
    square, mirrored = drawn.metres, drawn.mirrored.metres
    assert (turns(square).right, turns(square).left) == (3, 0)
    assert (turns(mirrored).left, turns(mirrored).right) == (3, 0)


@pytest.mark.parametrize(
    ("angle", "kind"), [(15, None), (15.1, "left"), (165, "left"), (165.1, "about"), (-90, "right")]
)
def test_where_a_turn_begins_and_ends(angle, kind):
    way = np.radians(90 + angle)
    plan = Plan(
        {"a": (0, 0), "b": (0, 1), "c": (np.cos(way), 1 + np.sin(way))},
        [Leg("a", "b"), Leg("b", "c")],
    )
    found = turns(plan)
    counted = {name: getattr(found, name) for name in ("left", "right", "about")}
    assert counted == {name: int(name == kind) for name in counted}


def test_legs_of_no_length_and_legs_apart():
    points = {"a": (0, 0), "b": (0, 1), "c": (1, 1)}
    still = Plan(points, [Leg("a", "b"), Leg("b", "b"), Leg("b", "c")])
    apart = Plan(points, [Leg("a", "b"), Leg("a", "c")])
    assert (turns(still).right, turns(apart).right) == (1, 0)


def test_fitting_a_space():
    plan = Plan({"a": (0, 0), "b": (4, 8)}, [], margin=1)
    assert largest_scale(plan, (6, 10)) == 1
    assert largest_scale(plan, (10, 6)) == 1
    assert largest_scale(plan, (6, 6)) == pytest.approx(0.5)
    assert largest_scale(plan, (1.9, 20)) is None
    assert largest_scale(Plan({"a": (0, 0)}, [], margin=1), (2, 2)) == 1
    flat = Plan({"a": (0, 0), "b": (0, 8)}, [])
    assert largest_scale(flat, (0, 4)) == pytest.approx(0.5)


def test_zones_widen_the_footprint():
    assert footprint(Plan({"a": (0, 0)}, [], [[(-1, 0), (2, 3)]], 0.5)) == (4, 4)


def test_forecast():
    """The mean of the two-level bootstrap is rungs x mean stay; its spread is wider than of one
    level.
    """
    found = forecast_of([3, 4, 6], 3, 2.5)
    assert found.sessions[0] <= found.sessions[1] <= found.sessions[2]
    assert found.weeks == pytest.approx([s / 2.5 for s in found.sessions])
    assert forecast_of([4, 4, 4], 3, 2).sessions == [12, 12, 12]
    assert forecast_of([3, 4], 3, 2).sessions is None
    assert forecast_of([3, 4, 5], 0, 2).weeks == [0, 0, 0]
    assert forecast_of([3, 4, 5], 2, 0).weeks is None
    assert (
        forecast_of([3, 4, 6], 3, 2.5, seed=7).sessions
        == forecast_of([3, 4, 6], 3, 2.5, seed=7).sessions
    )


def test_the_forecast_against_an_exact_count():
    """Stays 1, 1, 4 and one rung: the resampled sample's mean draw is the empirical one: P(4) =
    1/3, so the 0.5 quantile is 1 and the 0.9 quantile is 4.
    """
    assert forecast_of([1, 1, 4], 1, 1).sessions == [1, 1, 4]


def test_weeks_in_a_row():
    def week(n, done, planned=3):
        return Completion(D + timedelta(weeks=n), done, planned, None)

    assert weeks_in_a_row([week(0, 3), week(1, 2), week(2, 3), week(3, 4)]) == 2
    assert weeks_in_a_row([week(0, 3), week(2, 3)]) == 1
    assert weeks_in_a_row([week(0, 3), week(1, 0, 0), week(2, 3)]) == 2
    assert weeks_in_a_row([]) == 0
