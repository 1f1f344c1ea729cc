"""Coverage over two axes, lanes that a coach puts first, and good ones a minute."""

from datetime import timedelta

import pytest
from django.test import Client

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.library.models import Skill
from drill_ladder.apps.practice.work import work_of
from drill_ladder.apps.prescriptions.models import Focus
from drill_ladder.apps.progress.player.axes import good_a_minute, two_axes
from tests.make import current, drill, ladder, log, put_on, text

SPOTS = ["front", "middle", "back"]


@pytest.fixture
def stay(w, today):
    spots = drill(w.club, "Spots", lanes=SPOTS, people="feeder")
    of = ladder(w.club, spots, "Spots", target={"makes": 8, "of": 10})
    return current(put_on(w, ladder=of, on=today - timedelta(days=60)))


def done(stay, on, *makes, **more):
    return log(stay.prescription, on, *makes, lanes=SPOTS, **more)


def cells(grid):
    return {
        (line, name): (state.makes, state.attempts, why)
        for line, row in grid.lines
        for name, (state, why) in zip(grid.names, row, strict=True)
    }


def test_every_value_of_one_axis_by_every_value_of_the_other(w, stay, today):
    log(put_on(w, on=today - timedelta(days=50)), today, 9, 4)
    done(stay, today - timedelta(days=40), 8)
    done(stay, today, 0, 3)
    found = cells(two_axes(w.player, "lane", "feed", today))
    assert found == {
        ("left", "Solo"): (9, 10, ""),
        ("left", "With a feeder"): (0, 0, "empty"),
        ("right", "Solo"): (4, 10, "weak"),
        ("right", "With a feeder"): (0, 0, "empty"),
        ("front", "With a feeder"): (8, 20, "weak"),
        ("front", "Solo"): (0, 0, "empty"),
        ("middle", "With a feeder"): (3, 10, "weak"),
        ("middle", "Solo"): (0, 0, "empty"),
    }


def test_what_is_older_than_a_year_or_not_counted_in_good_ones(w, stay, today):
    seconds = drill(w.club, "Timed", measure={"kind": "time"}, lanes=[])
    timed = ladder(
        w.club, seconds, "Timed", target={"value": 9}, floor=None, dose={"sets": 1}, rungs=1
    )
    p = put_on(w, ladder=timed, on=today - timedelta(days=500))
    for back in (400, 40):
        session = log(p, today - timedelta(days=back), 1, lanes=[""])
        session.sets.update(attempts=None, makes=None, seconds=8.5)
    found = cells(two_axes(w.player, "drill", "tired", today))
    assert found == {("Timed", "Fresh"): (0, 0, "stale")}
    session.sets.model.objects.filter(session__on__gt=today - timedelta(days=100)).delete()
    assert two_axes(w.player, "drill", "tired", today).lines == []


def test_the_page_shows_the_axes_that_are_asked_for(w, coach, stay, today):
    done(stay, today, 8, 8, 8)
    page = text(coach.get(f"/players/{w.player.pk}/coverage/?rows=seen&columns=intent"))
    assert '<option value="seen" selected>Who counted</option>' in page.replace("  ", " ")
    assert text(coach.get(f"/players/{w.player.pk}/coverage/?rows=none&columns=%00")).count(
        "selected"
    )


def test_a_lane_put_first_is_begun_with_until_it_is_done(w, coach, stay, today):
    for back in (2, 1):
        done(stay, today - timedelta(days=back), 8, 9, 8)
    assert work_of(stay, today).conduct.begin == ()
    address = f"/players/{w.player.pk}/coverage/first/"
    assert coach.post(address, {"stay": stay.pk, "lane": "back"}).status_code == 302
    stay = current(stay.prescription)
    assert work_of(stay, today).conduct.begin == ("back",)
    assert "Begins with it" in text(coach.get(f"/players/{w.player.pk}/coverage/"))
    assert "<strong>Begin with</strong> back." in text(Client().get(f"/card/{w.token}/{stay.pk}/"))
    assert Event.objects.filter(verb="put first").exists()
    done(stay, today, 8, 9, 8)
    assert work_of(current(stay.prescription), today).conduct.begin == ()


def test_it_is_taken_back_by_the_same_button(w, coach, stay, today):
    for _ in range(2):
        coach.post(f"/players/{w.player.pk}/coverage/first/", {"stay": stay.pk, "lane": "back"})
    stay.prescription.refresh_from_db()
    assert stay.prescription.first_lanes == ()


@pytest.mark.parametrize("lane", ["nowhere", "", "x" * 1000])
def test_a_lane_that_is_none_changes_nothing(w, coach, stay, lane):
    answer = coach.post(
        f"/players/{w.player.pk}/coverage/first/", {"stay": stay.pk, "lane": lane}, follow=True
    )
    assert "no such lane any more" in text(answer)
    stay.prescription.refresh_from_db()
    assert stay.prescription.first_lanes == ()


def test_good_ones_a_minute_go_by_the_minutes_of_what_was_done(w, stay, today):
    """Thirty attempts of the dose take so many minutes; twenty of them two thirds of these."""
    done(stay, today, 8, 9, 7)
    (title, weeks) = good_a_minute(w.player, today).lines[0]
    whole = weeks[-1]
    assert (title, whole.good) == ("Spots", 24)
    stay.sessions.all().delete()
    done(stay, today, 8, 9)
    part = good_a_minute(w.player, today).lines[0][1][-1]
    assert part.good == 17
    assert part.minutes == pytest.approx(whole.minutes * 2 / 3)
    assert part.rate == pytest.approx(17 / part.minutes)


def test_attempts_of_what_is_scored_in_points_are_no_misses(w, today):
    scored = drill(w.club, "Scored", lanes=SPOTS, measure={"kind": "points", "max": 3})
    of = ladder(w.club, scored, "Scored", target={"value": 2}, floor=None)
    p = put_on(w, ladder=of, on=today - timedelta(days=5))
    for back in (2, 1):
        done(current(p), today - timedelta(days=back), 8, 8, 8).sets.update(makes=None, points=20)
    assert cells(two_axes(w.player, "drill", "tired", today)) == {
        ("Scored", "Fresh"): (0, 0, "done")
    }


def test_a_gap_goes_into_the_next_plan_or_its_skill_is_noted(w, coach, stay, today):
    done(stay, today - timedelta(days=40), 4)
    page = text(coach.get(f"/players/{w.player.pk}/coverage/?rows=drill"))
    assert page.count("Into the next plan") == 1
    to = f"/players/{w.player.pk}/coverage/gap/"
    coach.post(to, {"axis": "drill", "name": "Spots"})
    stay.prescription.refresh_from_db()
    assert stay.prescription.priority == 1
    assert Event.objects.filter(verb="made urgent").count() == 1
    # a drill of a skill that the player has no ladder for
    lifts = drill(w.club, "Lift", lanes=[])
    lifts.skill = Skill.objects.create(club=w.club, name="Lifting")
    lifts.save()
    answer = coach.post(to, {"axis": "drill", "name": "Lift"})
    assert answer.headers["Location"] == f"/players/{w.player.pk}/prescribe/"
    focus = Focus.objects.get()
    assert (focus.skill.name, focus.priority) == ("Lifting", 1)
    # a drill without a skill, and what is none at all
    drill(w.club, "Odd", lanes=[], skill=None)
    assert "has no skill" in text(coach.post(to, {"axis": "drill", "name": "Odd"}, follow=True))
    assert coach.post(to, {"axis": "tempo", "name": "x"}).status_code == 404
    assert Focus.objects.count() == 1


def test_another_clubs_player_is_not_found(other, coach):
    gap = {"axis": "drill", "name": "Spots"}
    assert coach.post(f"/players/{other.player.pk}/coverage/gap/", gap).status_code == 404
