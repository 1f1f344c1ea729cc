"""Numbers that can hardly be are asked about once; those that cannot be are refused."""

from datetime import timedelta
from uuid import uuid4

import pytest

from drill_ladder.apps.practice.models import Session
from tests.make import current, drill, ladder, log, put_on, text


@pytest.mark.parametrize(
    ("measure", "target", "sent", "asks"),
    [
        ({"kind": "time"}, {"value": 9}, {"e0-seconds": "0"}, "no time at all"),
        ({"kind": "time"}, {"value": 9}, {"e0-seconds": "4000"}, "over an hour"),
        (
            {"kind": "count", "window_s": 30},
            {"value": 18},
            {"e0-count": "5000"},
            "167 a second",
        ),
        (
            {"kind": "makes"},
            {"makes": 8, "of": 10},
            {"e0-makes": "9", "e0-attempts": "99"},
            "99 att",
        ),
    ],
)
def test_what_can_hardly_be_is_asked_about_once(w, coach, today, measure, target, sent, asks):
    of = drill(w.club, "Odd", measure=measure, lanes=[])
    odd = ladder(w.club, of, "Odd", dose={"sets": 1, "reps": 10}, target=target, floor=None)
    address = f"/log/{current(put_on(w, ladder=odd, on=today)).pk}/"
    sent = sent | {"session_id": str(uuid4()), "hurts": "no"}
    first = coach.post(address, sent)
    assert (first.status_code, Session.objects.count()) == (422, 0)
    assert asks in text(first)
    assert coach.post(address, sent | {"sure": "on"}).status_code == 302
    assert Session.objects.count() == 1


def test_four_good_ones_take_four_attempts(w, coach, today):
    four = drill(w.club, "Four", measure={"kind": "to_n", "n": 4}, lanes=[])
    of = ladder(w.club, four, "Four", dose={"sets": 1}, target={"value": 8}, floor=None)
    address = f"/log/{current(put_on(w, ladder=of, on=today)).pk}/"
    sent = {"session_id": str(uuid4()), "hurts": "no", "e0-attempts": "3"}
    assert "4 good ones take at least 4 attempts" in text(coach.post(address, sent))


def test_ids_that_are_given_twice_or_stand_elsewhere_lose_nothing(w, coach, today):
    p = put_on(w, on=today - timedelta(days=3))
    other, mine = log(p, today - timedelta(days=1), 7, 7), log(p, today, 8, 8)
    foreign = str(other.sets.first().pk)
    typed = {"e0-id": foreign, "e1-id": foreign, "on": f"{today}"}
    typed |= {f"e{i}-{name}": "9" for i in (0, 1) for name in ("makes", "attempts")}
    coach.post(f"/sessions/{mine.pk}/", typed)
    assert [row.makes for row in mine.sets.all()] == [9, 9]
    assert [row.makes for row in other.sets.all()] == [7, 7]
    twice = {"e0-id": (same := str(uuid4())), "e1-id": same, "hurts": "no"}
    coach.post(f"/log/{current(p).pk}/", typed | twice | {"session_id": (new := str(uuid4()))})
    assert Session.objects.get(pk=new).sets.count() == 2
