"""A card may ask for a PIN: four digits, slow after five wrong ones, reset by a coach; a report of
hurt needs none.
"""

from datetime import timedelta

import pytest
from django.core.cache import cache
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.players.links import set_pin
from drill_ladder.apps.practice.models import Session, Stop
from tests.make import current, put_on, text


@pytest.fixture
def locked(w, today):
    cache.clear()
    put_on(w, on=today, place="home")
    set_pin(member=w.coach, player=w.player, pin="4711")
    return f"/card/{w.token}/"


def said(client, card, pin):
    return client.post(f"{card}pin/", {"pin": pin})


def test_without_the_pin_no_page_of_the_card_opens(w, locked):
    stay = current(w.player.prescriptions.get()).pk
    for path in ("", f"{stay}/", "week.pdf", "card.webmanifest"):
        answer = Client().get(locked + path)
        assert (answer.status_code, w.player.name in text(answer)) == (401, False), path
    assert Client().get(w.calendar).status_code == 200  # the calendar has a secret of its own


def test_the_right_pin_opens_it_on_this_device_until_another_one_is_set(w, locked):
    client = Client()
    answer = said(client, locked, "4711")
    cookie = answer.cookies["card-pin"]
    assert (answer.status_code, cookie["path"], cookie["httponly"]) == (302, locked, True)
    assert client.get(locked).status_code == 200
    assert Client().get(locked).status_code == 401
    set_pin(member=w.coach, player=w.player, pin="1234")
    assert client.get(locked).status_code == 401
    set_pin(member=w.coach, player=w.player, pin="")
    assert client.get(locked).status_code == 200


def test_after_five_wrong_ones_it_takes_longer_and_longer(locked, monkeypatch):
    begin, passed = timezone.now(), [0]
    monkeypatch.setattr("django.utils.timezone.now", lambda: begin + timedelta(seconds=passed[0]))
    client = Client()
    for _ in range(4):
        assert "not the PIN" in text(said(client, locked, "0000"))
    assert "Try again in 30" in text(said(client, locked, "0000"))
    # the right one during the wait is no try
    assert said(client, locked, "4711").status_code == 401
    passed[0] = 31
    assert "Try again in 60" in text(said(client, locked, "0000"))
    passed[0] = 92
    assert said(client, locked, "4711").status_code == 302


def test_the_wait_of_one_card_is_no_other_ones_and_a_coach_ends_it(w, coach, locked):
    client = Client()
    for _ in range(5):
        said(client, locked, "0000")
    coach.post(f"/players/{w.player.pk}/pin/", {"pin": "2222"})
    assert said(client, locked, "2222").status_code == 302


def test_a_report_of_hurt_needs_no_pin(w, locked):
    stay = current(w.player.prescriptions.get()).pk
    page = Client().post(f"{locked}{stay}/", {"hurts": "yes", "hurt_where": "wrist", "e0-makes": 3})
    assert page.status_code == 401
    assert "wrist" in text(page)
    assert (Stop.objects.get().what, Session.objects.count()) == ("wrist", 0)
    told = Client().post(f"{locked}hurt/", {"what": "knee"}, headers={"Accept": "application/json"})
    assert told.json()["told"] == "knee"


def test_what_a_device_sends_waits_until_it_has_the_pin(w, locked):
    stay = current(w.player.prescriptions.get()).pk
    answer = Client().post(
        f"{locked}{stay}/",
        {"hurts": "no", "e0-makes": 3, "e0-attempts": 10},
        headers={"Accept": "application/json"},
    )
    assert (answer.status_code, answer.json()["state"]) == (401, "pin")


@pytest.mark.parametrize("pin", ["1", "12345", "abcd", "١٢٣٤", "12 4"])
def test_a_pin_has_four_digits(w, coach, pin):
    with pytest.raises(Refused, match="four digits"):
        set_pin(member=w.coach, player=w.player, pin=pin)
    page = coach.post(f"/players/{w.player.pk}/pin/", {"pin": pin}, follow=True)
    assert "four digits" in text(page)
    w.player.refresh_from_db()
    assert w.player.card_pin == ""


def test_it_is_kept_as_a_hash_only(w, locked):
    w.player.refresh_from_db()
    assert "4711" not in w.player.card_pin
