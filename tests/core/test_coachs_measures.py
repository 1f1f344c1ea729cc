"""The coach's own measures: tempo, reads, feeds, turns; and routines."""

from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import norm
from statsmodels.stats.proportion import proportion_confint

from drill_ladder.core.coaching import (
    Choices,
    Feeding,
    Policy,
    TempoSet,
    feeds_of,
    reads_of,
    tempo_of,
    turns_of,
)
from drill_ladder.core.planning import Insert, RoutinePart, routine_of
from drill_ladder.core.planning.dose import DoseTime

sets_ = st.lists(
    st.tuples(st.sampled_from([0.5, 0.6, 0.75, 1.0]), st.integers(0, 40), st.floats(0, 1)),
    max_size=12,
)


@settings(max_examples=120, deadline=None)
@given(sets_, st.floats(0, 0.5))
def test_tempos(given_sets, limit):
    """Intervals against statsmodels; the fastest clean one has nothing unclean below it."""
    told = [TempoSet(t, n, n, int(share * n)) for t, n, share in given_sets]
    found = tempo_of(told, limit)
    assert [one.tempo for one in found.tempos] == sorted({t for t, _, _ in given_sets})
    for one in found.tempos:
        n = sum(s.attempts for s in told if s.tempo == one.tempo)
        faulty = sum(s.faulty for s in told if s.tempo == one.tempo)
        assert one.attempts == n
        assert (one.clean is None) == (n < 20)
        if n:
            low, high = proportion_confint(faulty, n, method="wilson")
            assert (one.low, one.high) == (pytest.approx(low, abs=1e-12), pytest.approx(high))
    if found.fastest_clean is not None:
        below = [one for one in found.tempos if one.tempo < found.fastest_clean]
        assert all(one.clean is not False for one in below)
    if found.latest_clean is False:
        assert found.next <= told[-1].tempo


def test_the_next_tempo():
    def at(*told, limit=0.1):
        return tempo_of([TempoSet(t, 20, 20, faulty) for t, faulty in told], limit)

    assert at((0.5, 0)).next == 0.75
    assert at((0.5, 0), (0.6, 1)).next == 0.75
    assert at((0.5, 0), (0.75, 0), (1.0, 0)).next is None
    assert at((0.75, 9), (0.5, 2)).next == 0.75  # half is clean, and three quarters the next
    assert (at((0.5, 0), (0.75, 9)).next, at((0.5, 0), (0.75, 9)).latest_clean) == (0.5, False)
    assert at((0.5, 9)).next == 0.5  # there is none below it
    assert tempo_of([TempoSet(0.8, 5, 5, 0)], 0.1).next == 0.8  # too few to say
    assert at((0.5, 0)).tempos[0].sure is False  # 16 % is still possible
    empty = tempo_of([], 0.1)
    assert (empty.tempos, empty.fastest_clean, empty.next, empty.latest_clean) == (
        [],
        None,
        None,
        None,
    )


@settings(max_examples=100, deadline=None)
@given(*[st.integers(0, 40)] * 4)
def test_reads_by_the_log_linear_correction(hits, misses, alarms, leaves):
    """Against scipy's normal quantiles; Hautus (1995)."""
    found = reads_of(hits, misses, alarms, leaves)
    if min(hits + misses, alarms + leaves) < 10:
        assert found.d_prime is None
        return
    hit = norm.ppf((hits + 0.5) / (hits + misses + 1))
    alarm = norm.ppf((alarms + 0.5) / (alarms + leaves + 1))
    assert found.d_prime == pytest.approx(hit - alarm, abs=1e-9)
    assert found.criterion == pytest.approx(-(hit + alarm) / 2, abs=1e-9)
    assert found.hit_rate == pytest.approx(hits / (hits + misses))


def test_reads_of_nothing_and_of_choices():
    nothing = reads_of(0, 0, 0, 0)
    assert (nothing.hit_rate, nothing.accuracy, nothing.right_share) == (None, None, None)
    chosen = reads_of(1, 1, 1, 1, Choices(right=8, of=10, carried_out=6))
    assert (chosen.accuracy, chosen.right_share, chosen.carried_share) == (0.5, 0.8, 0.75)
    assert reads_of(1, 1, 1, 1, Choices(0, 10, 0)).carried_share is None
    assert reads_of(5, 5, 5, 5, min_cues=11).d_prime is None


def test_the_feeders_account():
    fed = [Feeding("Ada", 10, 6, 5, 5), Feeding("Bo", 4, 4, 1, 1), Feeding("Ada", 10, 9, 6, 5)]
    found = feeds_of(fed, Policy.VOID)
    assert [one.feeder for one in found.feeders] == ["Ada", "Bo"]
    low, high = proportion_confint(15, 20, method="wilson")
    ada = found.feeders[0]
    assert (ada.share, ada.low, ada.high) == (0.75, pytest.approx(low), pytest.approx(high))
    assert (found.rate, found.rate_on_good) == (12 / 24, 11 / 19)
    assert (found.counted, feeds_of(fed, Policy.COUNT).counted) == (11 / 19, 0.5)
    assert feeds_of([], Policy.VOID).counted is None


@settings(max_examples=60, deadline=None)
@given(st.integers(2, 12), st.lists(st.integers(0, 12), max_size=30))
def test_the_expected_turn_is_the_mean_of_a_cut_geometric(cap, given_runs):
    """Against the distribution itself, summed."""
    runs = [min(run, cap) for run in given_runs]
    [found] = turns_of(cap, [("a", runs)])
    assert found.attempts == sum(min(run + 1, cap) for run in runs)
    p = (sum(runs) + 0.5) / (found.attempts + 1)
    chances = [p**run * (1 - p) for run in range(cap)] + [p**cap]
    mean = sum(c * min(run + 1, cap) for run, c in enumerate(chances))
    assert found.expected == pytest.approx(mean)


def test_who_missed_early_gets_more_turns():
    """By hand: five good three times are 15 attempts; a miss, one and a miss, a miss are 4."""
    a, b, c = turns_of(5, [("a", [5, 5, 5]), ("b", [0, 1, 0]), ("c", [])])
    assert (a.attempts, a.top_up, b.attempts, b.top_up) == (15, 0, 4, 3)
    assert (c.turns, c.attempts, c.expected) == (0, 0, pytest.approx(1.9375))
    assert turns_of(5, [("a", [5, 5, 5]), ("b", [0, 1, 0])], most_extra=0)[1].top_up == 0


PARTS = st.tuples(st.integers(1, 5), st.integers(5, 90), st.booleans())


def part(id, sets, seconds, keep=False, rest=0.0):
    """A part of so many sets."""
    return RoutinePart(id, DoseTime(sets, seconds, None, rest_s=rest), keep)


def test_a_routine_as_it_stands():
    """By hand: 60 + 15 + 10 + 15 + 40 seconds, set-up of the second 5."""
    parts = [part("a", 2, 30), RoutinePart("b", DoseTime(1, 35, None, setup_s=5))]
    found = routine_of(parts, Insert(10), change_s=15)
    assert [(p.id, p.starts_s, p.seconds) for p in found.parts] == [("a", 0, 60), ("b", 100, 40)]
    assert [(i.after, i.starts_s) for i in found.inserts] == [("a", 75)]
    assert (found.seconds, found.fits, found.cut, found.left_out) == (140, True, [], [])
    last = routine_of(parts, Insert(10, frozenset({"b"})), change_s=15)
    assert [(i.after, i.starts_s) for i in last.inserts] == [("b", 130)]
    assert last.seconds == 140
    assert routine_of([], minutes=0).fits


def test_sets_go_before_parts_and_come_back_where_there_is_room():
    parts = [part("a", 3, 60), part("b", 3, 60), part("c", 2, 60)]
    shorter = routine_of(parts, minutes=6)
    assert [p.sets for p in shorter.parts] == [2, 2, 2]
    even = routine_of(parts, minutes=5)
    assert [p.sets for p in even.parts] == [2, 2, 1]  # of two alike the later one
    fewer = routine_of(parts, minutes=2.5)
    assert (fewer.left_out, [p.sets for p in fewer.parts]) == (["c"], [1, 1])
    room = routine_of([part("a", 3, 60), part("b", 1, 50), part("c", 1, 100)], minutes=3)
    # at one set each 210 s do not fit in 180; without c there is room for one set of a again
    assert (room.left_out, [(p.id, p.sets) for p in room.parts]) == (["c"], [("a", 2), ("b", 1)])
    assert [(c.id, c.from_, c.to) for c in room.cut] == [("a", 3, 2)]
    kept = routine_of([part("a", 1, 60), part("b", 1, 60, keep=True)], minutes=1)
    assert (kept.left_out, kept.fits) == (["a"], True)
    stuck = routine_of([part("a", 1, 60, keep=True), part("b", 1, 60, keep=True)], minutes=1)
    assert (stuck.left_out, stuck.fits) == ([], False)
    alone = routine_of([part("a", 2, 60)], minutes=0.5)
    assert ([p.sets for p in alone.parts], alone.fits) == ([1], False)


def test_parts_of_the_same_repetitions_take_the_time_of_the_longer_one():
    """By hand: a and b at once, 90 s; then 15 s of change and 40 s of c; the check of 10 s after
    both of the first.
    """
    together = RoutinePart("b", DoseTime(3, 30, None), together=True)
    parts = [part("a", 2, 30), together, part("c", 1, 40)]
    found = routine_of(parts, Insert(10), change_s=15)
    assert [(p.id, p.starts_s, p.seconds) for p in found.parts] == [
        *(("a", 0, 60), ("b", 0, 90), ("c", 130, 40)),
    ]
    assert [(i.after, i.starts_s) for i in found.inserts] == [("b", 105)]
    assert found.seconds == 170
    assert routine_of(parts, Insert(10, frozenset("a")), 15).inserts[0].after == "b"
    first = routine_of([together], change_s=15)
    assert (first.seconds, first.parts[0].starts_s) == (90, 0)  # the first goes with nothing
    shorter = routine_of(parts, change_s=15, minutes=2)
    assert (shorter.seconds, shorter.fits) == (115, True)
    assert [p.sets for p in shorter.parts] == [2, 2, 1]


@settings(max_examples=150, deadline=None)
@given(
    st.lists(
        st.tuples(st.integers(1, 5), st.integers(5, 90), st.booleans()), min_size=1, max_size=5
    ),
    st.integers(0, 20),
    st.floats(0, 15),
)
def test_a_routine_fits_where_it_says_so(given_parts, change, minutes):
    parts = [part(str(i), n, s, keep) for i, (n, s, keep) in enumerate(given_parts)]
    found = routine_of(parts, Insert(7), change_s=change, minutes=minutes)
    assert found.fits == (found.seconds <= minutes * 60 + 1e-9)
    ends = [(p.starts_s, p.starts_s + p.seconds) for p in found.parts]
    ends += [(i.starts_s, i.starts_s + i.seconds) for i in found.inserts]
    ends.sort()
    assert all(b[0] == pytest.approx(a[1] + change) for a, b in pairwise(ends))
    assert found.seconds == pytest.approx(ends[-1][1])
    assert len(found.parts) >= 1
    assert {p.id for p in parts if p.keep} <= {p.id for p in found.parts} or len(found.parts) == 1
    if not found.fits:
        assert all(p.sets == 1 for p in found.parts)
    assert sorted(found.left_out + [p.id for p in found.parts]) == [p.id for p in parts]


def test_what_comes_before_each_set_takes_its_time_in_each():
    """By hand: two sets of (12 s slow and 20 s rest, then 6 s), 60 s of rest between."""
    dose = DoseTime(2, 6, 1, rest_s=60, before_s=32)
    assert dose.seconds == 2 * (32 + 6) + 60
    assert dose.seconds_of(1) == 38
