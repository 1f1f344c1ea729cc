"""The night closes the hall: what was begun and never completed is recorded as far as it went."""

from datetime import timedelta

import pytest

from drill_ladder.apps.floor.hall.settling import close_halls
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import JudgedDay, Session
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.progress.desk.questions import parts_of_the_night
from drill_ladder.apps.review.after import after_hour
from drill_ladder.apps.review.night import night_of
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from tests.db.test_hall import Device, noon
from tests.make import current, drill, ladder, put_on


@pytest.fixture(autouse=True)
def night(w, today):
    """The night's work of today is done."""
    Club.objects.update(night_on=today)


@pytest.fixture
def stay(w, today):
    return current(put_on(w, on=today - timedelta(days=3)))


@pytest.fixture
def phone(w):
    return Device(w.assistant.user)


def test_what_was_never_completed_is_recorded_the_next_day(w, stay, today):
    old = Device(w.coach.user, noon(w, today - timedelta(days=1)))
    old.send(*old.strokes(stay, "ggm", "left"))
    assert not Session.objects.exists()
    assert close_halls(w.club, today) == 1
    assert Session.objects.get().on == today - timedelta(days=1)
    assert JudgedDay.objects.get().verdict == "short"
    assert close_halls(w.club, today) == 0


def test_whoever_counts_in_the_hall_counts_what_is_for_coached_sessions_too(w, phone, today):
    """An assistant holds the tablet: a coach is there. The night's part is by whoever counted."""
    stay = current(put_on(w, on=today - timedelta(days=3), place="coached"))
    phone.begin = noon(w, today - timedelta(days=1))
    phone.send(*phone.strokes(stay, "gg", "left"))
    assert close_halls(w.club, today) == 1
    session = Session.objects.get()
    assert (session.observer, session.recorded_by) == ("helper", w.assistant.user)


def another(w):
    of = drill(w.club, "Another", lanes=[])
    return ladder(w.club, of, "Another", target={"makes": 2, "of": 3}, dose={"sets": 1, "reps": 9})


def test_the_night_closes_the_hall_and_the_desk_says_so(w, stay, today):
    """Looking at the hall writes nothing; what was completed by day is no part."""
    other = current(put_on(w, player=w.player, on=today - timedelta(days=3), ladder=another(w)))
    old = Device(w.coach.user, noon(w, today - timedelta(days=1)))
    old.send(
        *old.strokes(stay, "ggm", "left"), *old.strokes(other, "ggg"), old.tap(other, "enough")
    )
    assert Session.objects.count() == 1
    assert old.client.get("/floor/").status_code == 200
    assert Session.objects.count() == 1
    Club.objects.update(night_on=today - timedelta(days=1))
    assert night_of(Club.objects.get(pk=w.club.pk))
    assert Session.objects.count() == 2
    assert [tap.stay for tap in parts_of_the_night(w.club, today)] == [stay]
    page = old.client.get("/").content.decode()
    assert "Not finished in the hall" in page
    assert parts_of_the_night(w.club, today + timedelta(days=1)) == []


def test_a_night_that_was_missed_loses_no_part(w, stay, today):
    old = Device(w.coach.user, noon(w, today - timedelta(days=6)))
    old.send(*old.strokes(stay, "ggm", "left"))
    later = today + timedelta(days=30)
    w.club.night_on = today - timedelta(days=7)
    assert close_halls(w.club, later) == 1


def test_after_the_hour_says_who_was_planned_and_not_here(w, today):
    """Here, counted or resting is not absent."""
    names = ("Away", "Here", "Rests")
    players = [Player.objects.create(club=w.club, name=n, joined_on=today) for n in names]
    monday = today - timedelta(days=today.weekday())
    for player in players:
        p = put_on(w, player=player, on=today - timedelta(days=3))
        week = Week.objects.create(club=w.club, player=player, monday=monday)
        same = {"club": w.club, "week": week, "prescription": p, "on": today}
        PlannedBlock.objects.create(order=1, minutes=10, place="club", **same)
    tablet = Device(w.coach.user)
    here = tablet.tap(current(players[1].prescriptions.get()), "here", word="in")
    tablet.send(here | {"stay": None})
    open_stop(player=players[2], what="knee", on=today, actor=None)
    assert [player.name for player in after_hour(w.club, today).absent] == ["Away"]
    page = tablet.client.get("/hall/after/").content.decode()
    assert "Planned, and not here" in page
