"""Two parts of a routine that are judged in the same repetitions: a pass and what is made of it,
each on its own ladder; as long as the longer one, in the hall whichever is behind.
"""

import json

import pytest
from django.test import Client

from drill_ladder.apps.floor.hall.document import hall_of
from drill_ladder.apps.library.models import Routine
from drill_ladder.apps.library.routines.services import PartInput, RoutineHead, save_routine
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.routines.log import stays_of
from drill_ladder.apps.prescriptions.routines.services import (
    give_routine,
    parts_in_hand,
    timed,
)
from drill_ladder.apps.prescriptions.services import end_prescription
from tests.make import current, drill, ladder, text


def catching(club):
    """A ladder of one rung, ten points at most each."""
    of = drill(club, "Play on", lanes=[], measure={"kind": "points", "max": 3})
    made = {"target": {"value": 2.0}, "dose": {"sets": 1, "reps": 10}, "floor": None}
    return ladder(club, of, "The play after it", **made)


@pytest.fixture
def routine(w):
    """The pass, and what is made of it."""
    return save_routine(
        member=w.coach,
        routine=None,
        head=RoutineHead("Pass and play"),
        parts=[PartInput(w.ladder), PartInput(catching(w.club), together=True)],
    )


@pytest.fixture
def given(w, routine, today):
    return give_routine(
        member=w.coach, routine=routine, player=w.player, per_week=2, place="both", on=today
    )


def test_they_take_the_time_of_the_longer_one(given):
    hand = parts_in_hand(given, stays_of(given))
    plan = timed(given, hand)
    assert [(part.starts_s, part.sets) for part in plan.parts] == [(0, 1), (0, 1)]
    assert plan.seconds == max(part.seconds for part in plan.parts)


def test_both_are_told_of_each_other_and_each_result_is_on_its_ladder(w, given, today):
    page = Client().get(f"/card/{w.token}/routine/{given.pk}/")
    assert [part.beside for part in page.context["parts"]] == [("The play after it",), ("Gate",)]
    assert "Judged in the same repetitions as Gate" in text(page)
    run = text(Client().get(f"/card/{w.token}/routine/{given.pk}/run/"))
    assert "Each repetition is judged twice" in run
    sent = {"p1-e0-makes": 8, "p1-e0-attempts": 10, "p2-e0-points": 21, "p2-e0-attempts": 10}
    Client().post(f"/card/{w.token}/routine/{given.pk}/", {"on": f"{today}", "hurts": "no", **sent})
    told = {row.stay.prescription.ladder.title: row.sets.first() for row in Session.objects.all()}
    assert (told["Gate"].makes, told["The play after it"].points) == (8, 21)


def test_in_the_hall_each_knows_the_other_and_no_one_else(w, given, today):
    def beside():
        [player] = [one for one in hall_of(w.club, today)["players"] if one["id"] == w.player.pk]
        return {work["ladder"]: (work["stay"], work["beside"]) for work in player["work"]}

    known = beside()
    both = [known["Gate"][0], known["The play after it"][0]]
    assert [beside for _, beside in known.values()] == [both, both]
    # one of them has ended: what is left stands for itself
    last = given.prescriptions.get(part=2)
    end_prescription(member=w.coach, prescription=last, on=today)
    assert beside()["Gate"][1] == []


def test_where_the_first_has_ended_the_second_goes_on_alone(w, given, today):
    first = given.prescriptions.get(part=1)
    end_prescription(member=w.coach, prescription=first, on=today)
    [part] = parts_in_hand(given, stays_of(given))
    assert not part.together
    page = Client().get(f"/card/{w.token}/routine/{given.pk}/")
    assert [one.beside for one in page.context["parts"]] == [()]
    assert current(given.prescriptions.get(part=2)).rung.title


def test_what_is_no_single_repetition_cannot_be_judged_in_the_same_ones(w):
    of = drill(w.club, "Shuttle", lanes=[], measure={"kind": "count", "window_s": 30})
    window = ladder(w.club, of, "In a window", target={"value": 9}, floor=None)
    parts = [PartInput(w.ladder), PartInput(window, together=True)]
    with pytest.raises(Refused, match="In a window is not counted repetition by repetition"):
        save_routine(member=w.coach, routine=None, head=RoutineHead("No"), parts=parts)
    assert not Routine.objects.exists()


def test_typed_on_the_page_told_and_out_and_in(w, other, coach, routine):
    rows = {
        "part-TOTAL_FORMS": 2,
        "part-INITIAL_FORMS": 2,
        "part-0-of": f"l{w.ladder.pk}",
        # the first has nothing to go with, whatever is sent
        "part-0-together": "on",
        "part-1-of": f"l{routine.parts.last().ladder_id}",
        "part-1-together": "on",
        "title": "Pass and play",
        "change_s": "15",
        "revision": routine.revision,
    }
    coach.post(f"/routines/{routine.pk}/edit/", rows)
    assert [part.together for part in routine.parts.all()] == [False, True]
    assert "each is judged twice" in text(coach.get(f"/routines/{routine.pk}/"))
    sent = coach.get(f"/library.json?routine={routine.pk}").content.decode()
    told = [part["together"] for part in json.loads(sent)["routines"][0]["parts"]]
    assert told == [False, True]
    stranger = Client()
    stranger.force_login(other.coach.user)
    stranger.post("/library/in/", {"text": sent, "sure": "yes"})
    made = Routine.objects.get(club=other.club)
    assert [part.together for part in made.parts.all()] == [False, True]
