"""A ladder that begins later: not on the card, not in the plan, until its day."""

from datetime import date, datetime, timedelta

import pytest
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.card.today.blocks import home_blocks
from drill_ladder.apps.prescriptions.services import arrive, leave
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.board import board
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.plan import stored_plan
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.core.planning.week import Day, Placed, Wish, plan_week
from drill_ladder.core.planning.week_checks import Break, breaks
from tests.make import current, put_on

MONDAY = date(2026, 3, 2)


def on(n):
    return MONDAY + timedelta(days=n)


@pytest.fixture
def days(w):
    for weekday in (0, 2, 4):
        w.player.days.create(club=w.club, weekday=weekday, minutes=20, place="home")


def test_the_core_plans_nothing_before_a_wish_begins():
    days = [Day(on(n), 30, "home") for n in (0, 2, 4)]
    wish = Wish("a", 3, 10, 1, first=on(2))
    blocks, unmet = plan_week(days, [wish])
    assert [block.on for block in blocks] == [on(2), on(4)]
    assert [(one.given, one.why) for one in unmet] == [(2, "begins")]
    assert breaks(days, [wish], [Placed(on(0), "a", 1, 10)]) == [Break(on(0), "a", "begins")]


def test_a_week_in_which_it_begins(w, days):
    put_on(w, on=on(2))
    week = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week
    assert [block.on for block in week.blocks.all()] == [on(2), on(4)]
    [lacking] = board(stored_plan(w.player, MONDAY)).unmet
    assert (lacking.got, lacking.why) == ("2 of 3", "it begins later in the week")
    weeks.move(member=w.coach, block=week.blocks.first(), on=on(0))
    assert board(stored_plan(w.player, MONDAY)).days[0].blocks[0].wrong == ["before it begins"]


def test_the_weeks_before_know_nothing_of_it(w, days):
    put_on(w, on=on(9))
    week = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week
    assert week.blocks.count() == 0
    assert board(stored_plan(w.player, MONDAY)).unmet == []
    after = weeks.solve(member=w.coach, player=w.player, monday=on(7)).week
    assert [block.on for block in after.blocks.all()] == [on(9), on(11)]


def test_a_copied_week_brings_nothing_from_before_it_begins(w, days):
    p = put_on(w, on=on(9))
    week = Week.objects.create(club=w.club, player=w.player, monday=MONDAY)
    for n in (0, 2):
        same = {"club": w.club, "week": week, "prescription": p, "on": on(n)}
        PlannedBlock.objects.create(order=1, minutes=4, place="home", **same)
    copied = weeks.copy_last(member=w.coach, player=w.player, monday=on(7)).week
    assert [block.on for block in copied.blocks.all()] == [on(9)]


def test_the_card_shows_it_from_its_day_on(w):
    p = put_on(w, on=on(2))
    assert home_blocks(w.player, on(1)) == []
    assert [block.stay for block in home_blocks(w.player, on(2))] == [current(p)]


def test_prescribing_ahead_says_from_when(w):
    coach = Client()
    coach.force_login(w.coach.user)
    later = timezone.localdate() + timedelta(days=5)
    sent = {"rung": w.rungs[0].pk, "per_week": 2, "place": "both", "starts_on": later.isoformat()}
    page = coach.post(
        f"/players/{w.player.pk}/prescribe/{w.ladder.pk}/", sent, follow=True
    ).content.decode()
    assert f"from {later:%A} {later.day} {later:%B}: card and weeks show it from then on." in page


def test_the_block_opens_on_its_day_and_the_coach_sees_when(w):
    today = timezone.localdate()
    p = put_on(w, on=today + timedelta(days=3))
    address = f"/card/{w.token}/{current(p).pk}/"
    assert Client().get(address).status_code == 404
    coach = Client()
    coach.force_login(w.coach.user)
    assert "Begins on" in coach.get(f"/players/{w.player.pk}/").content.decode()
    p.started_on = today
    p.save()
    assert Client().get(address).status_code == 200


def test_after_a_climb_the_card_asks_for_the_new_rung(w, days):
    """A week told on Monday, a climb on Tuesday: Wednesday's dose is that of the rung on which the
    player stands.
    """
    w.ladder.rungs.filter(position=2).update(dose={"sets": 2, "reps": 7})
    p = put_on(w, on=MONDAY)
    weeks.solve(member=w.coach, player=w.player, monday=MONDAY)
    at = timezone.make_aware(datetime(2026, 3, 1, 19, 0))
    publish(member=w.coach, player=w.player, monday=MONDAY, at=at)
    assert home_blocks(w.player, on(0))[0].dose == "10 left, 10 right"
    stay = current(p)
    leave(stay, on(1))
    arrive(p, w.ladder.rungs.get(position=2), on(1), "climb")
    [block] = home_blocks(w.player, on(2))
    assert block.due
    assert block.dose == "2 sets of 7, each both left and right"
