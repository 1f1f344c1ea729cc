"""A word to a player in the moment: on their next card, in the hall next time, and taken back."""

from datetime import timedelta
from uuid import uuid4

import pytest
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.floor.hall.document import hall_of
from drill_ladder.apps.floor.hall.said import said_to
from drill_ladder.apps.floor.hall.taps import FromDevice, take
from drill_ladder.apps.floor.models import FloorTap
from tests.make import current, put_on, text

DEVICE = FromDevice("tablet")


def tap(w, act, stay=None, **value):
    sent = {
        "id": str(uuid4()),
        "at": timezone.now().isoformat(),
        "player": w.player.pk,
        "stay": stay,
        "act": act,
        "value": value,
    }
    return sent["id"], take(w.coach, [sent], DEVICE)


def said(w, today):
    return [(one.words, one.next_time) for one in said_to(w.club, w.player, today)]


def test_a_word_stands_on_the_next_card_and_with_the_player(w, today, coach):
    put_on(w, on=today)
    uid, taken = tap(w, "word", word="Soft hands")
    assert taken.stored == [uid]
    tap(w, "word", word="Look up first", on=False)
    assert said(w, today) == [("Look up first", True), ("Soft hands", False)]
    card = text(Client().get(f"/card/{w.token}/"))
    assert "Your coach said" in card
    assert "“Soft hands”" in card
    assert "For next time: “Look up first”" in card
    page = text(coach.get(f"/players/{w.player.pk}/"))
    assert "Said in the hall" in page
    assert "“Soft hands”" in page


def test_what_is_for_next_time_stands_in_the_hall_then(w, today):
    put_on(w, on=today)
    tap(w, "word", word="Look up first", on=False)
    tap(w, "word", word="Well held")
    (now,) = hall_of(w.club, today)["players"]
    assert now["say"] == []
    (later,) = hall_of(w.club, today + timedelta(days=2))["players"]
    assert later["say"] == ["Look up first"]
    (long_after,) = hall_of(w.club, today + timedelta(days=30))["players"]
    assert long_after["say"] == []


def test_what_is_taken_back_is_gone_from_everywhere(w, today):
    put_on(w, on=today)
    uid, _ = tap(w, "word", word="Wrong child")
    tap(w, "undo", of=uid)
    assert said(w, today) == []
    assert "Wrong child" not in text(Client().get(f"/card/{w.token}/"))


@pytest.mark.parametrize("value", [{}, {"word": "  "}, {"word": "x" * 61}, {"word": "a\nb"}])
def test_a_word_that_is_none_is_refused_by_its_name(w, today, value):
    put_on(w, on=today)
    uid, taken = tap(w, "word", **value)
    assert uid in taken.refused
    assert not FloorTap.objects.exists()


def test_a_word_belongs_to_a_player_and_to_no_rung(w, today, other):
    p = put_on(w, on=today)
    uid, taken = tap(w, "word", stay=current(p).pk, word="Soft hands")
    assert "no word to a player" in taken.refused[uid]
    tap(w, "word", word="Soft hands")
    assert said_to(other.club, w.player, today) == []
