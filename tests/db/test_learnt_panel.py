"""What a session brings, in words: how much, how sure, and what is not taken from it."""

import pytest

from drill_ladder.apps.practice.models import LadderLearning
from drill_ladder.apps.progress.panels.learnt import learnt_panel
from drill_ladder.core.looking_back import Interval
from tests.make import text


@pytest.fixture
def kept(w, today):
    return LadderLearning.objects.create(
        club=w.club,
        ladder=w.ladder,
        on=today,
        days=200,
        players=9,
        by="counts",
        gain=0.08,
        gain_low=0.04,
        gain_high=0.12,
        steps=(Interval(0.6, 0.4, 0.8),),
    )


def lines(w):
    w.ladder.refresh_from_db()
    return " ".join(learnt_panel(w.ladder, list(w.ladder.rungs.all())).lines)


def test_how_much_and_what_each_rung_costs(w, kept, coach):
    told = lines(w)
    assert "About +2 points of good ones with each full session" in told or "+2.0 points" in told
    assert "(+1" in told
    assert "from 200 full days of 9 players" in told
    page = text(coach.get(f"/ladders/{w.ladder.pk}/steps/"))
    assert "15 points" in page  # a step of 0.6 at even odds
    assert "10 to 20" in page
    assert "nobody was there" in page


def test_what_it_does_not_carry(w, kept):
    LadderLearning.objects.update(gain_low=-0.01)
    assert "It may be nothing: the record cannot tell yet." in lines(w)
    LadderLearning.objects.update(days=40)
    assert "from 60 full days of 5 players on" in lines(w)
    LadderLearning.objects.update(fives=True)
    assert "told in fives" in lines(w)
    LadderLearning.objects.all().delete()
    assert lines(w).startswith("Nothing is known of it yet")
