"""Each of a coach's last ten decisions can be undone, not the very last alone."""

from datetime import timedelta

import pytest
from django.utils import timezone

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.review.models import Decision, Proposal
from tests.make import current, log, put_on, text


@pytest.fixture
def decided(w, today, coach):
    """Twelve players, each confirmed up a rung."""
    for n in range(12):
        who = Player.objects.create(club=w.club, name=f"Player {n:02}", joined_on=today)
        p = put_on(w, player=who, on=today - timedelta(days=9))
        log(p, today - timedelta(days=2), 8, 8)
        log(p, today - timedelta(days=1), 8, 8)
        row = Proposal.objects.filter(stay=current(p)).latest("pk")
        coach.post(f"/review/{row.pk}/decide/", {"action": "confirm"})
    return list(Decision.objects.order_by("pk"))


def test_the_last_ten_stand_there_and_an_old_one_is_taken_back(w, decided, coach):
    page = text(coach.get("/review/lately/"))
    assert page.count("/review/undo/") == 2 * 10
    assert "Player 11" in page
    assert "Player 01" not in page
    early = decided[3]
    assert current(early.proposal.stay.prescription).rung.position == 2
    coach.post(f"/review/undo/{early.pk}/")
    assert current(early.proposal.stay.prescription).rung.position == 1
    again = text(coach.get("/review/lately/"))
    assert f"/review/undo/{early.pk}/" not in again
    assert "Player 01" in again  # the next older one moves up


def test_those_of_another_coach_are_not_offered(w, decided, coach):
    Decision.objects.filter(pk=decided[11].pk).update(by=w.assistant.user)
    assert f"/review/undo/{decided[11].pk}/" not in text(coach.get("/review/lately/"))


def test_the_review_opens_them_when_asked(w, decided, coach):
    page = text(coach.get("/review/"))
    assert "Your last ten decisions" in page
    assert 'hx-get="/review/lately/"' in page
    asked = coach.get("/review/lately/", headers={"hx-request": "true"})
    assert "<html" not in text(asked)
    Decision.objects.update(undone_at=timezone.now())
    assert "You have decided nothing yet" in text(coach.get("/review/lately/"))
