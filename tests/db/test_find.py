"""One box finds players, ladders, drills, pages and actions: what a member may see, and no more."""

from django.test import Client

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.progress.desk.find import PAGES, find
from tests.make import text


def titles(member, words):
    return [(hit.title, hit.kind) for hit in find(member, words)]


def test_a_part_of_a_name_is_enough_and_players_come_first(w, today):
    Player.objects.create(club=w.club, name="Gate Keeper", joined_on=today)
    found = titles(w.coach, "gate")
    assert found[0] == ("Gate Keeper", "player")
    assert ("Gate", "ladder") in found
    assert titles(w.coach, "test day")[0] == ("Tests and test days", "page")
    assert titles(w.coach, "  ") == [(words, "page") for words, _, _ in PAGES]


def test_nobody_finds_another_club_or_an_action_that_is_not_theirs(w, other):
    mine = {hit.href for hit in find(w.coach, "ida")}
    assert f"/players/{w.player.pk}/" in mine
    assert f"/players/{other.player.pk}/" not in mine
    assert ("New player", "page") not in titles(w.assistant, "new")
    assert ("New player", "page") in titles(w.coach, "new")


def test_every_page_that_is_found_opens(w, coach):
    for hit in find(w.coach, ""):
        assert coach.get(hit.href).status_code == 200, hit


def test_what_is_typed_is_shown_and_never_run(w, coach):
    page = coach.get("/find/", {"words": "<script>alert(1)</script>"}).content.decode()
    assert "<script>" not in page
    assert "Nothing has" in text(coach.get("/find/", {"words": "zzz"}))
    assert Client().get("/find/").status_code == 302
