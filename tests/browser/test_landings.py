"""Where an attempt ends, by its name and with its points: from building the drill to looking back,
on the run and in the hall.
"""

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.support.select import Select

from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.practice.models import Session
from tests.browser.hands import click, expect, phone, problems, ready, sign_in
from tests.browser.test_hall import open_hall, sent
from tests.browser.test_routine import one
from tests.browser.test_run import begin, finish, fits
from tests.make import current, drill, ladder, put_on

LANDINGS = [{"name": "corner", "points": 3}, {"name": "side", "points": 2}]
LANDINGS += [{"name": "out", "points": 0}]


def test_a_coach_names_what_brings_how_many(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/drills/new/")
    ready(browser)
    browser.find_element(By.NAME, "title").send_keys("Serve to the corners")
    Select(browser.find_element(By.NAME, "kind")).select_by_value("points")
    field = browser.find_element(By.NAME, "landings")
    field.send_keys("corner 3\nside")
    click(browser, "Save")
    expect(browser, "“side” has no points")
    field = browser.find_element(By.NAME, "landings")
    field.clear()
    field.send_keys("corner 3\nside 2\nout 0")
    assert problems(browser) == []
    click(browser, "Save")
    expect(browser, "corner 3, side 2, out 0 points an attempt")
    measure = Drill.objects.get(title="Serve to the corners").measure
    assert (measure.max, len(measure.landings)) == (3, 3)


@pytest.fixture
def serve(club):
    """Three serves, two points of three on average."""
    measure = {"kind": "points", "max": 3, "landings": LANDINGS}
    of = drill(club.club, "Serve", lanes=[], faults=[], measure=measure)
    made = {"target": {"value": 2.0}, "dose": {"sets": 1, "reps": 3}, "floor": None}
    return ladder(club.club, of, "Serve", **made)


def looked_back(browser, live_server, club, stay):
    sign_in(browser, live_server, club.coach)
    browser.get(
        f"{live_server.url}/players/{club.player.pk}/progress/?ladder={stay.prescription_id}"
    )
    ready(browser)
    expect(browser, "Where did it end?")
    expect(browser, "Most often corner: 2 of 3 attempts.")
    assert problems(browser) == []


def test_on_the_run_each_place_has_its_key(club, serve, browser, live_server):
    stay = current(put_on(club, ladder=serve, place="home"))
    phone(browser)
    begin(browser, live_server, club, stay)
    fits(browser)
    one(browser, "corner 3", 2)
    expect(browser, "6 points in 2")
    one(browser, "side 2")
    one(browser, "Undo")
    one(browser, "out 0")
    finish(browser)
    row = Session.objects.get().sets.get()
    assert (row.points, row.attempts, row.faults) == (6, 3, {"out": 1})
    looked_back(browser, live_server, club, stay)


def test_in_the_hall_a_tile_has_the_same_keys(club, serve, browser, live_server):
    stay = current(put_on(club, ladder=serve))
    open_hall(browser, live_server, club.coach, [club.player.name])
    for words in ("corner 3", "side 2", "corner 3"):
        one(browser, words)
    expect(browser, "All done")
    sent(browser)
    rows = Session.objects.get().sets.order_by("order")
    assert [(row.points, row.faults) for row in rows] == [(3, {}), (2, {"side": 1}), (3, {})]
    looked_back(browser, live_server, club, stay)
