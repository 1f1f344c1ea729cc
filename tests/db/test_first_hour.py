"""The first hour of a club: what leads, and what stands where nothing is yet."""

import pytest
from django.test import Client

from drill_ladder.apps.library.files.shelf import shelf_of
from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.progress.desk.first_steps import first_steps
from tests.make import log, put_on, text


def done(club):
    return [step.done for step in first_steps(club)]


def test_each_step_is_told_once_it_is_done_and_the_first_session_ends_the_list(w, today):
    Prescription.objects.all().delete()
    w.club.ladders.all().delete()
    Player.objects.all().delete()
    assert done(w.club) == [False, False, False, False]
    assert [step.action for step in first_steps(w.club)] == [
        "Add a player",
        "Starter ladders",
        "",
        "",
    ]


def test_the_way_leads_to_whoever_was_added_last(w, today):
    assert done(w.club) == [True, True, False, False]
    asked = first_steps(w.club)[2]
    assert (asked.title, asked.href) == (
        "Prescribe it to Ida Marlow",
        f"/players/{w.player.pk}/prescribe/",
    )
    p = put_on(w, on=today)
    assert done(w.club) == [True, True, True, False]
    assert first_steps(w.club)[3].href == f"/players/{w.player.pk}/family/#card"
    log(p, today, 8, 8)
    assert first_steps(w.club) == []


def test_an_empty_club_is_led_and_no_page_praises_emptiness(w, coach):
    Player.objects.all().delete()
    page = text(coach.get("/"))
    assert "First steps" in page
    for praise in ("on time", "All decided", "You have seen everybody"):
        assert praise not in page
    helper = Client()
    helper.force_login(w.assistant.user)
    assert "First steps" not in text(helper.get("/"))


def test_who_is_on_no_ladder_is_seen(w, coach, today):
    p = put_on(w, on=today)
    log(p, today, 8, 8)
    Player.objects.create(club=w.club, name="Nobody asked", joined_on=today)
    page = coach.get("/")
    assert [one.name for one in page.context["idle"]] == ["Nobody asked"]
    assert "On no ladder" in text(page)


def test_the_shelf_shows_each_ladder_whole(w, coach):
    page = text(coach.get("/library/starter/"))
    shelf = shelf_of(w.club)
    assert len(shelf) == 24
    for one in shelf:
        assert one.ladder.title in page
        assert one.drill.purpose in page
        assert one.said in page
    assert sum(bool(one.picture) for one in shelf) >= 8


def test_one_is_taken_alone_and_worded_for_the_sport(w, coach):
    before = Ladder.objects.count()
    answer = coach.post("/library/starter/", {"number": "1", "skill": "First touch"})
    made = Ladder.objects.get(title="Wall rebound")
    assert answer.headers["Location"] == f"/ladders/{made.pk}/"
    assert Ladder.objects.count() == before + 1
    assert made.skill.name == "First touch"
    assert Drill.objects.get(title="Wall rebound").skill.name == "First touch"
    assert "In your library already" in text(coach.get("/library/starter/"))


@pytest.mark.parametrize(("number", "status"), [("99", 404), ("0", 404), ("x", 302), ("9999", 302)])
def test_what_is_not_on_it_is_not_taken(w, coach, number, status):
    before = Ladder.objects.count()
    assert coach.post("/library/starter/", {"number": number}).status_code == status
    assert Ladder.objects.count() == before


def test_insights_lead_to_squads_ladders_and_decisions(w, coach):
    page = coach.get("/insights/").content.decode()
    for place in ("/own-decisions/", f"/ladders/{w.ladder.pk}/steps/"):
        assert f'href="{place}"' in page
        assert coach.get(place).status_code == 200


def test_rules_are_compared_once_there_are_enough_stays(w, coach, today):
    put_on(w, on=today)
    page = text(coach.get(f"/ladders/{w.ladder.pk}/steps/"))
    assert "8 finished stays missing" in page
    assert "Compare rules" not in page
    page = text(coach.get(f"/ladders/{w.ladder.pk}/replay/1/"))
    assert "Too few to tell" in page
    assert "Take this rule" not in page
