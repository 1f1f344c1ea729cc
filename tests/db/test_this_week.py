"""A player's own page: what is planned this week, what was done of it, what is due to be
checked.
"""

from datetime import date, timedelta

import pytest
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.judged.retention import due_checks
from drill_ladder.apps.prescriptions.services import end_prescription
from drill_ladder.apps.progress.desk.questions import sessions_today
from drill_ladder.apps.progress.player.this_week import this_week
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from tests.make import climbs, log, put_on

MONDAY = date(2026, 3, 2)


def planned(w, p, *days, **more):
    week = Week.objects.create(
        club=w.club, player=w.player, monday=days[0] - timedelta(days=days[0].weekday()), **more
    )
    for n, on in enumerate(days, 1):
        PlannedBlock.objects.create(
            club=w.club, week=week, prescription=p, on=on, order=n, minutes=9, place="home"
        )
    return week


def test_what_is_planned_and_what_was_done(w, django_assert_max_num_queries):
    p = put_on(w, on=MONDAY)
    planned(w, p, MONDAY, MONDAY + timedelta(days=3))
    log(p, MONDAY, 8, 8)
    log(p, MONDAY + timedelta(days=1), 8, 8)
    with django_assert_max_num_queries(5):
        found = this_week(w.player, climbs(w.player), MONDAY + timedelta(days=4))
    told = [(on, [line.done for line in lines]) for on, lines in found.days]
    assert told == [(MONDAY, [True]), (MONDAY + timedelta(days=3), [False])]
    assert found.extra == 1


def test_a_ladder_that_has_ended_is_not_waited_for(w):
    p = put_on(w, on=MONDAY)
    planned(w, p, MONDAY, MONDAY + timedelta(days=3))
    log(p, MONDAY, 8, 8)
    end_prescription(member=w.coach, prescription=p, on=MONDAY + timedelta(days=1))
    found = this_week(w.player, climbs(w.player), MONDAY + timedelta(days=2))
    assert [(on, [line.done for line in lines]) for on, lines in found.days] == [(MONDAY, [True])]
    PlannedBlock.objects.update(on=MONDAY, place="club")
    assert sessions_today(w.club, MONDAY) == ([], [])


def test_what_several_do_at_the_club_today_can_be_begun_together(w):
    first = put_on(w, on=MONDAY)
    other = Player.objects.create(club=w.club, name="Bo", joined_on=MONDAY)
    second = put_on(w, player=other, on=MONDAY)
    planned(w, first, MONDAY)
    week = Week.objects.create(club=w.club, player=other, monday=MONDAY)
    same = {"club": w.club, "week": week, "prescription": second, "on": MONDAY}
    PlannedBlock.objects.create(order=1, minutes=9, place="club", **same)
    PlannedBlock.objects.update(place="club")
    there, together = sessions_today(w.club, MONDAY)
    assert [one.player for one in there] == ["Bo", "Ida Marlow"]
    assert [(one.title, one.players) for one in together] == [
        (w.drill.title, [other.pk, w.player.pk])
    ]


def test_another_week_is_not_this_one(w):
    p = put_on(w, on=MONDAY)
    planned(w, p, MONDAY)
    log(p, MONDAY, 8, 8)
    found = this_week(w.player, climbs(w.player), MONDAY + timedelta(days=7))
    assert (found.week, found.days, found.extra) == (None, [], 0)


@pytest.mark.parametrize("told", [True, False])
def test_the_players_page_says_it(w, told):
    today = timezone.localdate()
    page = Client()
    page.force_login(w.coach.user)

    def read():
        return page.get(f"/players/{w.player.pk}/").content.decode()

    p = put_on(w, on=today - timedelta(days=9))
    assert "Not planned yet." in read()
    planned(w, p, today, published_at=timezone.now() if told else None)
    assert "9&nbsp;min, home" in read()
    assert ("Not published yet" in read()) != told
    PlannedBlock.objects.all().delete()
    assert "A week without drills." in read()


def test_what_did_not_hold_comes_first_then_the_longest_due(w):
    p = put_on(w, rung=1, on=MONDAY)
    for n, rung in enumerate((2, 3)):
        stay = p.stays.get(left__isnull=True)
        stay.left = MONDAY + timedelta(days=10 * (n + 1))
        stay.save()
        to = w.ladder.rungs.get(position=rung)
        p.stays.create(club=w.club, rung=to, arrived=stay.left, how="climb", terms=stay.terms)
    due = due_checks(climbs(w.player), MONDAY + timedelta(days=200))
    assert [one.stay.rung.position for one in due] == [1, 2]
    assert due_checks(climbs(w.player), MONDAY + timedelta(days=12)) == []
