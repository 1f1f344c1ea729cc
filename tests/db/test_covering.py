"""Skills that must hold everywhere: the lanes that nobody has looked at come first on cards and
sheets.
"""

from datetime import date, timedelta

import pytest
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.card.paper import pages as sheets
from drill_ladder.apps.practice.observations.coverage import begin_of
from drill_ladder.apps.progress.player.coverage import coverage
from tests.make import current, drill, ladder, log, put_on

TODAY = timezone.localdate()
LANES = ["ahead", "right", "back", "left"]


@pytest.fixture
def p(w):
    made = drill(w.club, "Four ways", lanes=LANES)
    four = ladder(
        w.club, made, "All sides", rungs=1, target={"makes": 5, "of": 10, "each_lane": False}
    )
    return put_on(w, ladder=four, on=TODAY - timedelta(days=60))


def said(w, p, on=TODAY):
    return begin_of(w.player, current(p).rung.drill, on)


def test_nothing_stands_out_before_anything_was_done(w, p):
    assert said(w, p) == []


def test_never_done_then_stale_then_weak(w, p):
    log(p, TODAY - timedelta(days=40), 9, lanes=["right"])
    log(p, TODAY - timedelta(days=2), 2, 9, lanes=["back", "ahead"])
    assert said(w, p) == ["left", "right", "back"]
    log(p, TODAY - timedelta(days=1), 9, 9, lanes=["left", "right"])
    assert said(w, p) == ["back"]


def test_two_lanes_are_done_anyway(w):
    both = put_on(w, on=TODAY - timedelta(days=9))
    log(both, TODAY - timedelta(days=2), 9, lanes=["left"])
    assert said(w, both) == []


def test_the_card_and_the_paper_say_it(w, p, monkeypatch):
    log(p, TODAY - timedelta(days=1), 9, 9, 9, lanes=["ahead", "right", "left"])
    card = Client().get(f"/card/{w.token}/{current(p).pk}/").content.decode()
    assert "<strong>Begin with</strong> back." in card
    told = {}
    monkeypatch.setattr(
        sheets, "pdf", lambda template, context, sizes=None: told.update(context) or b""
    )
    sheets.home_card(w.player, TODAY - timedelta(days=TODAY.weekday()), "x")
    begins = [block.work.begin for block in told["blocks"]]
    assert begins == [("back",)]


def test_other_players_and_other_drills_count_for_nothing(w, other, p):
    theirs = put_on(other, on=date(2026, 3, 1))
    log(theirs, date(2026, 3, 2), 9, lanes=["left"])
    log(p, TODAY - timedelta(days=1), 9, lanes=["left"])
    assert said(w, p) == ["ahead", "right", "back"]


def test_a_drill_that_the_ladder_has_not_led_to_comes_later(w, p):
    higher = drill(w.club, "Under pressure", lanes=LANES)
    four = p.ladder
    rung = four.rungs.get()
    rung.pk, rung.position, rung.drill = None, 2, higher
    rung.save()
    log(p, TODAY - timedelta(days=1), 9, lanes=["left"])
    found = coverage(w.player, TODAY)[0]
    whys = [[one.why for one in row.cells] for row in found.rows]
    assert whys == [["empty", "later"], ["empty", "later"], ["empty", "later"], ["", "later"]]
    assert {name for _, name, _ in found.upcoming} == {"Four ways"}
    client = Client()
    client.force_login(w.coach.user)
    assert "not reached yet" in client.get(f"/players/{w.player.pk}/coverage/").content.decode()
