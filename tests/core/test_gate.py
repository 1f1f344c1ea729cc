"""A gate's beams made into runs, whatever goes wrong; and repeats of a test."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from drill_ladder.core.hall import Beam, Beat, Doubt, drift_of, drifts, runs_of
from drill_ladder.core.statistics import Measured, repeat_pairs, score_of


def beats(*given):
    """s: the start beam is broken at, f: the finish; capitals: clear again."""
    beams = {"s": Beam.START, "f": Beam.FINISH}
    return [Beat(beams[what.lower()], what.islower(), at) for what, at in given]


def test_a_run_is_from_start_to_finish():
    found = runs_of(beats(("s", 1000), ("S", 1150), ("f", 10_840), ("F", 10_900)))
    assert [run.seconds for run in found.runs] == [9.84]
    assert (found.lone, found.open, found.stuck) == (0, None, ())


def test_an_arm_and_a_leg_are_one_runner():
    found = runs_of(
        beats(("s", 1000), ("S", 1100), ("s", 1250), ("f", 9000), ("F", 9050), ("f", 9200))
    )
    assert [run.seconds for run in found.runs] == [8.0]
    assert found.lone == 0


def test_who_came_back_to_the_start_starts_anew_and_a_finish_alone_is_none():
    found = runs_of(beats(("f", 500), ("s", 1000), ("S", 1100), ("s", 5000), ("f", 12_000)))
    assert [run.seconds for run in found.runs] == [7.0]
    assert found.lone == 1
    assert runs_of(beats(("s", 1000))).open == 1000


def test_a_beam_that_stays_broken_is_named_and_its_runs_are_doubted():
    found = runs_of(beats(("s", 1000), ("S", 1100), ("f", 9000)), now=30_000)
    assert found.stuck == (Beam.FINISH,)
    assert found.runs[0].doubts == (Doubt.STUCK,)
    clear = runs_of(beats(("s", 1000), ("S", 1100), ("f", 9000), ("F", 9100)), now=30_000)
    assert clear.stuck == ()
    assert clear.runs[0].doubts == ()


@given(st.permutations(list(range(6))), st.integers(0, 5))
def test_late_doubled_and_in_any_order_it_is_the_same(order, again):
    all_of = beats(("s", 1000), ("S", 1100), ("f", 9000), ("F", 9080), ("s", 20_000), ("f", 31_000))
    mixed = [all_of[i] for i in order] + [all_of[again]]
    assert runs_of(mixed) == runs_of(all_of)


def test_a_clock_that_runs_wrong_is_told_from_messages_that_were_under_way():
    right = [(t, t + 1_000_000 + (t * 7919) % 300) for t in range(0, 600_000, 30_000)]
    assert not drifts(right)
    fast = [(round(t * 1.01), t + 50) for t in range(0, 600_000, 30_000)]
    assert drift_of(fast) == pytest.approx(0.01, abs=0.001)
    assert drifts(fast)
    assert drift_of([(0, 0), (1000, 1200)]) is None  # too short to tell


def test_trials_come_to_best_mean_or_median():
    assert score_of([9.9, 9.7, 10.4], "best", False) == 9.7
    assert score_of([9.0, 7.0], "best", True) == 9.0
    assert score_of([1.0, 2.0, 6.0], "mean", True) == 3.0
    assert score_of([1.0, 2.0, 6.0], "median", True) == 2.0
    assert score_of([], "best", True) is None


def test_repeats_are_of_one_player_timed_alike_within_a_week():
    day = date(2026, 11, 1)

    def tested(player, n, score, timing="hand", side=""):
        return Measured(player, day + timedelta(days=n), score, timing, side)

    rows = [
        *(tested(1, 0, 10.0), tested(1, 3, 10.2), tested(1, 6, 10.1)),
        *(tested(2, 0, 11.0), tested(2, 9, 10.0)),
        *(tested(3, 0, 9.0), tested(3, 2, 9.1, "gate")),
        *(tested(4, 0, 8.0, side="left"), tested(4, 1, 8.4, side="right")),
        *(tested(5, 0, 7.0), tested(5, 0, 7.2)),
    ]
    assert repeat_pairs(rows) == [(10.0, 10.2)]
