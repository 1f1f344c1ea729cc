"""Space is a condition like any other; the drill for the other hand; tools that fit the body."""

from datetime import timedelta

import pytest
from django.test import Client

from drill_ladder.apps.card.paper import pages as paper
from drill_ladder.apps.card.paper.sheet import sheet_of
from drill_ladder.apps.library.models import LanesAre
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import SetRow
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.board import board
from drill_ladder.apps.weeks.plan import stored_plan
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.plans import swapped
from drill_ladder.formats.documents import PLAN
from tests.db.test_paper import Looked
from tests.db.test_weeks import has_days
from tests.make import current, put_on, text

ROAD = {
    "units": "m",
    "markers": [{"id": "left gate", "x": -1, "y": 0}, {"id": "B", "x": 1, "y": 4}],
    "legs": [{"from": "left gate", "to": "B", "way": "", "do": "touch with left"}],
    "zones": [],
    "paths": [],
    "margin": 0.5,
}


@pytest.fixture
def drawn(w, today):
    """Two by four metres with half a metre round it, at home every day."""
    w.drill.plan = ROAD
    w.drill.how = "Left foot first, then right away to the right gate."
    w.drill.cues = ["Look left"]
    w.drill.checkpoints = ["Head still"]
    w.drill.save()
    has_days(w.player, *((n, 20, "home") for n in range(7)))
    return put_on(w, on=today - timedelta(days=7), place="home")


def home(w, width, depth):
    Player.objects.update(home_width=width, home_depth=depth)
    w.player.refresh_from_db()


def solve(w, today):
    return weeks.solve(member=w.coach, player=w.player, monday=today).week


def test_a_plan_that_does_not_fit_is_not_planned_at_home(w, drawn, today, coach):
    """Under 80 %, until the coach says so."""
    home(w, 3, 3.5)  # 2.5 of 4 metres: 62 %
    assert not solve(w, today).blocks.exists()
    told = board(stored_plan(w.player, monday_of(today))).unmet[0]
    assert told.why == "at home there is no space for it"
    assert told.help.startswith("It fits at 62\u00a0% of its size: allow it smaller")
    form = coach.get(f"/prescriptions/{drawn.pk}/change/").context["form"]
    sent = {name: form[name].value() or "" for name in form.fields} | {"smaller": "on"}
    coach.post(f"/prescriptions/{drawn.pk}/change/", sent)
    assert Prescription.objects.get().smaller
    assert solve(w, today).blocks.exists()


def test_at_eighty_percent_it_is_done_and_drawn_at_home_size(w, drawn, today, monkeypatch):
    home(w, 3, 4.2)  # 3.2 of 4 metres
    assert solve(w, today).blocks.exists()
    card = text(Client().get(f"/card/{w.token}/{current(drawn).pk}/")).replace("\u00a0", " ")
    assert "Set up at 80&nbsp;% of its size" in card
    assert "3.58 m" in card  # the leg of 4.47 m
    assert "4.47 m" not in card
    seen = Looked(monkeypatch)
    paper.home_card(w.player, monday_of(today), "x")
    block = seen.context["blocks"][0]
    assert "3.58" in block.plan
    assert block.plan_note == "Set up at 80\u00a0% of its size."
    assert block.look_for == ("Head still",)
    w.drill.fits_from = 0.9
    w.drill.save()
    assert not solve(w, today).blocks.exists()


def test_times_ask_for_all_of_it(w, today):
    w.drill.measure, w.drill.plan = {"kind": "time"}, ROAD
    w.drill.save()
    w.ladder.rungs.update(target={"value": 8}, floor=None, dose={"sets": 1})
    has_days(w.player, (today.weekday(), 20, "home"))
    p = put_on(w, on=today, place="home")
    home(w, 3, 4.9)
    assert not solve(w, today).blocks.exists()
    p.smaller = True
    p.save()
    assert solve(w, today).blocks.exists()
    lost = board(stored_plan(w.player, monday_of(today)))
    assert lost.wanted[0].home.lost == ("scaled down: times do not compare",)


def test_a_smaller_home_takes_it_off_the_card(w, drawn, today):
    """Moved into a flat: the block may not be put there by hand either."""
    solve(w, today)
    home(w, 1.5, 2)
    block = stored_plan(w.player, monday_of(today)).blocks[0]
    with pytest.raises(Refused, match="no space for it"):
        weeks.move(member=w.coach, block=block, on=block.on)


# --- sides


def test_a_left_hander_is_told_and_drawn_the_other_way_round(w, drawn, coach):
    w.drill.checkpoints = ["Left hand low"]
    w.drill.save()
    w.player.dominant_side = "left"
    w.player.save()
    path = f"/card/{w.token}/{current(drawn).pk}/"
    card = text(Client().get(path))
    assert "Right foot first, then right away to the left gate." in card
    assert "Look right" in card
    assert "Right hand low" in card
    sent = {"hurts": "no", "seen_by": "self", "e0-makes": "8", "e1-makes": "8", "e0-seen": "0"}
    Client().post(path, sent)
    assert SetRow.objects.get(order=1).seen == ["Left hand low"]  # in the drill's own words
    assert "right gate to B" in card
    assert "touch with right" in card
    assert "Mirrored for a left-hander." in card
    assert "Mirrored" in text(coach.get(f"/log/{current(drawn).pk}/"))
    w.drill.lanes_are = LanesAre.PLACES
    w.drill.save()
    card = text(Client().get(path))
    assert "Left foot first" in card
    assert "left gate to B" in card
    assert "Mirrored" not in card


def test_a_mirrored_plan_mirrored_again_is_the_plan():
    plan = PLAN.read(ROAD)
    assert plan.mirrored.mirrored == plan
    assert [(m.id, m.x) for m in plan.mirrored.markers] == [("right gate", 1), ("B", -1)]


@pytest.mark.parametrize(
    ("before", "after"),
    [
        ("LEFT, Right; left-footed", "RIGHT, Left; right-footed"),
        ("Two minutes left, all right, do it right", "Two minutes left, all right, do it right"),
        ("a right angle to the left", "a right angle to the right"),
        ("upright and leftover, bright", "upright and leftover, bright"),
        ("That is right; nothing left", "That is right; nothing left"),
        (
            "That\u2019s right: none left, what is left?",
            "That\u2019s right: none left, what is left?",
        ),
        ("two balls left of the cone", "two balls right of the cone"),
        ("at 2 o'clock, then ten o\u2019clock", "at 10 o'clock, then two o\u2019clock"),
        ("12 o'clock and 6 o'clock", "12 o'clock and 6 o'clock"),
        ("Eleven o'clock, 1 o\u2019clock", "One o'clock, 11 o\u2019clock"),
        ("Clockwise, then anticlockwise", "Anticlockwise, then clockwise"),
        ("counter-clockwise", "clockwise"),
        ("ready at 10, home by 2", "ready at 10, home by 2"),
    ],
)
def test_only_words_that_are_sides_change(before, after):
    assert swapped(before) == after


# --- the body


def test_a_tool_outside_its_window_is_said_and_blocks_nothing(w, drawn, today, coach):
    form = coach.get(f"/drills/{w.drill.pk}/edit/").context["form"]
    sent = {"title": "Push pass", "kind": "makes", "lanes": "left, right", "caution": "home_alone"}
    sent |= {"revision": form["revision"].value(), "lanes_are": "sides", "fits": "70,5"}
    for part in ("fault", "version"):
        sent |= {f"{part}-TOTAL_FORMS": 0, f"{part}-INITIAL_FORMS": 0}
    page = text(coach.post(f"/drills/{w.drill.pk}/edit/", sent | {"kit": "stick"}))
    assert "is no tool with its sizes" in page
    coach.post(f"/drills/{w.drill.pk}/edit/", sent | {"kit": "stick 50 to 60 %"})
    w.drill.refresh_from_db()
    assert (w.drill.fits_from, w.drill.kit[0].high) == (0.705, 0.6)
    who = {"name": "Ida Marlow", "dominant_side": "right", "height_now": "150", "kit": "stick 95,5"}
    coach.post(f"/players/{w.player.pk}/edit/", who | {"revision": w.player.revision})
    w.player.refresh_from_db()
    assert (w.player.height_cm, w.player.height_on) == (150, today)
    card = text(Client().get(f"/card/{w.token}/{current(drawn).pk}/"))
    assert "Stick of 95.5\u00a0cm: rather long for this height, usual is 75 to 90" in card
    Player.objects.update(height_on=today - timedelta(days=200))
    assert "measure it again" in text(coach.get(f"/log/{current(drawn).pk}/"))


def test_technique_to_look_for_stands_on_the_squads_sheet(w, drawn, today):
    w.player.days.update(place="club")
    Prescription.objects.update(place="coached")
    solve(w, today)
    rows = [sheet_of(w.club, monday_of(today) + timedelta(days=n), None).rows for n in range(7)]
    assert {tuple(row.look_for) for day in rows for row in day} == {("Head still",)}
