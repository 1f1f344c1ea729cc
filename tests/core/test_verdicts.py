"""The verdict on one day."""

import pytest

from drill_ladder.core.judging.ladders import Target
from drill_ladder.core.judging.measures import (
    Count,
    Dose,
    SetResult,
    Time,
)
from drill_ladder.core.judging.rows import Streak
from drill_ladder.core.judging.sessions import Observer, Session, pool
from drill_ladder.core.judging.verdicts import judge, lacks, on_course
from tests.core.build import made, on, rung

SIDES = ("left", "right")


def verdict(at, session):
    return judge(at, 0.8, pool([session], at.measure, at.dose)).verdict.value


@pytest.mark.parametrize(
    ("makes", "of", "expected"),
    [
        (8, 10, "pass"),
        (7, 10, "near"),
        (5, 10, "near"),
        (4, 10, "low"),
        (7, 8, "pass"),
        (6, 8, "near"),
        (7, 7, "short"),
    ],
)
def test_makes_against_eight_of_ten_with_a_floor_of_half(makes, of, expected):
    assert verdict(rung(floor=0.5), made(1, makes, of=of)) == expected


def test_the_target_on_other_attempts_is_rounded_up_in_whole_numbers():
    """0.8 x 10 in floating point is 8.000000000000002 upwards elsewhere: whole numbers decide."""
    at = rung()
    assert [at.target.makes_needed(n) for n in (1, 9, 10, 15, 20, 10**9)] == [
        1,
        8,
        8,
        12,
        16,
        8 * 10**8,
    ]
    rate = rung(target=Target(value=0.7)).target
    assert [rate.makes_needed(n) for n in (10, 30, 7)] == [7, 21, 5]


def test_each_lane_is_judged_alone():
    at = rung(lanes=SIDES, each=True, floor=0.4)
    assert verdict(at, made(1, 8, 8, lanes=SIDES)) == "pass"
    assert verdict(at, made(1, 10, 7, lanes=SIDES)) == "near"
    assert verdict(at, made(1, 10, 3, lanes=SIDES)) == "low"
    assert verdict(at, made(1, 10, lanes=SIDES)) == "short"


def test_pooled_lanes_are_judged_together():
    at = rung(lanes=SIDES)
    assert verdict(at, made(1, 10, 6, lanes=SIDES)) == "pass"
    assert verdict(at, made(1, 10, lanes=SIDES)) == "short"


def test_time_is_better_lower_and_at_the_mark_is_met():
    at = rung(
        measure=Time(fault_penalty_s=0.5), target=Target(value=5.2), dose=Dose(reps=2), floor=7
    )
    trial = lambda s, faults=0: SetResult(seconds=s, faults={"cone": faults} if faults else {})

    def day(*trials):
        return Session(on(1), Observer.COACH, trials)

    assert verdict(at, day(trial(6.0), trial(5.2))) == "pass"
    assert verdict(at, day(trial(6.0), trial(5.0, 1))) == "near"
    assert verdict(at, day(trial(7.0), trial(9.0))) == "near"
    assert verdict(at, day(trial(7.1), trial(9.0))) == "low"
    assert verdict(at, day(trial(5.0))) == "short"


@pytest.mark.parametrize(
    ("measure", "sets", "expected"),
    [
        (Count(30), [SetResult(count=40)], "pass"),
        (Count(30), [SetResult(count=39)], "near"),
        (Streak(), [SetResult(best_run=40)], "pass"),
        (Streak(), [SetResult(best_run=9)], "low"),
        (Streak(), [], "short"),
    ],
)
def test_counts_and_streaks(measure, sets, expected):
    at = rung(measure=measure, target=Target(value=40), dose=Dose(), floor=10)
    assert verdict(at, Session(on(1), Observer.SELF, tuple(sets))) == expected


def test_form_and_faults_have_to_hold():
    at = rung(target=Target(makes=8, of=10, form_min=0.7, faults_max=1))
    good = SetResult(attempts=10, makes=9)

    def day(form, faults=0):
        return Session(
            on(1),
            Observer.COACH,
            (SetResult(None, 10, 9, faults={"late": faults}), good),
            form=form,
        )

    assert verdict(at, day(0.7, 1)) == "pass"
    assert verdict(at, day(0.69)) == "near"
    assert verdict(at, day(0.7, 2)) == "near"
    assert verdict(at, day(None)) == "near"


def test_an_eased_day_never_passes():
    at = rung(floor=0.5)
    judged = judge(at, 0.8, pool([made(1, 10, eased=True)], at.measure, at.dose))
    assert (judged.verdict.value, judged.met) == ("near", True)
    assert verdict(at, made(1, 3, eased=True)) == "low"


@pytest.mark.parametrize(
    ("score", "band", "higher", "course"),
    [
        (0.3, (0.2, 0.4), True, "on course"),
        (0.19, (0.2, 0.4), True, "under"),
        (0.41, (0.2, 0.4), True, "over"),
        (12.0, (10, 14), False, "on course"),
        (15.0, (10, 14), False, "under"),
        (9.0, (10, 14), False, "over"),
    ],
)
def test_a_rung_beyond_the_player_has_its_own_course(score, band, higher, course):
    assert on_course(score, band, higher) == course


def test_what_a_day_lacked_is_said_lane_by_lane():
    at = rung(lanes=SIDES, each=True)
    day = pool([made(1, 6, 9, lanes=SIDES)], at.measure, at.dose)
    [lack] = lacks(at, day)
    assert (lack.lane, lack.have, lack.need) == ("left", 6, 8)
