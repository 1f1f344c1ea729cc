"""Rungs passed are checked after two, four and eight weeks; one that does not hold is offered back.
Days by hand.
"""

from datetime import date, timedelta

import pytest
from django.test import Client

from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.practice.judged.retention import passed
from drill_ladder.apps.practice.sessions.services import record_session
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.prescriptions.services import go_back
from drill_ladder.apps.progress.panels.all_players import held_lines
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.review.services import settle
from tests.make import climbs, current, given, log, put_on

FIRST = date(2026, 1, 5)


def day(n):
    return FIRST + timedelta(days=n)


@pytest.fixture
def climbed(w):
    """Up from rung 1 to rung 2 on the second day."""
    p = put_on(w, on=FIRST)
    log(p, day(0), 9, 9)
    log(p, day(1), 9, 9)
    settle(
        member=w.coach,
        proposal=Proposal.objects.awaiting_review().get(),
        action="confirm",
        on=day(1),
    )
    return p


def check(w, p, n, makes):
    stay = p.stays.select_related("rung__drill", "prescription").get(rung__position=1)
    record_session(stay=stay, entry=given(day(n), makes, makes), today=day(n), actor=None)


def test_checks_fall_due_after_two_four_and_eight_weeks(w, climbed):
    assert [one.due for one in passed(climbs(w.player))] == [day(1 + 14)]
    check(w, climbed, 20, 9)
    assert [one.due for one in passed(climbs(w.player))] == [day(20 + 28)]
    check(w, climbed, 50, 8)
    assert [one.due for one in passed(climbs(w.player))] == [day(50 + 56)]
    check(w, climbed, 110, 8)
    again = day(110 + 56)  # and every eight weeks for ever
    assert [(one.due, one.failed) for one in passed(climbs(w.player))] == [(again, False)]
    # no check moves the player or asks a coach for a decision
    assert current(climbed).rung.position == 2
    assert not Proposal.objects.awaiting_review().exists()


def test_holds_is_said_of_checks_that_are_not_overdue(w, climbed):
    """What is open is said first."""

    def told(on):
        return held_lines(passed(climbs(w.player)), on)

    assert told(day(10)) == ["Passed, and not to be checked yet: Gate 1."]
    assert told(day(20))[0].startswith("To be checked now: Gate 1. Until then nobody knows")
    check(w, climbed, 20, 9)
    assert told(day(30)) == ["Held at its latest check: Gate 1."]
    assert told(day(60))[0].startswith("To be checked now: Gate 1.")
    check(w, climbed, 60, 3)
    assert told(day(61)) == ["Did not hold when it was checked: Gate 1."]


def test_one_that_does_not_hold_is_offered_back(w, climbed):
    check(w, climbed, 20, 3)
    assert [(one.due, one.failed) for one in passed(climbs(w.player))] == [(None, True)]
    client = Client()
    client.force_login(w.coach.user)
    page = client.get(f"/players/{w.player.pk}/").content.decode()
    assert "it did not hold" in page
    stay = climbed.stays.get(rung__position=1)
    client.post(f"/stays/{stay.pk}/back/")
    assert current(climbed).rung.position == 1
    assert passed(climbs(w.player)) == []
    with pytest.raises(Refused, match="stands on this rung already"):
        go_back(member=w.coach, stay=stay, on=day(30))


def test_a_finished_ladder_is_checked_and_taken_up_again(w):
    p = put_on(w, rung=3, on=FIRST)
    log(p, day(0), 9, 9)
    log(p, day(1), 9, 9)
    settle(
        member=w.coach,
        proposal=Proposal.objects.awaiting_review().get(),
        action="confirm",
        on=day(1),
    )
    assert Prescription.objects.get().status == "finished"
    assert [one.due for one in passed(climbs(w.player))] == [day(15)]
    go_back(member=w.coach, stay=p.stays.get(), on=day(20))
    assert (Prescription.objects.get().status, current(p).rung.position) == ("active", 3)


def test_who_wants_no_checks_gets_none(w, climbed):
    climbed.retention = False
    climbed.save()
    assert passed(climbs(w.player)) == []
    client = Client()
    client.force_login(w.coach.user)
    assert client.get(f"/log/{climbed.stays.get(rung__position=1).pk}/").status_code == 404
