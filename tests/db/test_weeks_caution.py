"""What a home allows, and what caution forbids at home by any path: form, move, copy, publishing,
card, database.
"""

import json
from datetime import timedelta
from functools import partial
from uuid import uuid4

import pytest
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.card.today.blocks import home_blocks
from drill_ladder.apps.library.files.exchange import import_library, library_document
from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Player, PlayerDay
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.apps.prescriptions.home import at_home
from drill_ladder.apps.prescriptions.minutes.demand import wanted
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.board import board
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.plan import stored_plan
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.formats.library_file import read_library
from tests.db.test_weeks import AT, MONDAY, blocks, current_prescription, has_days, on, text
from tests.make import current, drill, ladder, member, put_on

# --- at home


def test_what_nobody_noted_is_no_obstacle_and_what_is_noted_counts(w):
    wall = drill(w.club, "Wall", tools=["stick", "two balls"], surfaces=["turf"], lanes=[])
    assert at_home(wall, w.player).version is not None
    w.player.home_tools, w.player.home_surface = "a ball, cones", "carpet"
    assert at_home(wall, w.player).lacking == ("surface", "stick")
    w.player.home_tools, w.player.home_surface = "Sticks, BALLS", "Turf"
    assert at_home(wall, w.player).version.name == ""


def test_the_nearest_version_and_what_is_lost(w):
    fed = drill(
        w.club,
        "Fed",
        people="feeder",
        versions=[
            {"name": "Off a wall", "wall": True, "loses": ["no live feed"]},
            {"name": "Shadow", "loses": ["no ball at all"]},
        ],
    )
    assert at_home(fed, w.player).version.name == "Shadow"
    w.player.home_wall = True
    found = at_home(fed, w.player)
    assert (found.version.name, found.lost, found.lacking) == (
        "Off a wall",
        ("no live feed",),
        ("feeder",),
    )
    w.player.home_feeder = True
    assert at_home(fed, w.player).version.name == ""


def test_without_any_version_the_block_goes_to_the_club_and_says_why(w):
    fed = drill(w.club, "Fed", people="feeder")
    has_days(w.player, (0, 30, "home"), (1, 30, "club"))
    put_on(w, ladder=ladder(w.club, fed, "Fed ones"))
    week = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week
    assert blocks(week) == [(1, "Fed ones", "club")]
    unmet = board(stored_plan(w.player, MONDAY)).unmet[0]
    assert unmet.why == "at home there is no feeder"
    assert "solo version" in unmet.help
    with pytest.raises(Refused, match="At home there is no feeder"):
        weeks.move(member=w.coach, block=week.blocks.get(), on=on(0))


# --- caution, as attacks


@pytest.fixture
def planned(w):
    """Two home days and a club day; one ladder, three times a week."""
    has_days(w.player, (0, 20, "home"), (2, 20, "home"), (3, 60, "club"))
    put_on(w)
    return weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week


@pytest.fixture
def tackling(w):
    """A ladder whose top rung is for coached sessions only; the player stands on it."""
    tackle = drill(w.club, "Block tackle", caution="coached_only")
    steps = ladder(w.club, w.drill, "Tackles", rungs=2)
    steps.rungs.filter(position=2).update(drill=tackle)
    has_days(w.player, (0, 60, "home", True, True), (1, 60, "club"), (2, 60, "home", True, True))
    return put_on(w, ladder=steps, rung=2, place="both")


def test_coached_only_is_never_planned_at_home(w, tackling):
    week = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week
    assert blocks(week) == [(1, "Tackles", "club")]
    with pytest.raises(Refused, match="for coached sessions"):
        weeks.move(member=w.coach, block=week.blocks.get(), on=on(0))
    # a day without minutes counts as home
    with pytest.raises(Refused, match="for coached sessions"):
        weeks.move(member=w.coach, block=week.blocks.get(), on=on(6))
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    assert home_blocks(w.player, on(1)) == []


def test_coached_only_does_not_come_home_by_a_version(w, tackling):
    found = current(tackling).rung.drill
    found.versions = [{"name": "In the yard", "loses": ["no opponent"]}]
    found.save()
    assert at_home(found, w.player).version is None


def test_coached_only_does_not_come_home_by_copying(w, tackling):
    week = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week
    week.blocks.update(
        on=on(0), place="home", locked=True
    )  # as if somebody had written it into the database
    assert blocks(weeks.copy_last(member=w.coach, player=w.player, monday=on(7)).week) == []
    with pytest.raises(Refused, match="for coached sessions"):
        publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    week.refresh_from_db()
    assert week.published_at is None


def test_a_drill_that_became_coached_only_after_it_was_planned_is_not_published_for_home(
    w, planned
):
    w.drill.caution = "coached_only"
    w.drill.save()
    with pytest.raises(Refused, match="for coached sessions"):
        publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)


def test_a_drill_that_became_coached_only_after_it_was_published_leaves_the_card(w, planned):
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    w.drill.caution = "coached_only"
    w.drill.save()
    assert home_blocks(w.player, on(0)) == []
    stay = current(current_prescription(w))
    assert Client().get(f"/card/{w.token}/{stay.pk}/").status_code == 404


def test_with_an_adult_only_on_days_with_an_adult(w):
    swing = drill(w.club, "Clear", caution="home_with_adult")
    w.player.home_adult = True
    w.player.save()
    has_days(w.player, (0, 30, "home"), (2, 30, "home", False, True), (4, 30, "home"))
    put_on(w, ladder=ladder(w.club, swing, "Clears"), place="home")
    week = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week
    assert [d for d, _, _ in blocks(week)] == [2]
    assert board(stored_plan(w.player, MONDAY)).unmet[0].help == "An adult on Monday would do."
    with pytest.raises(Refused, match="needs an adult, and none is there"):
        weeks.move(member=w.coach, block=week.blocks.get(), on=on(0))
    PlayerDay.objects.update(adult=False)
    with pytest.raises(Refused, match="needs an adult"):
        publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)


def test_nothing_is_planned_for_who_rests(w, planned):
    stop = open_stop(player=w.player, what="knee", on=MONDAY, actor=None)
    assert wanted(w.player) == []
    for act in (weeks.solve, weeks.copy_last, partial(publish, at=AT)):
        with pytest.raises(
            Refused, match=r"Ida Marlow rests since 2 March .“knee”.: a coach ends the stop first"
        ):
            act(member=w.coach, player=w.player, monday=MONDAY)
    assert "cannot say what it is" in text(Client().get(f"/card/{w.token}/"))
    end_stop(member=w.coach, stop=stop, cleared_by="physio", on=MONDAY)
    assert len(blocks(weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week)) == 3


def test_an_assistant_plans_nothing(w, planned):
    acts = [
        lambda: weeks.solve(member=w.assistant, player=w.player, monday=MONDAY),
        lambda: weeks.move(member=w.assistant, block=planned.blocks.first(), on=on(3)),
        lambda: publish(member=w.assistant, player=w.player, monday=MONDAY, at=AT),
        lambda: weeks.skip(member=w.assistant, player=w.player, monday=MONDAY, weekdays=[0]),
    ]
    for act in acts:
        with pytest.raises(Refused, match="Only a coach"):
            act()


def mixed(club, player):
    Week.objects.create(club=club, player=player, monday=MONDAY)
    transaction.get_connection().check_constraints()


def test_the_database_refuses_weeks_that_mix_clubs(w, planned):
    other = Club.objects.create(name="Other")
    boss = member(other, "Jonas", "coach")
    theirs = Player(name="Theirs", joined_on=MONDAY)
    save_player(member=boss, player=theirs)
    with pytest.raises(IntegrityError), transaction.atomic():
        mixed(w.club, theirs)
    with pytest.raises(Refused, match="not of this club"):
        weeks.solve(member=w.coach, player=theirs, monday=MONDAY)
    with pytest.raises(IntegrityError), transaction.atomic():
        Week.objects.create(club=w.club, player=w.player, monday=on(1))


@pytest.mark.parametrize(
    "day", [{"minutes": 0}, {"minutes": 481}, {"weekday": 7}, {"place": "moon"}]
)
def test_days_that_cannot_be(w, day):
    with pytest.raises(ValidationError):
        save_player(
            member=w.coach,
            player=w.player,
            days=[{"weekday": 0, "minutes": 20, "place": "home", **day}],
        )


def test_coached_only_does_not_come_home_by_a_file(w, planned):
    """A library file makes the drill coached-only while its week is already on the player's
    card.
    """
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    document = library_document(
        Drill.objects.of_club(w.club).for_file(), Ladder.objects.of_club(w.club)
    )
    document["drills"][0]["caution"] = "coached_only"
    import_library(member=w.coach, library=read_library(json.dumps(document).encode()))
    assert home_blocks(w.player, on(0)) == []
    week = weeks.solve(member=w.coach, player=w.player, monday=MONDAY).week
    assert {place for _, _, place in blocks(week)} == {"club"}
    # nor the other way round, through another version in the same file
    document["drills"][0]["versions"] = [{"name": "In the yard", "loses": ["everything"]}]
    import_library(member=w.coach, library=read_library(json.dumps(document).encode()))
    assert at_home(Drill.objects.get(title="Push pass"), w.player).version is None


def test_results_of_a_home_version_say_so(w):
    fed = drill(
        w.club, "Fed", people="feeder", versions=[{"name": "Off a wall", "loses": ["no live feed"]}]
    )
    stay = current(put_on(w, ladder=ladder(w.club, fed, "Fed ones"), on=timezone.localdate()))
    path = f"/card/{w.token}/{stay.pk}/"
    assert "It lacks: no live feed" in text(Client().get(path))
    sent = {
        "session_id": str(uuid4()),
        "hurts": "no",
        "e0-attempts": 10,
        "e0-makes": 8,
        "e1-attempts": 10,
        "e1-makes": 8,
    }
    assert Client().post(path, sent).status_code == 302
    assert stay.sessions.get().way == "Off a wall"


def test_a_ladder_that_came_after_the_week_was_told_is_on_the_card(w):
    has_days(w.player, (0, 20, "home"))
    today = timezone.localdate()
    monday = today - timedelta(days=today.weekday())
    weeks.solve(member=w.coach, player=w.player, monday=monday)
    publish(member=w.coach, player=w.player, monday=monday, at=timezone.now())
    put_on(w, on=today)
    assert [block.due for block in home_blocks(w.player, today)] == [True]
