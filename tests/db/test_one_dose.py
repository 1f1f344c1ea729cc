"""A dose band comes to one number a day, and a block keeps the rung that it was planned on."""

from datetime import timedelta

import pytest
from django.test import Client
from icalendar import Calendar

from drill_ladder.apps.card.paper import pages as paper
from drill_ladder.apps.card.paper.sheet import sheet_of
from drill_ladder.apps.card.today.blocks import home_blocks
from drill_ladder.apps.practice.judged.days import counted_rows, rejudge
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions.services import record_session
from drill_ladder.apps.prescriptions.dose.dosing import block_of, minutes_of, of_the_day
from drill_ladder.apps.review.services import move_by_hand, undo
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.board import board
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.plan import stored_plan
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.apps.weeks.querysets import monday_of
from tests.db.test_paper import Looked
from tests.db.test_weeks import AT, has_days
from tests.make import climbs, current, given, log, put_on, text


@pytest.fixture
def band(w, today):
    """Ten to thirty in each of two lanes at 6 s: 12 s for each more. Six minutes today leave 120 s
    beyond the four of the block: twenty.
    """
    w.ladder.rungs.update(reps_high=30)
    has_days(w.player, (today.weekday(), 6, "home"))
    return put_on(w, on=today, place="home")


def plan(w, today, told=True):
    """The week of today, solved, and told unless said otherwise."""
    week = weeks.solve(member=w.coach, player=w.player, monday=today).week
    if told:
        publish(member=w.coach, player=w.player, monday=today, at=AT)
        week.refresh_from_db()
    return week


def test_a_band_is_told_once_on_seven_pages(w, band, today, coach, monkeypatch):
    """Card, block, pad, the coach's log, paper, calendar and the player's page, and the judge."""
    plan(w, today)
    stay, words = current(band), "20 left, 20 right"
    assert words in text(Client().get(f"/card/{w.token}/"))
    block = text(Client().get(f"/card/{w.token}/{stay.pk}/"))
    assert words in block
    assert '"asked": 20' in block
    assert words in text(coach.get(f"/log/{stay.pk}/"))
    seen = Looked(monkeypatch)
    paper.home_card(w.player, monday_of(today), "x")
    assert [row.boxes for row in seen.context["blocks"][0].rows] == [20, 20]
    assert seen.context["blocks"][0].work.dose == words
    feed = Calendar.from_ical(Client().get(w.calendar).content).walk("VEVENT")
    assert words in feed[0]["description"]
    assert words in text(coach.get(f"/players/{w.player.pk}/"))
    assert words in text(coach.get(f"/players/{w.player.pk}/week/"))
    log(band, today, 8, 8)  # ten in each lane are half of it
    assert [row.verdict for row in counted_rows(current(band))] == ["short"]
    session = Session.objects.get()
    assert (session.asked_sets, session.asked_reps) == (1, 20)


def test_what_was_asked_stays_asked(w, band, today):
    """The plan changes after the work was done, and everything is judged anew."""
    plan(w, today)
    log(band, today, 8, 8)
    w.player.days.update(minutes=4)
    plan(w, today)
    list(rejudge(w.club))
    assert [row.verdict for row in counted_rows(current(band))] == ["short"]


def test_without_a_told_week_the_days_minutes_decide(w, band, today):
    plan(w, today, told=False)
    assert home_blocks(w.player, today)[0].dose == "20 left, 20 right"
    tomorrow = today + timedelta(days=1)  # a day without minutes: the least of it
    assert home_blocks(w.player, tomorrow)[0].dose == "10 left, 10 right"


def test_what_the_page_showed_is_what_was_asked(w, band, today, coach):
    """Somebody plans anew while the page is open; what is no dose of the band is not believed."""
    plan(w, today)
    sent = {"hurts": "no", "dose": "1x14", "e0-makes": "12", "e0-attempts": "14"}
    stay = current(band)
    coach.post(f"/log/{stay.pk}/", sent | {"e1-makes": "12", "e1-attempts": "14"})
    assert Session.objects.get().asked_reps == 14
    assert counted_rows(current(band))[0].verdict == "pass"
    coach.post(f"/log/{stay.pk}/", sent | {"dose": "1x2"})
    assert Session.objects.latest("recorded_at").asked_reps == 20


def test_sets_have_bands_and_a_dose_may_be_minutes(w, today):
    """Two lanes of ten at 6 s take 125 s with their change and 30 s of rest; four minutes beyond
    are one set more, and not two.
    """
    w.ladder.rungs.update(sets_high=4, dose={"sets": 1, "reps": 10, "rest_s": 30})
    rung = w.rungs[0].core
    dosed, bound = of_the_day(rung, 240)
    assert (dosed.dose.sets, dosed.dose.reps, bound) == (2, 10, "minutes")
    assert of_the_day(rung, 3600)[0].dose.sets == 4
    w.ladder.rungs.update(sets_high=None, minutes=10, dose={"sets": 1})
    rung = w.rungs[0].core
    # 600 s without 60 of setting up and 5 between the lanes, in twos of 6 s
    assert (of_the_day(rung, 0)[0].dose.reps, minutes_of(rung)) == (44, 10)
    assert block_of(rung).seconds <= 600
    p = put_on(w, on=today, place="home")
    assert home_blocks(w.player, today)[0].dose == "44 left, 44 right"
    log(p, today, 8, 8)
    assert counted_rows(current(p))[0].verdict == "short"


# --- the rung of a block


@pytest.fixture
def daily(w, today):
    """Home every day, a ladder six times a week since last week, told."""
    has_days(w.player, *((n, 20, "home") for n in range(7)))
    p = put_on(w, on=today - timedelta(days=7))
    p.per_week = 7
    p.save()
    plan(w, today)
    return p


def titles(w, today):
    """What the week's board calls each of its blocks."""
    days = board(stored_plan(w.player, monday_of(today))).days
    return {day.on: one.stay.rung.title for day in days for one in day.blocks}


def test_a_climb_in_mid_week_is_told_and_rewrites_nothing_that_is_over(w, daily, today):
    log(daily, today, 8, 8)
    decision = move_by_hand(
        member=w.coach, stay=current(daily), kind="climb", reason="Ready", on=today
    )
    shown = titles(w, today)
    over = {on: title for on, title in shown.items() if on <= today}
    assert set(over.values()) == {"Gate 1"}
    assert {title for on, title in shown.items() if on > today} <= {"Gate 2"}
    week = Week.objects.get(monday=monday_of(today))
    told = {block.on: block.title for block in week.published}
    assert told == shown
    coming = [on for on in shown if on > today]
    lines = [f"Gate on {on:%A}: now “Gate 2”" for on in coming]
    assert [line for change in week.told for line in change.lines] == lines
    card = text(Client().get(f"/card/{w.token}/"))
    assert "(1 on another rung)" in card
    assert all(line in card for line in lines)
    undo(member=w.coach, decision=decision)
    assert set(titles(w, today).values()) == {"Gate 1"}
    week.refresh_from_db()
    assert {block.title for block in week.published} == {"Gate 1"}


def test_what_is_not_done_today_is_done_on_the_new_rung(w, daily, today):
    move_by_hand(member=w.coach, stay=current(daily), kind="climb", reason="Ready", on=today)
    assert titles(w, today)[today] == "Gate 2"
    assert home_blocks(w.player, today)[0].told.title == "Gate 2"


def test_a_squads_sheet_has_the_planned_dose(w, today):
    w.ladder.rungs.update(reps_high=30)
    has_days(w.player, (today.weekday(), 6, "club"))
    put_on(w, on=today, place="coached")
    plan(w, today)
    row = sheet_of(w.club, today, None).rows[0]
    assert (row.work.dose, [tick.boxes for tick in row.rows]) == ("20 left, 20 right", [20, 20])


def test_a_history_that_is_brought_in_is_judged_by_the_least(w, band, today):
    """Nothing was told and no minutes are known on that day."""
    w.player.days.all().delete()
    entry = given(today, 8, 8)
    record_session(stay=current(band), entry=entry, today=today, actor=None)
    assert climbs(w.player)[0].stays.get().judged.get().verdict == "pass"


# --- twice a day, fresh and tired


@pytest.fixture
def twice(w, today):
    """Three minutes of it twice on each of two days."""
    has_days(w.player, (today.weekday(), 12, "home"), ((today.weekday() + 1) % 7, 7, "home"))
    p = put_on(w, on=today - timedelta(days=7), place="home")
    p.tired_too, p.per_week = True, 2
    p.save()
    return p


def test_twice_a_day_takes_both_blocks_minutes_and_ends_the_day(w, twice, today):
    """Four minutes each: a day of seven does not hold the pair."""
    week = plan(w, today)
    found = list(week.blocks.values_list("on", "minutes", "tired"))
    assert found == [(today, 4, False), (today, 4, True)]
    assert [block.key for block in week.published] == [f"{twice.pk}-1", f"{twice.pk}-1t"]
    assert not [
        one.wrong
        for day in board(stored_plan(w.player, today)).days
        for one in day.blocks
        if one.wrong
    ]
    other = today + timedelta(days=1 if today.weekday() < 6 else -1)
    weeks.move(member=w.coach, block=week.blocks.first(), on=other)
    assert set(week.blocks.values_list("on", flat=True)) == {other}


def test_the_prescriptions_page_counts_both_blocks(w, twice, coach):
    """Two days of twice four minutes."""
    page = text(coach.get(f"/prescriptions/{twice.pk}/change/"))
    assert "16&nbsp;minutes a week" in page
    assert "(8 a session)" in page


def test_fresh_then_tired_on_the_card(w, twice, today, coach):
    plan(w, today)
    card = home_blocks(w.player, today)[0]
    assert (card.due, card.again) == (True, False)
    log(twice, today, 9, 9, observer="self")
    card = home_blocks(w.player, today)[0]
    assert (card.due, card.again) == (True, True)
    page = text(Client().get(f"/card/{w.token}/{current(twice).pk}/"))
    assert "checked" in page.partition('name="tired"')[2].partition(">")[0]
    log(twice, today, 5, 5, observer="self", tired=True)
    assert not home_blocks(w.player, today)[0].due
    session = Session.objects.latest("recorded_at")
    assert (session.tired, session.extra) == (True, False)
    assert [row.verdict for row in counted_rows(current(twice))] == ["pass"]
    page = text(coach.get(f"/players/{w.player.pk}/")).replace("\u00a0", " ")
    # 18 of 20 against 10 of 20; Newcombe's interval by hand (Wilson 0.699..0.972, 0.299..0.701)
    assert "Fresh 90 %, tired 50 % over 1 day with both. Tiredness costs 12 to 61 points" in page
