"""Weeks: solved, changed by hand, told; and what caution forbids by any path."""

from datetime import date, datetime, timedelta

import pytest
from django.utils import timezone

from drill_ladder.apps.card.today.blocks import home_blocks
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player, PlayerDay, Squad
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.prescriptions.dose.dosing import minutes_of
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.board import board
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.plan import stored_plan
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.planning import ToldChange
from tests.make import drill, ladder, log, put_on, text

MONDAY = date(2026, 3, 2)
AT = timezone.make_aware(datetime(2026, 3, 1, 19, 0))


def on(n):
    return MONDAY + timedelta(days=n)


def has_days(player, *days):
    """(weekday, minutes, place, helper, adult)."""
    for weekday, minutes, place, *more in days:
        helper, adult = (*more, False, False)[:2]
        PlayerDay.objects.create(
            club=player.club,
            player=player,
            weekday=weekday,
            minutes=minutes,
            place=place,
            helper=helper,
            adult=adult,
        )


@pytest.fixture
def planned(w):
    """Two home days and a club day; one ladder, three times a week."""
    has_days(w.player, (0, 20, "home"), (2, 20, "home"), (3, 60, "club"))
    put_on(w)
    return weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week


def blocks(week):
    return [
        ((b.on - week.monday).days, b.prescription.ladder.title, b.place) for b in week.blocks.all()
    ]


def test_minutes_of_a_block(w):
    """By hand: ten in each of two lanes at 6 s are 120 s, a change of 5 s, 60 s of setting up: 185
    s, so 4 minutes.
    """
    assert minutes_of(w.rungs[0].core) == 4


def test_a_week_is_solved_and_the_same_again(w, planned):
    assert blocks(planned) == [(0, "Gate", "home"), (2, "Gate", "home"), (3, "Gate", "club")]
    again = weeks.solve(member=w.coach, player=w.player, monday=on(4)).week
    assert again.pk == planned.pk
    assert blocks(again) == blocks(planned)


def test_what_found_no_place_says_why_and_what_would_help(w):
    has_days(w.player, (0, 3, "home"))
    put_on(w, place="home")
    weeks.solve(member=w.coach, player=w.player, monday=MONDAY)
    found = board(stored_plan(w.player, MONDAY)).unmet
    assert [(one.got, one.why) for one in found] == [("0 of 3", "the minutes do not suffice")]
    assert found[0].help == "1 more minutes on Monday would do."


def test_no_days_at_all(w, coach):
    put_on(w)
    assert "Note the days" in text(coach.get(f"/players/{w.player.pk}/week/"))
    week = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week
    assert blocks(week) == []
    assert board(stored_plan(w.player, MONDAY)).unmet[0].why == "there are not enough days"


def test_moved_by_hand_it_stays_and_shows_what_it_breaks(w, planned):
    block = planned.blocks.first()
    weeks.move(member=w.coach, block=block, on=on(5))
    block.refresh_from_db()
    assert (block.on, block.locked) == (on(5), True)
    shown = board(stored_plan(w.player, MONDAY))
    day = shown.days[5]
    assert (day.used, day.has, day.over) == (4, 0, 4)
    weeks.solve(member=w.coach, player=w.player, monday=MONDAY)
    assert [d for d, _, _ in blocks(planned)] == [0, 2, 5]
    weeks.set_lock(member=w.coach, block=PlannedBlock.objects.get(on=on(5)), locked=False)
    weeks.solve(member=w.coach, player=w.player, monday=MONDAY)
    assert [d for d, _, _ in blocks(planned)] == [0, 2, 3]


def test_twice_on_one_day_is_said(w, planned):
    weeks.move(member=w.coach, block=planned.blocks.first(), on=on(2))
    shown = board(stored_plan(w.player, MONDAY)).days[2]
    assert {line for one in shown.blocks for line in one.wrong} == {"twice on one day"}


def test_a_day_that_is_not_in_the_week(w, planned):
    with pytest.raises(Refused, match="not in this week"):
        weeks.move(member=w.coach, block=planned.blocks.first(), on=on(7))


def test_skipped_days_a_sick_week_and_back(w, planned):
    weeks.skip(member=w.coach, player=w.player, monday=MONDAY, weekdays=[0, 9])
    assert [d for d, _, _ in blocks(planned)] == [2, 3]
    weeks.skip(member=w.coach, player=w.player, monday=MONDAY, weekdays=range(7))
    assert blocks(planned) == []
    weeks.skip(member=w.coach, player=w.player, monday=MONDAY, weekdays=[])
    assert len(blocks(planned)) == 3


def test_copied_from_the_week_before(w, planned):
    weeks.move(member=w.coach, block=planned.blocks.first(), on=on(3))
    copied = weeks.copy_last(member=w.coach, player=w.player, monday=on(7)).week
    assert [(d, t) for d, t, _ in blocks(copied)] == [(2, "Gate"), (3, "Gate"), (3, "Gate")]
    assert all(block.locked for block in copied.blocks.all())
    with pytest.raises(Refused, match="no plan of the week before"):
        weeks.copy_last(member=w.coach, player=w.player, monday=on(28))


def test_a_band_takes_what_the_minutes_allow(w):
    """Ten to thirty, two lanes at 6 s: 12 s more for each one more in both lanes. Six minutes leave
    120 s: ten more.
    """
    rung = w.rungs[0]
    rung.reps_high = 30
    rung.save()
    has_days(w.player, (0, 6, "home"))
    put_on(w, place="home")
    block = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week.blocks.get()
    assert (block.reps, block.bound, block.minutes) == (20, "minutes", 6)
    PlayerDay.objects.update(minutes=60)
    block = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week.blocks.get()
    assert (block.reps, block.bound) == (30, "band_high")


def test_speed_comes_before_endurance(w):
    has_days(w.player, (0, 60, "club"))
    run = drill(w.club, "Run", measure={"kind": "done"}, lanes=[])
    for title, intent in (("Long", "endurance"), ("Fast", "speed")):
        steps = ladder(
            w.club, run, title, rungs=1, target={"value": 1}, dose={"sets": 3}, floor=None
        )
        steps.rungs.update(intent=intent)
        put_on(w, ladder=steps)
    week = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week
    assert [b.prescription.ladder.title for b in week.blocks.all()] == ["Fast", "Long"]


# --- telling


def test_told_again_the_player_sees_what_changed(w, planned):
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    planned.refresh_from_db()
    assert (len(planned.published), planned.told, planned.revision) == (3, (), 1)
    weeks.move(member=w.coach, block=planned.blocks.first(), on=on(3))
    # moved, but not told: the card still has the old days
    assert home_blocks(w.player, on(0))[0].due
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT + timedelta(days=1))
    planned.refresh_from_db()
    lines = ("Moved: Gate from Monday to Wednesday", "Moved: Gate from Wednesday to Thursday")
    assert planned.told == (ToldChange(date(2026, 3, 2), lines),)
    PlannedBlock.objects.filter(on=on(3)).first().delete()
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT + timedelta(days=2))
    planned.refresh_from_db()
    assert planned.told[-1].lines == ("No more: Gate on Thursday",)
    assert [b.cancelled for b in planned.published] == [False, False, True]


def test_published_without_a_change_tells_nothing(w, planned):
    for day in (0, 1):
        publish(member=w.coach, player=w.player, monday=MONDAY, at=AT + timedelta(days=day))
    planned.refresh_from_db()
    assert (planned.told, planned.revision) == ((), 2)


def test_the_card_follows_the_published_week(w, planned):
    assert [b.due for b in home_blocks(w.player, on(1))] == [True]
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    due = {n: [b.due for b in home_blocks(w.player, on(n))] for n in range(4)}
    # Monday's is still open on Tuesday, until it is done
    assert due == {0: [True], 1: [True], 2: [True], 3: [True]}
    log(current_prescription(w), on(1), 8, 8)
    assert [b.due for b in home_blocks(w.player, on(1))] == [False]
    assert home_blocks(w.player, on(1))[0].upcoming == on(2)


def current_prescription(w):
    return Prescription.objects.get(player=w.player)


# --- pages


def test_the_week_on_its_page(w, coach, planned):
    path = f"/players/{w.player.pk}/week/?of={MONDAY}"
    monday = timezone.localdate() - timedelta(days=timezone.localdate().weekday())
    solved = coach.post(
        f"/players/{w.player.pk}/week/solve/", {"of": monday.isoformat()}, follow=True
    )
    assert "Planned around what is kept." in text(solved)
    page = text(coach.get(f"/players/{w.player.pk}/week/"))
    assert page.count('class="week-block') == 3
    assert "4 of 20" in page
    assert coach.get(path).status_code == 200
    assert coach.get(f"/players/{w.player.pk}/week/?of=nonsense").status_code == 200
    block = PlannedBlock.objects.filter(week__monday=monday).first()
    moved = coach.post(
        f"/blocks/{block.pk}/move/",
        {"of": monday.isoformat(), "on": "soon"},
        headers={"hx-request": "true"},
    )
    assert moved.status_code == 422
    assert "That is no day." in text(moved)
    assert coach.post(f"/blocks/{block.pk}/explode/").status_code == 404
    assert coach.post(f"/players/{w.player.pk}/week/explode/").status_code == 404


def test_impossible_days_on_the_players_form_are_said(w, coach):
    sent = {
        "name": "Ida Marlow",
        "dominant_side": "right",
        "day-0-minutes": "0",
        "day-1-minutes": "900",
    }
    page = text(coach.post(f"/players/{w.player.pk}/edit/", {**sent, "day-0-place": "home"}))
    assert "At least one minute, or leave it empty." in page
    assert "At most eight hours." in page
    assert 'value="900"' in page


def test_a_squad_is_planned_and_told_beside_the_request(w, coach, django_assert_max_num_queries):
    squad = Squad.objects.create(club=w.club, name="Under 12")
    for n in range(3):
        player = Player(name=f"Player {n}", joined_on=MONDAY, squad=squad)
        save_player(
            member=w.coach, player=player, days=[{"weekday": 0, "minutes": 20, "place": "home"}]
        )
        put_on(w, player=player)
    answer = coach.post("/weeks/solve/", {"of": MONDAY.isoformat(), "squad": squad.pk}, follow=True)
    assert "Done" in text(answer)
    assert "3 of 3" in text(answer)
    assert Week.objects.count() == 3
    told = coach.post("/weeks/publish/", {"of": MONDAY.isoformat(), "squad": ""}, follow=True)
    assert "Done" in text(told)
    assert Week.objects.filter(published_at__isnull=False).count() == 3
    with django_assert_max_num_queries(13):
        page = text(coach.get(f"/weeks/?squad={squad.pk}&of={MONDAY}"))
    assert "Player 2" in page
    assert "4 of 20\u00a0min" in page.replace("&nbsp;", "\u00a0")
    assert coach.post("/weeks/solve/", {"squad": 999999}).status_code == 404


def told_now(w, on):
    """A week without a day left for the ladder, told now."""
    monday = monday_of(on)
    weeks.solve(member=w.coach, player=w.player, monday=monday)
    publish(member=w.coach, player=w.player, monday=monday, at=timezone.now())


def test_a_week_told_with_nothing_in_it_is_nothing(w, today):
    put_on(w, on=today)
    told_now(w, today)  # the player has no days: nothing finds a place, and the coach told it so
    assert home_blocks(w.player, today) == []


def test_a_ladder_prescribed_after_the_week_was_told_does_not_wait(w, today):
    told_now(w, today)
    put_on(w, on=today, ladder=ladder(w.club, w.drill, "Later"))
    [block] = home_blocks(w.player, today)
    assert block.stay.prescription.ladder.title == "Later"
