"""Scores and doses by kind of measure."""

from datetime import date

import pytest

from drill_ladder.core.judging.measures import (
    Checklist,
    Count,
    Done,
    Dose,
    Makes,
    Points,
    ScoreBy,
    SetResult,
    Time,
    coping,
    volume_reps,
)
from drill_ladder.core.judging.rows import (
    Earned,
    Streak,
    ToN,
    UntilLost,
    stay_alive_attempts,
    stay_alive_top_up,
)
from drill_ladder.core.judging.sessions import Observer, Session, by_day, pool

S = SetResult


@pytest.mark.parametrize(
    ("measure", "sets", "score"),
    [
        (Makes(), [S(attempts=10, makes=8), S(attempts=5, makes=1)], 0.6),
        (Makes(), [S(attempts=0, makes=0)], None),
        (Points(3), [S(attempts=4, points=9), S(attempts=4, points=3)], 1.5),
        (Time(), [S(seconds=5.2), S(seconds=5.0, faults={"cone": 1})], 5.0),
        (Time(ScoreBy.BEST, 0.5), [S(seconds=5.2), S(seconds=5.0, faults={"cone": 1})], 5.2),
        (Time(ScoreBy.MEAN), [S(seconds=5), S(seconds=6)], 5.5),
        (Time(ScoreBy.MEDIAN), [S(seconds=5), S(seconds=9), S(seconds=6), S(seconds=7)], 6.5),
        (Count(30), [S(count=12), S(count=15)], 15),
        (Count(30, ScoreBy.MEAN), [S(count=12), S(count=15)], 13.5),
        (Streak(), [S(best_run=4), S(best_run=11), S()], 11),
        (ToN(4), [S(attempts=6, makes=4), S(attempts=9), S(attempts=20, makes=3)], 7.5),
        (
            UntilLost(3),
            [S(attempts=9, makes=6), S(attempts=5, makes=2), S(attempts=4, makes=3)],
            4.0,
        ),
        (
            Earned(6, 12),
            [S(attempts=6, makes=1), S(attempts=12, makes=9), S(attempts=6, makes=3)],
            5.0,
        ),
        (Checklist(("a", "b", "c", "d")), [S(ticks=3), S(ticks=4)], 0.875),
        (Done(), [S(share=1), S(share=0.5)], 0.75),
        (Streak(cap=10), [S(best_run=4), S(best_run=10), S()], 7),
        (Streak(), [], None),
    ],
)
def test_score(measure, sets, score):
    assert measure.score(sets) == (None if score is None else pytest.approx(score))


@pytest.mark.parametrize(
    ("measure", "dose", "sets", "done", "asked"),
    [
        (Makes(), Dose(2, 10), [S(attempts=10, makes=1), S(attempts=6, makes=1)], 16, 20),
        (Makes(), Dose(3), [S(attempts=10, makes=1), S(attempts=6, makes=1)], 2, 3),
        (Points(3), Dose(1, 8), [S(attempts=8, points=3)], 8, 8),
        (Time(), Dose(2, 3), [S(seconds=1)] * 5, 5, 6),
        (Time(), Dose(2), [S(seconds=1)], 1, 2),
        (Count(30), Dose(3, 99), [S(count=0), S(count=3)], 2, 3),
        (ToN(4), Dose(2), [S(attempts=9, makes=4), S(attempts=9, makes=2)], 1, 2),
        (UntilLost(3), Dose(2), [S(attempts=9, makes=6), S(attempts=4, makes=3)], 1, 2),
        (UntilLost(3, cap=5), Dose(2), [S(attempts=6, makes=5), S(attempts=5, makes=2)], 2, 2),
        (Earned(6, 12), Dose(3), [S(attempts=8, makes=3), S(attempts=9, makes=5)], 1, 3),
        (Done(), Dose(2), [S(share=0.5), S(share=1)], 1.5, 2),
    ],
)
def test_dose_done_against_asked(measure, dose, sets, done, asked):
    assert measure.done(sets, dose) == pytest.approx(done)
    assert measure.asked(dose) == pytest.approx(asked)


def test_volume_counts_attempts_else_count_else_share_else_one():
    dose = Dose(1, 20)
    found = [volume_reps(s, dose) for s in (S(attempts=7), S(count=30), S(share=0.5), S(seconds=4))]
    assert found == [7, 30, 10, 1]


def test_voids_are_neither_make_nor_miss_unless_the_receiver_must_cope():
    spoiled = S(attempts=8, makes=6, voids=2)
    assert Makes().score([spoiled]) == 0.75
    assert Makes().score([coping(spoiled)]) == 0.6


def test_two_good_earn_two_more():
    """By hand: six, two more with the second good one, the fourth, the sixth; twelve at most."""
    six = Earned(6, 12)
    assert [six.allowed(makes) for makes in (0, 1, 2, 3, 4, 6, 8)] == [6, 6, 8, 8, 10, 12, 12]
    assert [six.over(6, 1, None), six.over(6, 2, None), six.over(12, 12, None)] == [
        True,
        False,
        True,
    ]
    assert six.tried(5, None) == 10


def test_stay_alive_is_the_sum_of_the_chances_to_still_be_in():
    """(1 - p^N)/(1 - p) is 1 + p + p^2 + ...: the geometric sum."""
    for p in (0.0, 0.5, 0.9, 1.0):
        assert stay_alive_attempts(p, 12) == pytest.approx(sum(p**i for i in range(12)))
    assert stay_alive_top_up(0.5, 10, 10) == pytest.approx(10 - (2 - 2 * 0.5**10))
    assert stay_alive_top_up(1, 10, 10) == 0


def test_days_are_pooled_and_the_least_trusted_eyes_count():
    day = date(2026, 3, 2)
    coach = Session(day, Observer.COACH, (S(attempts=30, makes=20),), form=0.9)
    alone = Session(day, Observer.SELF, (S(attempts=10, makes=9),), form=0.5)
    unseen = Session(day, Observer.DEVICE, (S(attempts=10, makes=9),))
    [same] = by_day([coach, alone, unseen])
    pooled = pool(same, Makes(), Dose(1, 10))
    assert pooled.observer is Observer.SELF
    assert len(pooled.sets) == 3
    assert pooled.form == pytest.approx((0.9 * 30 + 0.5 * 10) / 40)


def test_a_day_with_eased_and_full_work_is_judged_on_the_full_work():
    day = date(2026, 3, 2)
    eased = Session(day, Observer.SELF, (S(attempts=10, makes=10),), eased=True)
    full = Session(day, Observer.COACH, (S(attempts=10, makes=2),))
    pooled = pool([eased, full], Makes(), Dose(1, 10))
    assert (pooled.eased, pooled.observer, len(pooled.sets), len(pooled.all_sets)) == (
        False,
        Observer.COACH,
        1,
        2,
    )
