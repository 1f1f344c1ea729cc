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


@pytest.mark.parametrize(
    ("off", "ago", "asked"),
    [
        (timedelta(0), timedelta(days=2), False),  # done two days ago, sent now
        (timedelta(days=1), timedelta(0), True),  # the clock is a day ahead
        (timedelta(days=-400), timedelta(days=3), True),
    ],
)
def test_a_wrong_clock_moves_no_session(w, p, today, off, ago, asked):
    """The page that was open called another day today."""
    now = timezone.now()
    shown = today - ago
    times = {"done_at": now + off - ago, "device_now": now + off}
    more = {"on": shown, "page_day": shown} | {key: at.isoformat() for key, at in times.items()}
    status, answer = send(w, p, item(**more))
    assert (status, bool(answer["ask"])) == (200, asked)
    assert Session.objects.get().on == today - ago


def test_a_page_of_yesterday_that_is_used_today_means_today(w, p, today):
    """Opened yesterday, offline since; done an hour ago."""
    now = timezone.now()
    yesterday = today - timedelta(days=1)
    more = {"on": yesterday, "page_day": yesterday, "done_at": now, "device_now": now}
    send(w, p, item(**{key: getattr(at, "isoformat", str)() for key, at in more.items()}))
    assert Session.objects.get().on == today


def test_a_day_that_was_chosen_stays(w, p, today):
    yesterday = today - timedelta(days=1)
    now = timezone.now().isoformat()
    send(w, p, item(on=str(yesterday), page_day=str(today), done_at=now, device_now=now))
    assert Session.objects.get().on == yesterday


@pytest.mark.parametrize("junk", ["", "soon", "2026-11-26", "9" * 500, "2026-11-26T10:00:00"])
def test_times_that_are_none_change_nothing(w, p, today, junk):
    status, _ = send(w, p, item(done_at=junk, device_now=junk, page_day=str(today)))
    assert (status, Session.objects.get().on) == (200, today)
