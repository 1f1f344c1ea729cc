"""Two good ones earn two more: from building the drill to looking back, on the run and in the
hall.
"""

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.support.select import Select

from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.practice.models import Session
from drill_ladder.core.judging import Earned
from tests.browser.hands import click, expect, phone, problems, ready, sign_in
from tests.browser.test_club import fill
from tests.browser.test_hall import open_hall, sent
from tests.browser.test_routine import one
from tests.browser.test_run import begin, finish, fits
from tests.make import current, drill, ladder, put_on


def test_a_coach_says_how_many_earn_more(club, browser, live_server):
    """What the kind asks is shown, and what is missing stands beside its own field."""
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/drills/new/")
    ready(browser)
    browser.find_element(By.NAME, "title").send_keys("Who is on target")
    Select(browser.find_element(By.NAME, "kind")).select_by_value("earned")
    fill(browser, most="12")
    click(browser, "Save")
    expect(browser, "This is required")
    assert "required" in browser.find_element(By.CSS_SELECTOR, ".of-earned").text
    fill(browser, first="4")
    assert problems(browser) == []
    click(browser, "Save")
    expect(browser, "each 2 good earn 2 more, 12 at most")
    assert Drill.objects.get(title="Who is on target").measure == Earned(4, 12, 2)


def test_what_ends_after_so_many_lost_can_be_typed_too(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/drills/new/")
    ready(browser)
    browser.find_element(By.NAME, "title").send_keys("Three lives")
    Select(browser.find_element(By.NAME, "kind")).select_by_value("until_lost")
    fill(browser, lost="3")
    click(browser, "Save")
    expect(browser, "good ones until 3 are lost")


@pytest.fixture
def earns(club):
    """Two to begin with, six at most; three good ones wanted."""
    measure = {"kind": "earned", "n": 2, "cap": 6, "earn": 2}
    of = drill(club.club, "On target", lanes=[], faults=[], measure=measure)
    made = {"target": {"value": 3}, "dose": {"sets": 1}, "floor": None}
    return ladder(club.club, of, "On target", **made)


def looked_back(browser, live_server, club, stay):
    kept = Session.objects.get().sets.get()
    assert (kept.makes, kept.attempts) == (3, 4)
    sign_in(browser, live_server, club.coach)
    browser.get(
        f"{live_server.url}/players/{club.player.pk}/progress/?ladder={stay.prescription_id}"
    )
    ready(browser)
    expect(browser, "3 good")
    assert problems(browser) == []


def test_on_the_run_the_set_grows_with_good_ones(club, earns, browser, live_server):
    stay = current(put_on(club, ladder=earns, place="home"))
    phone(browser)
    begin(browser, live_server, club, stay)
    expect(browser, "2 to begin with, each 2 good earn 2 more, up to 6")
    fits(browser)
    one(browser, "Good", 2)
    expect(browser, "2 good, 2 left")
    one(browser, "Miss")
    one(browser, "Good")
    finish(browser)
    looked_back(browser, live_server, club, stay)


def test_in_the_hall_a_tile_counts_the_same(club, earns, browser, live_server):
    stay = current(put_on(club, ladder=earns))
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    one(browser, "Good", 2)
    expect(browser, "2 good, 2 left")
    one(browser, "Miss")
    one(browser, "Good")
    expect(browser, "All done")
    sent(browser)
    looked_back(browser, live_server, club, stay)
