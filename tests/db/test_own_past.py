"""Why a child comes back: their own past, the weeks they kept, a climb seen at the next opening;
nothing that punishes being ill, and nobody else.
"""

from datetime import timedelta

import pytest

from drill_ladder.apps.practice.judged.weeks import WeeksKept, weeks_kept
from drill_ladder.apps.practice.models import Skip, Why
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.review.services import settle
from drill_ladder.apps.weeks.querysets import monday_of
from tests.make import current, log, put_on, text


@pytest.fixture
def monday(today):
    return monday_of(today)


@pytest.fixture
def p(w, monday):
    """Three times a week, begun six weeks ago on a Monday."""
    return put_on(w, on=monday - timedelta(weeks=6))


def work(p, monday, back, days=(0, 2, 4)):
    for day in days:
        log(p, monday - timedelta(weeks=back) + timedelta(days=day), 5, 5)


def test_a_missed_week_is_one_of_four_and_no_row_that_begins_anew(w, p, monday, today):
    for back in (6, 5, 4, 2, 1):
        work(p, monday, back)
    work(p, monday, 3, (0,))
    assert weeks_kept(w.player, today) == WeeksKept(3, 4)


def test_more_in_one_week_pays_for_no_other(w, p, monday, today):
    work(p, monday, 2, (0, 1, 2, 3, 4, 5))
    assert weeks_kept(w.player, today) == WeeksKept(1, 4)


@pytest.mark.parametrize("kind", ["hurt", "away"])
def test_a_week_of_being_hurt_ill_or_away_takes_nothing_away(w, p, monday, today, kind):
    for back in (5, 4, 3, 1):
        work(p, monday, back)
    assert weeks_kept(w.player, today) == WeeksKept(3, 4)
    bad = monday - timedelta(weeks=2) + timedelta(days=1)
    if kind == "away":
        Skip.objects.create(club=w.club, stay=current(p), on=bad, why=Why.AWAY)
    else:
        stop = open_stop(player=w.player, what="knee", on=bad, actor=None)
        end_stop(member=w.coach, stop=stop, cleared_by="physio", on=bad)
    assert weeks_kept(w.player, today) == WeeksKept(4, 4)


def test_the_week_that_is_not_over_does_not_count(w, p, monday, today):
    work(p, monday, 1)
    log(p, today, 5, 5)
    assert weeks_kept(w.player, today).kept == 1


def test_it_is_said_where_there_is_something_to_be_glad_of(w, p, monday, coach):
    climb = f"/card/{w.token}/climb/"
    assert "weeks" not in text(coach.get(climb))
    for back in (4, 2, 1):
        work(p, monday, back)
    assert "You did all of 3 of your last 4 weeks." in text(coach.get(climb))
    work(p, monday, 3)
    assert "You did all of your last 4 weeks." in text(coach.get(climb))


def test_today_stands_beside_the_last_time(w, p, today, coach):
    first = log(p, today - timedelta(days=3), 4, 5)
    session = log(p, today, 6, 7)
    page = text(coach.get(f"/card/{w.token}/done/{session.pk}/"))
    assert "Left: 6 of 10" in page
    last = page[page.index("Last time") :]
    assert "Left: 4 of 10, Right: 5 of 10" in last
    earlier = text(coach.get(f"/card/{w.token}/done/{first.pk}/"))
    assert "Last time" not in earlier


def test_a_confirmed_climb_is_seen_at_the_next_opening_and_until_work_begins(w, p, today, coach):
    for back in (5, 3):
        log(p, today - timedelta(days=back), 9, 9)
    card = f"/card/{w.token}/"
    assert "risen" not in coach.get(card).content.decode()
    proposal = Proposal.objects.awaiting_review().get(player=w.player)
    settle(member=w.coach, proposal=proposal, action="confirm", on=today)
    page = coach.get(card)
    assert "Your coach has said yes." in text(page)
    assert "you are now on rung 2 of 3" in text(page)
    assert 'class="risen risen-1"' in page.content.decode()
    log(p, today, 5, 5)
    assert "risen" not in coach.get(card).content.decode()
