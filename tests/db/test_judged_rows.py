"""Judged days are kept as rows: whatever was done in whatever order, they say what the sets say."""

import random
from dataclasses import fields
from datetime import date, timedelta

import pytest

from drill_ladder.apps.practice.judged.days import (
    core_sessions,
    counted_rows,
    decide_stay,
    knowing,
    ladder_of,
    rejudge,
    rung_key,
)
from drill_ladder.apps.practice.models import JudgedDay, Session
from drill_ladder.apps.practice.sessions.services import record_session
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.prescriptions.services import take_new_terms
from drill_ladder.core.judging import decide
from tests.make import current, given, log, put_on

FIRST = date(2026, 3, 1)
KEPT = (
    *("stay_id", "on", "recheck", "observer", "eased", "form", "verdict", "met", "score", "lanes"),
    *("sets", "beside"),
)


def rows():
    """What is kept, in one order, as comparable values."""
    days = JudgedDay.objects.order_by("stay", "recheck", "on")
    return [tuple(getattr(day, name) for name in KEPT) for day in days]


def from_sets(stay, on):
    """The decision by nothing but the sets: the core's own way in."""
    sessions = stay.sessions.filter(recheck=False).prefetch_related("sets")
    told = [one for session in sessions for one in core_sessions(session, session.sets.all())]
    ladder = ladder_of(stay, stay.prescription.ladder.rung_ids())
    last = stay.prescription.last_on
    return decide(
        ladder, rung_key(stay.rung_id), told, on, last, False, knowing(stay, counted_rows(stay))
    )


def whole(decision):
    """Every part of a decision, to compare; the order of sets in a day says nothing."""
    days = [
        (j, j.day._replace(all_sets=sorted(j.day.all_sets, key=repr))) for j in decision.verdicts
    ]
    verdicts = [judged._replace(day=day) for judged, day in days]
    return {f.name: getattr(decision, f.name) for f in fields(decision)} | {"verdicts": verdicts}


def some_work(draw, stay, today):
    """A session as it comes: on any day since the arrival, late and early, whole and half."""
    on = FIRST + timedelta(days=draw.randrange((today - FIRST).days + 1))
    makes = [draw.randint(0, 10) for _ in range(draw.choice((1, 2, 2, 2)))]
    more = {"form": draw.choice((None, 0.3, 0.8, 1.0))}
    entry = given(on, *makes, observer=draw.choice(("self", "coach", "device")), **more)
    record_session(stay=stay, entry=entry, today=today, actor=None)


@pytest.mark.parametrize("seed", range(10))
def test_rows_say_what_the_sets_say_after_any_order_of_work_and_new_terms(w, seed):
    draw = random.Random(seed)
    p = put_on(w, on=FIRST)
    for step in range(14):
        today = FIRST + timedelta(days=20 + step)
        stay = current(p)
        if draw.random() < 0.15:
            rung = stay.rung
            rung.target = {"makes": draw.randint(5, 9), "of": 10, "each_lane": True}
            rung.save()
            take_new_terms(member=w.coach, stay=stay, on=today)
        else:
            some_work(draw, stay, today)
        for each in Stay.objects.filter(prescription=p).select_related("prescription__ladder"):
            assert whole(decide_stay(each, today)) == whole(from_sets(each, today))
    live = rows()
    assert len(live) == len({(s.stay_id, s.recheck, s.on) for s in Session.objects.all()}) > 3
    for _ in rejudge(w.club):
        pass
    assert rows() == live


def test_only_what_is_missing_is_judged_anew(w):
    p = put_on(w, on=FIRST)
    log(p, FIRST, 8, 8)
    live = rows()
    JudgedDay.objects.all().delete()
    assert list(rejudge(w.club, missing=True)) == [1]
    assert rows() == live
    assert list(rejudge(w.club, missing=True)) == []


def test_a_session_moves_the_last_days_of_player_and_ladder_forward_only(w):
    p = put_on(w, on=FIRST)
    for days, seen_by, last, seen in ((3, "coach", 3, 3), (9, "self", 9, 3), (1, "coach", 9, 3)):
        entry = given(FIRST + timedelta(days=days), 5, 5, observer=seen_by)
        record_session(stay=current(p), entry=entry, today=FIRST + timedelta(days=9), actor=None)
        p.refresh_from_db()
        w.player.refresh_from_db()
        known = (p.last_on - FIRST).days, (w.player.seen_on - FIRST).days
        assert known == (last, seen)
