"""Caution that is raised later reaches every card, calendar, paper and plan that it concerns."""

import json
from dataclasses import replace
from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.card.paper import pages as sheets
from drill_ladder.apps.card.today.blocks import home_blocks
from drill_ladder.apps.library.drills.services import save_drill
from drill_ladder.apps.library.files.exchange import import_library, library_document, preview
from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import PlayerDay
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.review.services import settle
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.home_check import check_home
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.formats.library_file import read_library
from tests.db.test_paper import events
from tests.make import current, drill, ladder, log, put_on, text

NEXT = timedelta(days=7)


@pytest.fixture
def monday():
    """Of the week after this one: all of it is still to come."""
    today = timezone.localdate()
    return today - timedelta(days=today.weekday()) + NEXT


@pytest.fixture
def told(w, monday):
    """Home work with an adult there, on three days of next week, told to the player."""
    save_player(
        member=w.coach,
        player=_home(w.player, home_adult=True, home_wall=True, home_tools="stick"),
        days=[{"weekday": n, "minutes": 20, "place": "home", "adult": True} for n in (0, 2, 4)],
    )
    p = put_on(w, on=timezone.localdate(), place="home")
    return _publish(w, p, monday)


def _home(player, **home):
    for key, value in home.items():
        setattr(player, key, value)
    return player


def _publish(w, p, monday):
    weeks.solve(member=w.coach, player=w.player, monday=monday)
    publish(member=w.coach, player=w.player, monday=monday, at=timezone.now())
    return p


def change(w, **values):
    save_drill(
        member=w.coach,
        drill=w.drill,
        values=values,
        skill="",
        revision=Drill.objects.get(pk=w.drill.pk).revision,
    )


def status(w):
    """What calendars are told: status and sequence of each event."""
    found = events(Client().get(w.calendar).content)
    return [(str(e["status"]), int(e["sequence"])) for e in found]


CHANGES = {
    "coached only": lambda w: change(w, caution="coached_only"),
    "a group": lambda w: change(w, people="group", group_of=4),
    "another tool": lambda w: change(w, tools=["a rebounder"]),
    "a wall that is gone": lambda w: (
        change(w, wall=True),
        save_player(member=w.coach, player=_home(w.player, home_wall=False)),
    ),
    "an adult who is gone": lambda w: (
        change(w, caution="home_with_adult"),
        save_player(
            member=w.coach,
            player=_home(w.player, home_adult=False),
            days=[
                {"weekday": n, "minutes": 20, "place": "home", "adult": False} for n in (0, 2, 4)
            ],
        ),
    ),
    "a way with less that is gone": lambda w: (
        change(w, people="partner", versions=[{"name": "Alone", "loses": ["no partner"]}]),
        change(w, versions=[]),
    ),
}


@pytest.mark.parametrize("what", CHANGES)
def test_what_is_not_for_home_any_more_is_taken_back(w, coach, told, what, monkeypatch):
    assert status(w) == [("CONFIRMED", 1)] * 3
    CHANGES[what](w)
    told.refresh_from_db()
    assert "Push pass" in told.not_at_home
    assert [state for state, _ in status(w)] == ["CANCELLED"] * 3
    assert {number for _, number in status(w)} == {2}
    assert not PlannedBlock.objects.exists()
    # the card says so and what replaces it, and the block's page is gone; the paper is without it
    card = text(Client().get(f"/card/{w.token}/"))
    assert "Not at home any more: Gate" in card
    assert "there is nothing to do at home: play" in card
    block = Client().get(f"/card/{w.token}/{current(told).pk}/")
    assert block.status_code in (302, 404)
    paper = {}
    monkeypatch.setattr(
        sheets, "pdf", lambda template, context, sizes=None: paper.update(context) or b""
    )
    sheets.home_card(w.player, timezone.localdate(), "x")
    assert paper["blocks"] == []
    # the coach is told who is concerned, and sees to it with one button
    desk = text(coach.get("/"))
    assert "Not at home any more" in desk
    assert f"/prescriptions/{told.pk}/at-the-club/" in desk
    coach.post(f"/prescriptions/{told.pk}/at-the-club/", {"desk": 1})
    told.refresh_from_db()
    assert (told.place, told.not_at_home) == ("coached", "")
    assert "Not at home any more" not in text(coach.get("/"))
    assert (
        "Not at home any more"
        not in text(Client().get(f"/card/{w.token}/")).split("Your week has changed")[0]
    )
    again = coach.post(f"/prescriptions/{told.pk}/at-the-club/", follow=True)
    assert "seen to already" in text(again)


def test_what_is_possible_again_comes_back(w, told, monday):
    """The adult is back: nothing is barred any more, and the week can be told again."""
    change(w, caution="home_with_adult")
    without = [{"weekday": n, "minutes": 20, "place": "home", "adult": False} for n in (0, 2, 4)]
    save_player(member=w.coach, player=_home(w.player, home_adult=False), days=without)
    told.refresh_from_db()
    assert told.not_at_home
    save_player(
        member=w.coach,
        player=_home(w.player, home_adult=True),
        days=[d | {"adult": True} for d in without],
    )
    told.refresh_from_db()
    assert told.not_at_home == ""
    _publish(w, told, monday)
    assert sorted(state for state, _ in status(w)) == ["CONFIRMED"] * 3


def test_an_adult_who_is_gone_on_one_day_calls_that_day_off(w, told, monday):
    change(w, caution="home_with_adult")
    assert status(w) == [("CONFIRMED", 1)] * 3
    PlayerDay.objects.filter(weekday=2).update(adult=False)
    save_player(member=w.coach, player=w.player)
    week = Week.objects.get(monday=monday)
    assert [(b.on, b.cancelled) for b in sorted(week.published, key=lambda b: b.on)] == [
        (monday, False),
        (monday + timedelta(days=2), True),
        (monday + timedelta(days=4), False),
    ]
    assert "Not at home any more: Gate on Wednesday" in week.told[0].lines[0]


def test_days_that_have_been_stay_as_they_were_told(w, told, monday):
    Week.objects.update(monday=monday - 2 * NEXT)
    before = Week.objects.get().published
    change(w, caution="coached_only")
    assert Week.objects.get().published == before


@pytest.mark.parametrize("day", [*range(7), 7])
def test_today_is_taken_back_and_yesterday_is_not(w, told, monday, day):
    """In the middle of a week: to the day, in the plan and in what was told."""
    without_checks(w)
    today = monday + timedelta(days=day)
    assert check_home(told, today, None)
    week = Week.objects.get(monday=monday)
    days = [monday + timedelta(days=n) for n in (0, 2, 4)]
    assert {b.on: b.cancelled for b in week.published} == {on: on >= today for on in days}
    assert set(week.blocks.values_list("on", flat=True)) == {on for on in days if on < today}
    assert bool(week.told) == (day <= 4)


def test_only_the_home_blocks_of_that_ladder_are_taken_back(w, told, monday):
    """What is done at the club, and the other ladder's home work, stay as they are."""
    week = Week.objects.get(monday=monday)
    home = sorted(week.published, key=lambda b: b.on)
    others = (replace(home[0], place="club"), replace(home[1], prescription=told.pk + 1), home[2])
    Week.objects.filter(pk=week.pk).update(published=others)
    without_checks(w)
    check_home(told, monday, None)
    week.refresh_from_db()
    after = sorted(week.published, key=lambda b: b.on)
    assert [b.cancelled for b in after] == [False, False, True]


def without_checks(w):
    """The drill is for the club now, and nobody has looked at the weeks yet."""
    Drill.objects.filter(pk=w.drill.pk).update(caution="coached_only")


def test_the_adults_tick_alone_does_not_suffice(w):
    """Nobody noted an adult at this home: the drill is not offered there, and not stored from
    there.
    """
    w.player.home_adult = True
    w.player.save()
    stay = current(
        put_on(
            w,
            ladder=ladder(w.club, drill(w.club, "Clear", caution="home_with_adult"), "Clears"),
            place="home",
        )
    )
    w.player.home_adult = False
    w.player.save()
    assert home_blocks(w.player, timezone.localdate()) == []
    sent = {"hurts": "no", "adult": "on", "e0-makes": "8", "e1-makes": "8"}
    answer = Client().post(f"/card/{w.token}/{stay.pk}/", sent)
    assert (answer.status_code, "No adult is noted at this home" in text(answer)) == (422, True)
    assert 'value="8"' in text(answer)


def test_a_climb_onto_a_rung_for_the_club_calls_off_what_was_told_for_home(w, told, monday):
    from drill_ladder.apps.review.models import Proposal

    hard = drill(w.club, "Tackle", caution="coached_only")
    w.ladder.rungs.filter(position=2).update(drill=hard)
    today = timezone.localdate()
    log(told, today - timedelta(days=2), 8, 8)
    log(told, today - timedelta(days=1), 8, 8)
    settle(
        member=w.coach,
        proposal=Proposal.objects.awaiting_review().get(),
        action="confirm",
        on=today,
    )
    assert [state for state, _ in status(w)] == ["CANCELLED"] * 3
    told.refresh_from_db()
    assert "Tackle" in told.not_at_home


def test_what_a_home_lacks_when_it_is_prescribed_is_not_said_to_be_gone(w, coach):
    """The coach was told of the wall while prescribing; it stays on the card until something
    changes.
    """
    wall = ladder(w.club, drill(w.club, "Rebound", wall=True), "Rebounds")
    p = put_on(w, ladder=wall, on=timezone.localdate(), place="home")
    p.refresh_from_db()
    assert p.not_at_home == ""
    assert "Not at home any more" not in text(coach.get("/"))
    assert len(home_blocks(w.player, timezone.localdate())) == 1
    save_player(member=w.coach, player=_home(w.player, home_space="yard"))
    p.refresh_from_db()
    assert "there is no wall" in p.not_at_home


def test_publishing_again_takes_back_a_blocks_page(w, told, monday):
    """What a later publishing left out is on no card, and its page leads back to the card."""
    other = put_on(
        w, ladder=ladder(w.club, w.drill, "Second"), on=timezone.localdate(), place="home"
    )
    Week.objects.update(monday=monday - NEXT)
    PlannedBlock.objects.all().delete()
    week = Week.objects.get()
    first = replace(week.published[0], on=monday - NEXT)
    week.published = (first, replace(first, prescription=other.pk, key=f"{other.pk}-1"))
    week.save()
    page = f"/card/{w.token}/{current(other).pk}/"
    assert Client().get(page).status_code == 200
    publish(member=w.coach, player=w.player, monday=monday - NEXT, at=timezone.now())
    assert Client().get(page).headers["Location"] == f"/card/{w.token}/"


def read(document):
    return read_library(json.dumps(document).encode())


def document(w, caution):
    found = library_document(
        Drill.objects.of_club(w.club).for_file(), Ladder.objects.of_club(w.club)
    )
    found["drills"][0]["caution"] = caution
    return found


def test_a_file_raises_caution_and_everything_follows(w, told):
    import_library(member=w.coach, library=read(document(w, "coached_only")))
    assert [state for state, _ in status(w)] == ["CANCELLED"] * 3


def test_a_file_never_lowers_a_caution_in_silence(w, coach):
    Drill.objects.filter(pk=w.drill.pk).update(caution="coached_only")
    lower = document(w, "home_alone")
    assert preview(w.club, read(lower))[0].lowered == ("Coached only", "Home alone")
    with pytest.raises(Refused, match="“Push pass”: from “Coached only” to “Home alone”"):
        import_library(member=w.coach, library=read(lower))
    raw = json.dumps(lower)
    seen = text(coach.post("/library/in/", {"text": raw}))
    assert "Less caution than before" in seen
    refused = coach.post("/library/in/", {"text": raw, "sure": "yes"})
    assert (refused.status_code, "Less caution than before" in text(refused)) == (422, True)
    assert Drill.objects.get(pk=w.drill.pk).caution == "coached_only"
    coach.post("/library/in/", {"text": raw, "sure": "yes", "agreed": ["Push pass"]})
    assert Drill.objects.get(pk=w.drill.pk).caution == "home_alone"
    assert preview(w.club, read(document(w, "coached_only")))[0].lowered is None
