"""One piece of work is one thing: what card, log, routine, hall, paper and sheet say of it."""

import html
import json
import re
from datetime import timedelta
from pathlib import Path

import pytest
from django.test import Client
from pydantic import TypeAdapter

from drill_ladder.apps.card.paper.pages import home_card
from drill_ladder.apps.card.paper.sheet import sheet_of
from drill_ladder.apps.floor.hall.document import hall_of
from drill_ladder.apps.library.models import Rung, Treatment
from drill_ladder.apps.library.routines.services import PartInput, RoutineHead, save_routine
from drill_ladder.apps.people.models import Player, PlayerDay
from drill_ladder.apps.practice.work.building import work_of
from drill_ladder.apps.prescriptions.routines.services import give_routine
from drill_ladder.apps.prescriptions.services import take_new_terms
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.work import Place
from drill_ladder.formats.work_words import ToldWork, told_work, work_document
from tests.db.test_paper import Looked
from tests.make import current, log, put_on, text

CALLER = {"cues": [{"name": "near"}, {"name": "far"}], "every_s": 3}
SCHEMA = Path("docs/schema/work.json")


@pytest.fixture
def rich(w, today):
    """A rung with everything that is said of one: a left-hander, eased, with a cue of the day."""
    drill, rung = w.drill, w.ladder.rungs.get(position=2)
    drill.how, drill.caution_note = "Push it from the left foot.", "Ask who is behind you"
    drill.checkpoints, drill.worn, drill.tools = ["Head still", "Low"], ["eye wear"], ["stick"]
    drill.purpose, drill.people = "Passing under pressure", "feeder"
    drill.save()
    Treatment.objects.create(club=w.club, drill=drill, fault="late", cue="Swing early")
    rung.changes, rung.caller, rung.tempo = "a smaller gate", CALLER, 0.5
    rung.target = {"makes": 8, "of": 10, "each_lane": True, "form_min": 0.8}
    rung.save()
    Player.objects.update(dominant_side="left")
    w.player.refresh_from_db()
    p = put_on(w, rung=2, on=today - timedelta(days=3))
    stay = current(p)
    log(p, today - timedelta(days=1), 6, 6, worn=["eye wear"])
    stay.sessions.get().sets.update(faults={"late": 3})
    stay.eased = True
    stay.save()
    return p


SAID = {
    "dose": "10 right, 10 left, at half speed",
    "title": "Gate 2",
    "cue": "Swing early",
    "easier": "bigger gate",
    "note": "Ask who is behind you",
}


def plain(page: str) -> str:
    words = html.unescape(re.sub(r"<[^>]+>", " ", page)).replace("\u00a0", " ")
    return re.sub(r"\s+", " ", words)


def places(w, p, today, monkeypatch):
    """Place -> what it says."""
    stay = current(p)
    coach = Client()
    coach.force_login(w.coach.user)
    found = {
        "card": plain(text(Client().get(f"/card/{w.token}/{stay.pk}/"))),
        "log": plain(text(coach.get(f"/log/{stay.pk}/"))),
    }
    seen = Looked(monkeypatch)
    home_card(w.player, monday_of(today), "x")
    from django.template.loader import render_to_string

    context = seen.context | {"size": "", "scale": 1.0}
    found["paper"] = plain(render_to_string("card/print_card.html", context))
    week = Week.objects.create(club=w.club, player=w.player, monday=monday_of(today))
    PlannedBlock.objects.create(
        club=w.club, week=week, prescription=p, on=today, place="club", minutes=10, order=1
    )
    rows = {"on": today, "rows": sheet_of(w.club, today, None).rows, "count": 1, "scale": 1.0}
    rows |= {"size": "", "squad": None, "club": w.club, "off": []}
    found["sheet"] = plain(render_to_string("card/print_sheet.html", rows))
    hall = hall_of(w.club, today)["players"][0]["work"][0]
    found["hall"] = plain(json.dumps(hall, ensure_ascii=False))
    return found


def test_one_stay_is_told_in_the_same_words_in_all_places(w, rich, today, monkeypatch):
    told = told_work(work_of(current(rich), today))
    for name, words in SAID.items():
        assert getattr(told, name) == words
    for place, page in places(w, rich, today, monkeypatch).items():
        for name, words in SAID.items():
            assert words in page, f"{place} says nothing of {name}"
        assert told.target.replace("\u00a0", " ") in page, place


def test_a_part_of_a_routine_is_told_whole(w, rich, today):
    """Its caller, its cue, its plan, what is easier: as on a page of its own."""
    w.drill.versions = [
        {"name": "Alone", "people": "solo", "wall": False, "tools": [], "surfaces": []}
        | {"loses": ["pressure"], "instead": {}}
    ]
    w.drill.save()
    for day in range(7):
        PlayerDay.objects.update_or_create(
            club=w.club, player=w.player, weekday=day, defaults={"place": "home", "minutes": 40}
        )
    head = RoutineHead("Morning set", "Wake the feet", 20, None)
    routine = save_routine(
        member=w.coach, routine=None, head=head, parts=[PartInput(w.ladder, keep=True)]
    )
    given = give_routine(
        member=w.coach, player=w.player, routine=routine, per_week=3, place="both", on=today
    )
    answer = Client().get(f"/card/{w.token}/routine/{given.pk}/")
    page = plain(text(answer))
    for words in SAID.values():
        assert words in page
    assert "At your place: Alone" in page
    assert "It lacks: pressure" in page
    assert "Start the calls" in page
    assert "Not today" in page
    assert 'id="p' in text(answer)
    assert '-caller"' in text(answer)


def test_lanes_are_said_for_the_players_hand_and_stored_in_the_drills_words(w, rich, today):
    told = told_work(work_of(current(rich), today))
    assert (told.lanes, told.said) == (("left", "right"), ("right", "left"))
    page = text(Client().get(f"/card/{w.token}/{current(rich).pk}/"))
    first, second = re.findall(r"<legend>(.*?)</legend>", page)[:2]
    assert (first, second) == ("Right", "Left")


def test_at_home_it_is_another_way_and_at_the_club_the_full_one(w, rich, today):
    w.drill.people, w.drill.versions = (
        "group",
        [
            {"name": "Alone", "people": "solo", "wall": False, "tools": [], "surfaces": []}
            | {"loses": ["pressure"], "instead": {}}
        ],
    )
    w.drill.group_of = 3
    w.drill.save()
    stay = current(rich)
    w.player.home_tools = "stick"
    w.player.save()
    assert work_of(current(rich), today, Place.HOME).how.way == "Alone"
    assert work_of(stay, today).how.way == ""


def test_many_are_put_together_by_a_handful_of_questions(
    w, rich, today, django_assert_max_num_queries
):
    with django_assert_max_num_queries(24):
        hall_of(w.club, today)


def test_the_schema_of_the_document_is_published_and_holds(w, rich, today):
    schema = TypeAdapter(ToldWork).json_schema()
    assert json.loads(SCHEMA.read_text()) == schema, "run scripts/schemas"
    document = json.loads(json.dumps(work_document(work_of(current(rich), today))))
    assert TypeAdapter(ToldWork).validate_python(document)


def test_a_group_may_have_bad_feeds(w, rich, today):
    w.drill.people, w.drill.group_of = "group", 4
    w.drill.save()
    assert not work_of(current(rich), today).together.fed
    w.drill.feeds_judged = True
    w.drill.save()
    assert work_of(current(rich), today).together.fed


def test_a_name_is_called_in_the_hall_and_not_at_home(w, today):
    named = {"cues": [{"name": "near"}, {"name": "a name"}], "every_s": 3}
    Rung.objects.update(caller=named)
    stay = current(put_on(w))

    def called(place):
        rows = work_of(stay, today, place).conduct.calls["calls"]
        return {call["cue"] for row in rows for call in row}

    assert called(Place.HOME) == {"near"}
    assert called(Place.CLUB) == {"near", "a name"}
    Rung.objects.update(caller={"cues": [{"name": "a name"}]})
    stay = current(stay.prescription)
    take_new_terms(member=w.coach, stay=stay, on=today)
    stay = current(stay.prescription)
    assert called(Place.HOME) == {"a name"}  # nothing else is there to be called
