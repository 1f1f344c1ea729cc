"""A club of invented players to try things in: made by one touch, gone by one, and nobody real is
told anything or touched by it.
"""

from unittest import mock

import pytest
from django.apps import apps
from django.core import mail
from django.test import Client

from drill_ladder.apps.messages.models import Fate, Message
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Guardian, Membership, Player
from drill_ladder.apps.records.practice_club import begin_practice, end_practice
from drill_ladder.demo.people import STORIES
from tests.make import log, put_on, text


def counted():
    """Rows of every table of the product, jobs apart."""
    rows = {}
    for model in apps.get_models():
        if model.__module__.startswith("drill_ladder") and model._meta.label != "jobs.Job":
            rows[model._meta.label] = model._base_manager.count()
    return rows


@pytest.fixture
def players():
    """How many of the invented players live there."""
    return 1


@pytest.fixture
def practice(w, today, coach, players):
    """Beside a real club with something in it."""
    log(put_on(w, on=today), today, 8, 8)
    before = counted()
    with mock.patch("drill_ladder.demo.practice.STORIES", STORIES[:players]):
        page = coach.post("/practice/", follow=True)
    return before, page, Club.objects.get(practice=True)


@pytest.mark.parametrize("players", [2])
def test_it_is_there_by_one_touch_and_gone_by_one(w, practice, coach):
    before, page, club = practice
    assert "Go there" in text(page)
    assert Player.objects.of_club(club).count() == 2
    assert "Practice club: everybody here" not in text(coach.get("/"))
    coach.post("/account/club/", {"club": club.pk})
    desk = text(coach.get("/"))
    assert "Practice club: everybody here is invented" in desk
    assert "Ida Marlow" in desk
    gone = text(coach.post("/practice/end/", follow=True))
    assert "The practice club is gone" in gone
    assert "Tern Harbour" in gone
    assert counted() == before


def test_nobody_is_written_to(practice):
    _, _, club = practice
    assert not Guardian.objects.filter(club=club).exclude(email="").exists()
    fates = set(Message.objects.of_club(club).values_list("fate", flat=True))
    assert fates <= {Fate.STOPPED}
    assert mail.outbox == []


def test_one_each_and_only_its_own_end(w, practice, coach):
    _, _, club = practice
    with pytest.raises(Refused, match="already"):
        begin_practice(w.coach)
    with pytest.raises(Refused, match="no practice club"):
        end_practice(w.coach)
    assert Club.objects.filter(pk=w.club.pk).exists()
    theirs = Membership.objects.get(club=club)
    theirs.role = "coach"
    with pytest.raises(Refused, match="Only its owner"):
        end_practice(theirs)
    helper = Client()
    helper.force_login(w.assistant.user)
    assert helper.post("/practice/").status_code == 403
