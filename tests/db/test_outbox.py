"""What a device sends by itself: each item answered, none twice, none on a wrong day unasked."""

from datetime import timedelta
from uuid import uuid4

import pytest
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.practice.models import HurtReport, Session
from tests.make import current, put_on

JSON = {"accept": "application/json"}


@pytest.fixture
def p(w, today):
    return put_on(w, on=today - timedelta(days=14), place="home")


def item(**more):
    """Ten in each lane, as a device sends them."""
    sent = {"session_id": str(uuid4()), "hurts": "no", "seen_by": "self"}
    for lane in (0, 1):
        sent |= {f"e{lane}-id": str(uuid4()), f"e{lane}-makes": "8", f"e{lane}-attempts": "10"}
    return sent | more


def send(w, p, sent):
    answer = Client().post(f"/card/{w.token}/{current(p).pk}/", sent, headers=JSON)
    return answer.status_code, answer.json()


def test_an_item_is_stored_once_however_often_it_comes(w, p):
    sent = item()
    for _ in range(3):
        status, answer = send(w, p, sent)
        assert (status, answer["state"]) == (200, "stored")
    assert answer["next"].endswith(f"/done/{sent['session_id']}/")
    assert Session.objects.count() == 1


def test_what_is_refused_says_why_and_stores_nothing(w, p):
    status, answer = send(w, p, item(**{"e0-makes": "12"}))
    assert (status, answer["state"]) == (422, "refused")
    assert answer["why"] == ["12 good ones out of 10 cannot be."]
    assert not Session.objects.exists()


def test_a_hurt_is_heard_even_in_what_is_refused(w, p):
    send(w, p, item(hurts="yes", hurt_where="knee", **{"e0-makes": "12"}))
    assert HurtReport.objects.get().words == "knee"


@pytest.mark.parametrize("off", [timedelta(days=1), timedelta(days=-400), timedelta(hours=13)])
def test_a_wrong_clock_is_asked_about_before_anything_is_stored(w, p, today, off):
    now = timezone.now()
    sent = item(on=f"{today}", page_day=f"{today}", done_at=now, device_now=(now + off).isoformat())
    status, answer = send(w, p, sent)
    assert (status, answer["state"]) == (200, "ask")
    assert answer["days"] == [f"{today - timedelta(days=n)}" for n in range(8)]
    assert not Session.objects.exists()
    chosen = f"{today - timedelta(days=2)}"
    assert send(w, p, sent | {"on": chosen, "day_asked": "yes"})[1]["state"] == "stored"
    assert Session.objects.get().on == today - timedelta(days=2)


def test_a_wrong_clock_keeps_no_hurt_waiting(w, p, today):
    wrong = (timezone.now() + timedelta(days=3)).isoformat()
    _, answer = send(w, p, item(device_now=wrong, hurts="yes", hurt_where="knee"))
    assert answer["state"] == "ask"
    assert HurtReport.objects.get().words == "knee"


@pytest.mark.parametrize("minutes", [0, 11 * 60, -700])
def test_today_is_meant_as_on_the_pages_own_date(w, p, today, minutes):
    """Opened yesterday, done before midnight, sent after it; a clock that is off by hours moves
    nothing.
    """
    now = timezone.now()
    yesterday = today - timedelta(days=1)
    shown = (now + timedelta(minutes=minutes)).isoformat()
    send(w, p, item(on=f"{yesterday}", page_day=f"{yesterday}", done_at=shown, device_now=shown))
    assert Session.objects.get().on == yesterday


def test_a_day_that_was_chosen_stays(w, p, today):
    yesterday = today - timedelta(days=1)
    now = timezone.now().isoformat()
    send(w, p, item(on=str(yesterday), page_day=str(today), done_at=now, device_now=now))
    assert Session.objects.get().on == yesterday


@pytest.mark.parametrize("junk", ["", "soon", "2026-11-26", "9" * 500, "2026-11-26T10:00:00"])
def test_times_that_are_none_change_nothing(w, p, today, junk):
    status, _ = send(w, p, item(done_at=junk, device_now=junk, page_day=str(today)))
    assert (status, Session.objects.get().on) == (200, today)
