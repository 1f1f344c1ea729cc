"""The feed that is kept: told for the day, stored with each set, and judged as practice until it is
the one that the rung asks.
"""

from datetime import timedelta

import pytest
from django.test import Client

from drill_ladder.apps.exchange.results import COLUMNS, rows_out
from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.practice.models import JudgedDay, Session, SetRow
from drill_ladder.apps.practice.work import work_of
from drill_ladder.apps.review.models import Proposal, State
from drill_ladder.core.judging import Advice
from drill_ladder.formats.work_words import told_work
from tests.db.test_hall import Device
from tests.make import current, log, put_on, text


@pytest.fixture
def stay(w, today):
    Rung.objects.update(feeds=["rolled", "tossed", "hit"])
    return current(put_on(w, on=today - timedelta(days=30)))


def told(stay, on):
    return told_work(work_of(current(stay.prescription), on))


def days_before(stay, today, *makes):
    for back, good in zip(range(len(makes), 0, -1), makes, strict=True):
        log(stay.prescription, today - timedelta(days=back), good, good)


def fed():
    return list(SetRow.objects.order_by("session__on", "order").values_list("feed", flat=True))


def test_it_begins_gently_and_climbs_after_two_good_days(stay, today):
    work = told(stay, today)
    assert (work.feed, work.feeds) == ("rolled", ("rolled", "tossed", "hit"))
    assert work.dose.endswith("feed: rolled")
    assert work.feed_why == "2 more good days, then the feed is “tossed”."
    days_before(stay, today, 9, 9)
    assert fed() == ["rolled"] * 4
    work = told(stay, today)
    assert (work.feed, work.feed_why) == ("tossed", "Two good days: a harder feed today.")
    # what is done today changes tomorrow's
    log(stay.prescription, today, 2, 2)
    assert told(stay, today).feed == "tossed"
    after = told(stay, today + timedelta(days=1))
    assert (after.feed, after.feed_why) == ("rolled", "Last time was hard: a gentler feed today.")


def test_a_gentler_feed_is_practice_and_never_a_pass(stay, today):
    days_before(stay, today, 9, 9, 9)
    assert set(JudgedDay.objects.values_list("verdict", "met", "eased")) == {("near", True, True)}
    assert not Proposal.objects.filter(state=State.OPEN).exists()
    codes = [one.code for row in Proposal.objects.all() for one in row.said.reasons]
    assert Advice.EASED_MET not in codes  # nobody was on the easier way
    days_before(stay, today, 9)
    assert {"tossed"} <= set(fed())
    for step in range(8):
        log(stay.prescription, today + timedelta(days=step), 9, 9)
    assert Proposal.objects.get(state=State.OPEN).kind == "climb"
    assert fed()[-1] == ""


def test_the_card_tells_it_and_says_why_a_good_day_is_no_pass(w, stay, today):
    assert "feed: rolled. Target" in text(Client().get(f"/card/{w.token}/"))
    page = text(Client().get(f"/card/{w.token}/{stay.pk}/"))
    assert "feed: rolled" in page
    assert 'data-feed="rolled"' in page
    sent = {"hurts": "no", "e0-attempts": "10", "e0-makes": "9", "on": today.isoformat()}
    sent |= {"e1-attempts": "10", "e1-makes": "9", "e1-feed": "tossed"}
    page = text(Client().post(f"/card/{w.token}/{stay.pk}/", sent, follow=True))
    assert fed() == ["rolled", "tossed"]
    assert "fed “hit” counts" in page


def test_the_hall_keeps_the_feed_of_each_set(w, stay):
    tablet = Device(w.coach.user)
    taps = [*tablet.strokes(stay, "gg", "left"), tablet.tap(stay, "feed", word="hit")]
    tablet.send(*taps, *tablet.strokes(stay, "ggg", "right"), tablet.tap(stay, "enough"))
    assert list(SetRow.objects.values_list("lane", "feed", "makes").order_by("order")) == [
        ("left", "rolled", 2),
        ("right", "", 3),
    ]


def test_a_feed_that_is_too_long_is_refused_and_everything_else_kept(w, stay):
    tablet = Device(w.coach.user)
    taps = [tablet.tap(stay, "feed", word="x" * 41), *tablet.strokes(stay, "g", "left")]
    answer = tablet.send(*taps, tablet.tap(stay, "enough"))
    assert "40 letters" in str(answer)
    assert fed() == ["rolled"]


def test_a_correction_keeps_it_and_the_file_carries_it(coach, stay, today):
    days_before(stay, today, 6)
    session = Session.objects.get()
    row = dict(zip(COLUMNS, next(iter(rows_out([session]))), strict=True))
    assert row["feed"] == "rolled"
    form = coach.get(f"/sessions/{session.pk}/").context["form"]
    typed = {field.html_name: field.value() for field in form if field.value() is not None}
    coach.post(f"/sessions/{session.pk}/", typed | {"e0-makes": "7", "hurts": "no", "sure": "on"})
    assert list(SetRow.objects.order_by("order").values_list("makes", "feed")) == [
        (7, "rolled"),
        (6, "rolled"),
    ]


def test_twice_not_at_ease_makes_the_feed_gentler_and_tells_the_coach(w, coach, stay, today):
    days_before(stay, today, 9, 9, 6)
    for back in (4, 0):
        log(stay.prescription, today - timedelta(days=back), 6, 6, at_ease=2)
    assert not current(stay.prescription).eased
    proposal = Proposal.objects.get(state=State.OPEN)
    codes = [reason.code for reason in proposal.said.reasons]
    assert codes == [Advice.UNEASY, Advice.GENTLER_FEED]
    tomorrow = told(stay, today + timedelta(days=1))
    assert tomorrow.feed == "rolled"
    assert tomorrow.feed_why == "You were not at ease: a gentler feed today."
    assert "one step gentler" in text(coach.get("/review/"))


def test_rungs_without_feeds_ask_no_question_more(w, today, django_assert_num_queries):
    stay = current(put_on(w, on=today - timedelta(days=30)))
    work = told(stay, today)
    assert (work.feed, work.feeds, work.feed_why) == ("", (), "")
    log(stay.prescription, today, 9, 9)
    assert fed() == ["", ""]
