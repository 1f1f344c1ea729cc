"""Where an attempt ends, by its name: what a file and a drill's form refuse, what is told and kept,
and what is typed as a sum has no places.
"""

import json

import pytest
from django.test import Client

from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.work import work_of
from drill_ladder.apps.progress.panels.landings import landed
from drill_ladder.apps.progress.player import record_of
from drill_ladder.core.work import Place
from drill_ladder.formats.work_words import told_work
from tests.make import current, drill, ladder, put_on, text

LANDINGS = [{"name": "three steps", "points": 1}, {"name": "two or four", "points": 0}]
MEASURE = {"kind": "points", "max": 1, "landings": LANDINGS}


@pytest.fixture
def steps(w):
    """Three steps exactly, ten times."""
    of = drill(w.club, "Approach", lanes=[], faults=[], measure=MEASURE)
    made = {"target": {"value": 0.8}, "dose": {"sets": 1, "reps": 10}, "floor": None}
    return ladder(w.club, of, "Approach", **made)


def send(w, stay, today, **fields):
    return Client().post(
        f"/card/{w.token}/{stay.pk}/", {"on": f"{today}", "hurts": "no", "effort": "5", **fields}
    )


def test_it_is_told_wherever_the_work_stands(w, coach, steps, today):
    stay = current(put_on(w, ladder=steps, place="home"))
    told = told_work(work_of(stay, today, Place.HOME))
    assert told.landings == (("three steps", 1), ("two or four", 0))
    assert "three steps 1, two or four 0" in told.target
    assert "three steps 1, two or four 0" in text(Client().get(f"/card/{w.token}/{stay.pk}/"))
    assert "three steps 1, two or four 0" in text(coach.get(f"/drills/{stay.rung.drill_id}/"))


def test_keys_are_kept_by_name_and_a_sum_has_no_places(w, steps, today):
    stay = current(put_on(w, ladder=steps, place="home"))
    counted = {"e0-points": 7, "e0-attempts": 10, "e0-strokes": "0000000111"}
    send(w, stay, today, **counted, **{"e0-faults": "two or four:3"})
    send(w, stay, today, **{"e0-points": 4, "e0-attempts": 5})
    sets = [session.sets.get() for session in Session.objects.order_by("recorded_at")]
    assert [(row.points, row.faults) for row in sets] == [(7, {"two or four": 3}), (4, None)]
    record = record_of(w.player, today, stay.arrived, stay.prescription_id)
    panel = landed(record, stay)
    assert panel.lines == [
        "Most often three steps: 7 of 10 attempts.",
        "Of 5 attempts the points alone were told.",
    ]
    assert panel.rows == [["three steps", "7", "70\u00a0%"], ["two or four", "3", "30\u00a0%"]]


def test_all_of_the_best_were_counted_too(w, steps, today):
    stay = current(put_on(w, ladder=steps, place="home"))
    send(w, stay, today, **{"e0-points": 3, "e0-attempts": 3, "e0-strokes": "000"})
    assert Session.objects.get().sets.get().faults == {}


def test_out_and_in_as_json(w, other, coach, steps):
    sent = coach.get(f"/library.json?ladder={steps.pk}").content.decode()
    [of] = [one for one in json.loads(sent)["drills"] if one["title"] == "Approach"]
    assert of["measure"]["landings"] == LANDINGS
    stranger = Client()
    stranger.force_login(other.coach.user)
    stranger.post("/library/in/", {"text": sent, "sure": "yes"})
    made = other.club.drills.get(title="Approach")
    assert [one.name for one in made.measure.landings] == ["three steps", "two or four"]


@pytest.mark.parametrize(
    ("landings", "told"),
    [
        ([{"name": "a", "points": 2}], "is more than the 1 that an attempt can bring"),
        ([{"name": "a", "points": 1}, {"name": "a", "points": 0}], "landings[1]"),
        ([{"name": "", "points": 1}], "landings[0].name"),
        ([{"name": "a", "points": 0.5}], "landings[0].points"),
    ],
)
def test_what_cannot_be_is_named(coach, steps, landings, told):
    sent = coach.get(f"/library.json?ladder={steps.pk}").json()
    [of] = [one for one in sent["drills"] if one["title"] == "Approach"]
    of["measure"]["landings"] = landings
    answer = coach.post("/library/in/", {"text": json.dumps(sent)})
    assert (answer.status_code, told in text(answer)) == (422, True)


@pytest.mark.parametrize(
    ("typed", "told"),
    [("corner", "has no points"), ("corner 9", "more than the 3"), ("a 1\na 2", "landings")],
)
def test_the_drills_form_says_what_is_wrong(coach, steps, typed, told):
    sent = {"title": "Serve", "kind": "points", "top": "3", "landings": typed, "revision": 0}
    answer = coach.post("/drills/new/", sent)
    assert answer.status_code == 422
    assert told in text(answer)
