"""Taps of several devices put together: in any order, nothing is lost and nothing doubled."""

import json
from datetime import UTC, datetime, timedelta
from itertools import count
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from drill_ladder.core.hall import Act, Tap, ends_of, is_whole, rests_of
from drill_ladder.core.hall import fold as fold_by
from drill_ladder.core.judging import Target
from drill_ladder.core.judging.measures import Dose, Makes, Time
from drill_ladder.core.judging.rows import Streak, ToN
from drill_ladder.formats.taps import to_tap
from tests.core.build import rung


def fold(taps, reps):
    """Sets of so many attempts."""
    return fold_by(taps, lambda one: reps is not None and one.attempts >= reps)


BEGIN = datetime(2026, 11, 26, 17, 0)
_numbers = count()


def tap(act=Act.STROKE, second=None, **more):
    number = next(_numbers)
    at = BEGIN + timedelta(seconds=number if second is None else second)
    return Tap(f"t{number:05}", act, at, **more)


def strokes(text, lane=""):
    return [tap(stroke=stroke, lane=lane) for stroke in text]


def test_sets_fill_up_lane_by_lane():
    work = fold(strokes("ggmg", "left") + strokes("gg", "right") + strokes("g", "left"), reps=4)
    assert [(one.lane, one.strokes) for one in work.sets] == [
        ("left", "ggmg"),
        ("right", "gg"),
        ("left", "g"),
    ]
    assert (work.sets[0].attempts, work.sets[0].makes) == (4, 3)


def test_bad_feeds_and_repeats_are_no_attempts_and_faults_have_names():
    one = fold(strokes("gv1Brm0"), reps=5).sets[0]
    assert (one.attempts, one.makes) == (5, 2)
    assert one.named(["wide", "late"]) == {"late": 2, "wide": 1}
    assert one.result(["wide", "late"]).voids == 1
    assert one.result().faults is None


def test_what_is_taken_back_is_gone_whoever_takes_it_back():
    first = strokes("ggm")
    undo = tap(Act.UNDO, of=first[2].id)
    assert fold([*first, undo], 10).sets[0].strokes == "gg"
    assert fold([undo, *first[::-1]], 10).sets[0].strokes == "gg"
    assert fold([*first, undo, undo, *first], 10).sets[0].strokes == "gg"


def test_easier_and_another_feeder_begin_another_set():
    taps = [
        *strokes("gg"),
        tap(Act.EASIER, on=True),
        *strokes("gg"),
        tap(Act.EASIER, on=False),
        tap(Act.FEEDER, word="Ada"),
        *strokes("m"),
    ]
    found = [(one.strokes, one.eased, one.feeder) for one in fold(taps, 10).sets]
    assert found == [("gg", False, ""), ("gg", True, ""), ("m", False, "Ada")]


def test_tempo_tiredness_and_answers_go_with_the_work():
    taps = [
        tap(Act.TEMPO, numbers={"share": 0.5}),
        *strokes("gg"),
        tap(Act.TEMPO, numbers={"share": 1.0}),
        *strokes("m"),
        tap(Act.READ, word="hits"),
        tap(Act.READ, word="hits"),
        wrong := tap(Act.READ, word="misses"),
        tap(Act.UNDO, of=wrong.id),
        tap(Act.TIRED, on=True),
    ]
    work = fold(taps, 10)
    assert [(one.strokes, one.tempo) for one in work.sets] == [("gg", 0.5), ("m", 1.0)]
    assert work.reads == {"hits": 2}
    assert work.tired


def test_enough_closes_and_one_more_set_opens_again():
    enough, more = tap(Act.ENOUGH), tap(Act.MORE)
    assert fold([enough], 10).closed
    work = fold([enough, more], 10)
    assert not work.closed
    assert work.more == 1


def test_a_trial_keeps_its_numbers_and_faults_that_nobody_counted_are_unknown():
    timed = tap(Act.RESULT, numbers={"seconds": 9.4}, faults=None)
    found = fold([timed], None).sets[0].result()
    assert (found.seconds, found.faults) == (9.4, None)
    ticks = tap(Act.RESULT, numbers={"ticks": 3.0}, faults={})
    assert fold([ticks], None).sets[0].result().ticks == 3


def test_whole_means_every_lane_where_lanes_are_judged():
    both = rung(makes=3, of=4, lanes=("left", "right"), each=True, dose=Dose(reps=4))
    left, right = strokes("gggg", "left"), strokes("ggg", "right")
    assert not is_whole(fold(left + right, 4), both)
    assert is_whole(fold(left + right + strokes("m", "right"), 4), both)
    eased = [*left, tap(Act.EASIER, on=True), *strokes("gggg", "right")]
    assert is_whole(fold(eased, 4), both)  # the dose is done; what it comes to is judged apart


def test_what_was_seen_is_of_the_set_just_done_and_the_latest_look_holds():
    taps = [
        *strokes("ggg", "left"),
        *strokes("gg", "right"),
        tap(Act.LOOK, lane="left", seen=(0,)),
        tap(Act.LOOK, lane="left", seen=(0, 2)),
        tap(Act.LOOK, numbers={"form": 0.75}),
    ]
    work = fold(taps, 10)
    assert [(one.lane, one.seen) for one in work.sets] == [("left", (0, 2)), ("right", None)]
    assert work.form == 0.75
    assert fold([tap(Act.LOOK, lane="left", seen=(1,))], 10).sets == []


def test_who_is_on_the_easier_way_begins_with_it():
    asked = fold_by(strokes("gg"), lambda _: False, eased=True)
    assert [one.eased for one in asked.sets] == [True]
    back = fold_by([*strokes("g"), tap(Act.EASIER, on=False), *strokes("g")], lambda _: False, True)
    assert [one.eased for one in back.sets] == [True, False]


def test_a_speed_block_that_stopped_itself_is_whole():
    """By what adds up over the usual round."""
    sprints = Dose(sets=6, reps=1, stop_drop=0.05)
    sprint = rung(measure=Time(), target=Target(value=9.0), dose=sprints)
    timed = [tap(Act.RESULT, numbers={"seconds": s}) for s in (8.0, 8.1, 7.9, 8.2, 8.8)]
    assert not is_whole(fold(timed[:4], None), sprint)
    assert is_whole(fold(timed, None), sprint)


def test_a_situation_is_read_and_then_done():
    reads = [tap(Act.READ, word=word) for word in ("done", "right", "wrong", "hits")]
    assert fold(reads, None).reads == {"right": 2, "choices": 3, "carried_out": 1, "hits": 1}


@settings(max_examples=200)
@given(
    st.lists(
        st.tuples(st.sampled_from("gmv01AB"), st.sampled_from(["left", "right"])), max_size=40
    ),
    st.randoms(),
)
def test_two_devices_in_any_order_and_twice_give_the_same_work(drawn, chance):
    """Each tap once, in whatever order it came and however often."""
    taps = [tap(second=n, stroke=stroke, lane=lane) for n, (stroke, lane) in enumerate(drawn)]
    mixed = taps + [chance.choice(taps) for _ in taps[:10]]
    chance.shuffle(mixed)
    one, other = fold(taps, 5), fold(mixed, 5)
    assert one == other
    assert sum(len(s.strokes) for s in one.sets) == len(taps)


def test_a_turn_of_a_streak_ends_by_a_miss_or_at_its_cap():
    alive = rung(measure=Streak(cap=3), dose=Dose(sets=3))
    work = fold_by(strokes("ggmggggm"), ends_of(alive))
    assert [one.strokes for one in work.sets] == ["ggm", "ggg", "gm"]
    assert [one.result().best_run for one in work.sets] == [2, 3, 1]
    assert is_whole(work, alive)


def test_a_race_to_so_many_good_ones_ends_with_the_last_of_them():
    race = rung(measure=ToN(n=3), dose=Dose(sets=2))
    work = fold_by(strokes("gmgmgggg"), ends_of(race))
    assert [(one.attempts, one.makes) for one in work.sets] == [(5, 3), (3, 3)]
    assert is_whole(work, race)


def test_a_stroke_that_nobody_knows_is_no_act():
    with pytest.raises(ValueError, match="jump"):
        Act("jump")


CASES = json.loads(Path(__file__).parents[1].joinpath("hall_cases.json").read_text())


@pytest.mark.parametrize("case", CASES, ids=lambda case: case["name"])
def test_the_server_folds_as_the_device_does(case):
    """tests/js/hall.test.mjs reads the same cases."""
    work = case["work"]
    measures = {
        "makes": Makes(),
        "streak": Streak(cap=work.get("cap")),
        "to_n": ToN(n=work.get("n") or 1),
    }
    lanes = tuple(work["lanes"])
    dose = Dose(sets=work["sets"], reps=work["reps"])
    asked = rung(measure=measures[work["kind"]], lanes=lanes, each=bool(lanes), dose=dose)
    taps = [
        to_tap(one["id"], one["act"], datetime.fromisoformat(one["at"]), one["lane"], one["value"])
        for one in case["taps"]
    ]
    found = fold_by(taps, ends_of(asked))
    assert [[one.lane, one.strokes, one.eased] for one in found.sets] == case["sets"]
    assert is_whole(found, asked) is case["whole"]


def test_the_real_rest_between_sets_by_hand():
    """Lanes of one round follow each other; between rounds it is from the last tap to the first."""
    begin = datetime(2028, 5, 1, 10, tzinfo=UTC)
    asked = rung(measure=Makes(), dose=Dose(sets=2, reps=1), lanes=("left", "right"))
    seconds = {"left": (0, 70), "right": (10, 95)}
    taps = [
        Tap(f"{lane}{at}", Act.STROKE, begin + timedelta(seconds=at), lane=lane, stroke="g")
        for lane, moments in seconds.items()
        for at in moments
    ]
    sets = fold_by(taps, ends_of(asked)).sets
    assert [one.lane for one in sets] == ["left", "right", "left", "right"]
    assert rests_of(sets) == [None, None, 60.0, None]
    assert rests_of([]) == []
