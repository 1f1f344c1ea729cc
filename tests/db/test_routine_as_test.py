"""A routine as a test: from its first part to its last, in good ones or in time."""

from io import BytesIO

import pytest
from django.db import IntegrityError, connection

from drill_ladder.apps.floor.hall.beside import trial_days_of
from drill_ladder.apps.floor.models import Battery, Protocol
from drill_ladder.apps.floor.test_days import new_battery, save_protocol, score_words, steps_of
from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.library.routines.services import PartInput, RoutineHead, save_routine
from drill_ladder.apps.practice.models import SetRow
from drill_ladder.apps.records.archive.reading import read_archive
from drill_ladder.apps.records.archive.restoring import restore_club
from drill_ladder.apps.records.archive.writing import archive_of
from tests.make import drill, ladder, log, put_on, text, world

FORM = {
    "title": "Through it all",
    "drill": "",
    "routine_by": "makes",
    "trials": "1",
    "score_by": "best",
    "attempts": "20",
    "rest_s": "0",
    "sides": "",
}


def routine_of(made):
    passes = ladder(made.club, drill(made.club, "Wall"), "Wall passes")
    parts = [PartInput(made.ladder), PartInput(passes, sets=2)]
    head = RoutineHead("Morning set", "", 20)
    return save_routine(member=made.coach, routine=None, head=head, parts=parts)


@pytest.fixture
def routine(w):
    return routine_of(w)


def test_it_is_made_of_a_routine_and_says_its_parts(w, coach, routine):
    answer = coach.post("/tests/new/", FORM | {"routine": routine.pk})
    assert answer.status_code == 302, text(answer)
    made = Protocol.objects.get()
    assert (made.drill, made.routine, made.measure.kind) == (None, routine, "makes")
    assert made.of == "Morning set"
    first, second = steps_of(made)
    assert first.startswith("Push pass, Gate 1: 10 ")
    assert second.startswith("Wall, Gate 1: 2 sets of")
    assert "Morning set: the best of 1" in text(coach.get("/tests/"))
    day = new_battery(
        member=w.coach, title="Day", on=w.club.today(), protocols=[made], players=[w.player]
    )
    assert trial_days_of(w.club, day.on)[0]["tests"][0]["steps"] == [first, second]
    page = text(coach.get(f"/test-days/{day.pk}/"))
    assert "Routine" in page
    assert first in page


def test_a_trial_of_it_counts_and_cannot_be_more_than_its_attempts(w, coach, routine):
    coach.post("/tests/new/", FORM | {"routine": routine.pk})
    made = Protocol.objects.get()
    new_battery(member=w.coach, title="D", on=w.club.today(), protocols=[made], players=[w.player])
    day = Battery.objects.get()
    sent = {"uid": "0b1f8a52-3c55-4a51-9a2f-5d5b7e0f7c31", "player": w.player.pk, "value": "21"}
    assert "At most 20" in text(coach.post(f"/test-days/{day.pk}/?test={made.pk}", sent))
    coach.post(f"/test-days/{day.pk}/?test={made.pk}", sent | {"value": "17"})
    assert made.trials_done.get().value == 17
    assert score_words(made, 17) == "17 of 20"


def test_by_time_it_needs_no_attempts(coach, routine):
    coach.post("/tests/new/", FORM | {"routine": routine.pk, "routine_by": "time", "attempts": ""})
    made = Protocol.objects.get()
    assert (made.measure.kind, made.attempts) == ("time", None)


@pytest.mark.parametrize(
    ("change", "told"),
    [
        ({}, "one of the two"),
        ({"routine_by": "", "with": True}, "Good ones in all, or the time?"),
        ({"attempts": "", "with": True}, "Out of how many?"),
        ({"with": True, "both": True}, "one of the two"),
    ],
)
def test_what_is_missing_is_said(w, coach, routine, change, told):
    asked = dict(change)
    sent = FORM | {"routine": routine.pk if asked.pop("with", False) else ""}
    if asked.pop("both", False):
        sent["drill"] = w.drill.pk
    answer = coach.post("/tests/new/", sent | asked)
    assert told in text(answer)
    assert not Protocol.objects.exists()


def test_another_clubs_routine_is_no_choice_and_the_database_refuses_it(w, coach, db):
    other = routine_of(world("Elsewhere"))
    assert "Select a valid choice" in text(coach.post("/tests/new/", FORM | {"routine": other.pk}))
    values = {"title": "x", "routine": other, "routine_by": "time"}
    save_protocol(member=w.coach, protocol=None, values=values)
    with pytest.raises(IntegrityError):
        connection.check_constraints()


def test_it_comes_back_from_an_archive(w, coach, routine):
    """Neither a test without a drill nor a feed is lost on the way."""
    coach.post("/tests/new/", FORM | {"routine": routine.pk, "routine_by": "time", "attempts": ""})
    w.ladder.rungs.filter(position=1).update(feeds=["rolled", "hit"], finish_good=4)
    log(put_on(w, on=w.club.today()), w.club.today(), 9, 9)
    assert set(SetRow.objects.values_list("feed", flat=True)) == {"rolled"}
    back = restore_club(read_archive(BytesIO(archive_of(w.club))))
    made = Protocol.objects.get(club=back)
    assert (made.drill, made.routine.title, made.routine_by) == (None, "Morning set", "time")
    first = Rung.objects.get(club=back, ladder__title=w.ladder.title, position=1)
    assert (first.feeds, first.finish_good) == (["rolled", "hit"], 4)
    assert set(SetRow.objects.filter(club=back).values_list("feed", flat=True)) == {"rolled"}
