"""The numbers that judging says, each worked out by hand: what a change of one line in the judging
would turn into another sentence for a coach. Found by mutation (./ladder mutate).
"""

from dataclasses import replace

import pytest

from drill_ladder.core.judging import (
    PRODUCT,
    Dose,
    Evidence,
    InARow,
    Observer,
    Session,
    SetResult,
    Target,
    Volume,
    Yardstick,
    by_day,
    decide,
    judge_day,
)
from drill_ladder.core.judging.measures import (
    Checklist,
    Count,
    Done,
    Points,
    ScoreBy,
    Time,
    coping,
    volume_reps,
)
from drill_ladder.core.judging.rows import Streak, ToN
from drill_ladder.core.judging.verdicts import Lack, Verdict, lack
from tests.core.build import ladder, made, on, rung

THREE = ("a", "b", "c")
FAST = Target(value=10.0)
RUN = Time(ScoreBy.MEAN)


def judged(at, *sessions):
    yardstick = Yardstick(at, 0.8)
    return [judge_day(yardstick, day, PRODUCT) for day in by_day(sessions)]


def times(day, *seconds, lanes=(), **more):
    sets = tuple(SetResult(lanes[i] if lanes else None, seconds=s) for i, s in enumerate(seconds))
    return Session(on(day), Observer.COACH, sets, **more)


def stuck_at(at, sessions, **rule):
    found = decide(ladder(at, school=InARow(2), **rule), at.id, sessions, on(29))
    assert found.kind == "stalled"
    return found.reasons[1].code.value, dict(found.reasons[1].numbers)


def six(make):
    return [make(20 + day) for day in range(6)]


def test_the_weakest_of_two_lanes_that_fall_short():
    at = rung(lanes=THREE, each=True)
    found = stuck_at(at, six(lambda day: made(day, 7, 5, 9, lanes=THREE)))
    assert found == ("weakest_lane", {"lane": "b", "have": 0.5})
    untouched = six(lambda day: made(day, 7, 0, 9, lanes=THREE))
    assert stuck_at(at, untouched) == ("weakest_lane", {"lane": "b", "have": 0.0})


def test_the_weakest_lane_by_the_clock_is_the_slowest():
    each = Target(value=10.0, each_lane=True)
    at = rung(measure=RUN, target=each, dose=Dose(sets=1), lanes=THREE)
    found = stuck_at(at, six(lambda day: times(day, 11, 13, 9, lanes=THREE)))
    assert found == ("weakest_lane", {"lane": "b", "have": 13.0})


def test_the_weakest_lane_is_that_of_the_latest_day():
    at = rung(lanes=THREE, each=True)
    early = [made(20 + day, 5, 7, 9, lanes=THREE) for day in range(5)]
    assert stuck_at(at, [*early, made(25, 7, 5, 9, lanes=THREE)])[1] == {"lane": "b", "have": 0.5}


def test_form_is_named_from_half_of_the_last_four_on():
    at = rung(target=Target(makes=8, of=10, form_min=0.8))
    forms = [0.5, 0.5, 0.9, 0.5, 0.5, 0.9]
    days = [made(20 + i, 7 if form > 0.8 else 9, form=form) for i, form in enumerate(forms)]
    assert stuck_at(at, days) == ("form", {"sessions": 2, "of": 4, "need": 0.8})
    seen_once = [made(20 + i, 7, form=0.5 if i == 5 else None) for i in range(6)]
    assert stuck_at(at, seen_once) == ("half_step", {"rung": "r1"})


def test_a_common_fault_is_one_of_four_in_ten_misses():
    def late(day, times, makes=5):
        session = made(day, makes)
        return replace(session, sets=(replace(session.sets[0], faults={"late": times}),))

    # two in five misses are just four in ten; one in five is not
    assert stuck_at(rung(), six(lambda day: late(day, 2))) == (
        "common_fault",
        {"fault": "late", "times": 8, "of": 20},
    )
    assert stuck_at(rung(), six(lambda day: late(day, 1)))[0] == "half_step"
    # of what is not made or missed, the faults themselves are the whole
    run = rung(measure=RUN, target=FAST, dose=Dose(sets=1))

    def slow(day):
        session = times(day, 11)
        return replace(session, sets=(replace(session.sets[0], faults={"line": 1, "cone": 3}),))

    assert stuck_at(run, six(slow)) == ("common_fault", {"fault": "cone", "times": 12, "of": 16})


def test_a_trend_of_times_that_fall_is_no_standstill():
    run = rung(measure=RUN, target=FAST, dose=Dose(sets=1))
    steps = ladder(run, school=InARow(2))

    def kind(seconds):
        days = [times(20 + i, s) for i, s in enumerate(seconds)]
        return decide(steps, "r1", days, on(29)).kind

    assert kind([16, 15, 14, 13, 12, 11]) == "hold"
    assert kind([11, 12, 13, 14, 15, 16]) == "stalled"
    assert kind([12, 12, 12, 12, 12, 12]) == "stalled"


def test_what_others_saw_of_the_day_counts_as_work_and_as_nothing_else():
    coach = made(29, 8, form=0.9)
    alone = replace(made(29, 2, seen="self"), form=0.1)
    (day,) = judged(rung(), coach, alone)
    assert (day.verdict, day.met, day.score) == (Verdict.PASS, True, 0.8)
    assert (day.on, day.day.observer, day.day.eased, day.day.form) == (
        on(29),
        Observer.COACH,
        False,
        0.9,
    )
    assert day.day.sets == coach.sets
    assert day.day.all_sets == (*coach.sets, *alone.sets)
    reps = decide(
        ladder(rung(), school=Volume(reps=20)), "r1", [coach, alone], on(29), settings=PRODUCT
    )
    assert reps.kind == "finish"


@pytest.mark.parametrize(
    ("seconds", "verdict"),
    [((9, 10, 9), Verdict.PASS), ((9, 11, 9), Verdict.NEAR), ((9, 14, 9), Verdict.LOW)],
)
def test_each_lane_of_a_time_has_to_hold(seconds, verdict):
    each = Target(value=10.0, each_lane=True)
    at = rung(measure=RUN, target=each, dose=Dose(sets=1), lanes=THREE, floor=13.0)
    (day,) = judged(at, times(29, *seconds, lanes=THREE))
    assert day.verdict is verdict
    assert day.lanes == dict(zip(THREE, map(float, seconds), strict=True))


def test_what_a_day_lacks_in_the_measures_own_unit():
    run = rung(measure=RUN, target=FAST)
    trial = SetResult(seconds=12.0)
    assert lack(run, None, (trial,)) == Lack(None, 12.0, 10.0)
    assert lack(run, None, (replace(trial, seconds=10.0),)) is None
    assert lack(run, "left", ()) == Lack("left", None, 10.0)
    shots = rung()
    assert lack(shots, None, (SetResult(attempts=10, makes=8),)) is None
    assert lack(shots, None, (SetResult(attempts=5, makes=3),)) == Lack(None, 3, 4)
    assert lack(shots, None, ()) == Lack(None, None, 8)


def test_a_dose_over_lanes_is_asked_of_all_of_them():
    at = rung(lanes=THREE, each=True)
    found = decide(ladder(at), "r1", [made(29, 4, of=5, lanes=THREE)], on(29))
    assert (found.kind, dict(found.missing[0].numbers)) == ("wait", {"have": 5, "need": 30})
    nothing = decide(ladder(at), "r1", [], on(29))
    assert dict(nothing.missing[0].numbers) == {"have": 0, "need": 30}


def test_what_schools_lack_in_numbers():
    def missing(school, *sessions):
        found = decide(ladder(rung(), school=school, skip_at=None), "r1", sessions, on(29))
        return found.missing[0].code.value, dict(found.missing[0].numbers)

    two = [made(27, 6), made(28, 6)]
    assert missing(Volume(sessions=3), *two) == ("sessions", {"have": 2, "need": 3})
    assert missing(Volume(reps=40), *two) == ("reps", {"have": 20, "need": 40})
    code, numbers = missing(Evidence(0.9, 3), *two)
    assert (code, numbers["lane"], numbers["need"]) == ("confidence", None, 0.9)
    assert 0 < numbers["have"] < 0.5


def test_measures_by_hand():
    assert coping(SetResult(attempts=8, makes=6, voids=2)) == SetResult(attempts=10, makes=6)
    assert coping(SetResult(makes=6, voids=2)).attempts == 2
    points = (SetResult(attempts=4, points=6.0), SetResult(attempts=5), SetResult(points=9.0))
    assert Points(max=3).score(points) == 1.5
    assert Points(max=3).score(points[1:]) is None
    trials = tuple(SetResult(seconds=s) for s in (1.0, 2.0, 6.0))
    assert Time(ScoreBy.MEAN).score(trials) == 3.0
    assert Time(ScoreBy.MEDIAN).score(trials) == 2.0
    assert Streak().done((SetResult(best_run=4), SetResult(best_run=0), SetResult()), Dose()) == 2
    two = (SetResult(attempts=12, makes=10), SetResult(attempts=9, makes=3))
    assert ToN(10).score(two) == 12.0
    assert ToN(10).score(two[1:]) is None
    assert Checklist(("a", "b")).score((SetResult(),)) is None
    assert Done().score((SetResult(),)) is None
    assert Done().done((SetResult(share=0.5), SetResult()), Dose()) == 0.5
    assert volume_reps(SetResult(share=0.5), Dose()) == 0.5
    assert volume_reps(SetResult(share=0.5), Dose(reps=30)) == 15
    assert Count(30.0).score((SetResult(count=4.0),)) is not None


def test_the_form_of_a_day_without_work_is_the_plain_mean():
    nothing = replace(made(29, 0, of=0), form=0.4)
    (day,) = judged(rung(), nothing, replace(nothing, form=0.8))
    assert day.day.form == pytest.approx(0.6)
    little = replace(made(29, 0, of=1), form=0.4)
    (day,) = judged(rung(), nothing, little)
    assert day.day.form == pytest.approx(0.4)
