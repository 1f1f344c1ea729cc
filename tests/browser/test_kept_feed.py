"""The feed that is kept: from building the rung to looking back, on the run and in the hall."""

import pytest
from selenium.webdriver.common.by import By

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.practice.models import SetRow
from tests.browser.driver import wait_until
from tests.browser.hands import click, expect, phone, problems, ready, sign_in
from tests.browser.test_club import fill
from tests.browser.test_hall import open_hall, sent
from tests.browser.test_order import OPEN, press
from tests.browser.test_routine import one
from tests.browser.test_run import begin, finish, fits
from tests.make import current, drill, ladder, put_on

FEEDS = ["rolled", "tossed", "hit"]
UNFOLD = "document.querySelectorAll('details').forEach((one) => { one.open = true; })"


@pytest.fixture
def fed(club):
    """Three good ones of four, from gentle to hard."""
    of = drill(club.club, "Stop it", lanes=[], faults=[], people="feeder")
    made = {"target": {"makes": 3, "of": 4}, "dose": {"sets": 1, "reps": 4}, "floor": None}
    return ladder(club.club, of, "Stop it", feeds=FEEDS, **made)


def test_a_coach_names_the_feeds_of_a_rung(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/edit/")
    ready(browser)
    browser.execute_script(UNFOLD)
    fill(browser, **{"rung-0-feeds": "rolled"})
    click(browser, "Save")
    expect(browser, "two at least, each once")
    fill(browser, **{"rung-0-feeds": "rolled, tossed, hit"})
    click(browser, "Save")
    expect(browser, "is saved")
    expect(browser, "Feed: rolled, then tossed, then hit")
    assert Rung.objects.get(ladder=club.ladder, position=1).feeds == FEEDS


def looked_back(browser, live_server, club, words):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/{club.player.pk}/sessions/")
    ready(browser)
    expect(browser, words)
    assert problems(browser) == []


def test_on_the_run_the_feed_is_told_and_changed_by_a_touch(club, fed, browser, live_server):
    stay = current(put_on(club, ladder=fed, place="home"))
    phone(browser)
    begin(browser, live_server, club, stay)
    one(browser, "Good", 4)
    fits(browser)
    finish(browser)
    assert SetRow.objects.get().feed == "rolled"
    looked_back(browser, live_server, club, "feed: rolled")


def test_in_the_hall_the_panel_has_a_key_for_each_feed(club, fed, browser, live_server):
    stay = current(put_on(club, ladder=fed))
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    browser.execute_script(OPEN, "Ida Marlow")
    expect(browser, "feed: rolled")
    group = browser.find_element(By.CSS_SELECTOR, "#hall-panel [aria-label=Feed]")
    assert [key.text for key in group.find_elements(By.TAG_NAME, "button")] == FEEDS
    press(browser, "tossed")
    for _ in range(4):
        press(browser, "Good")
    sent(browser)
    wait_until(browser, "document.querySelector('#hall-panel .hall-told')")
    assert SetRow.objects.get(session__stay=stay).feed == "tossed"


def test_a_starter_ladder_is_taken_and_done_with_its_growing_feed(club, browser, live_server):
    """From the shelf to the card: the pattern that a coach takes is the one that is done."""
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/library/starter/")
    ready(browser)
    take = "button[aria-label='Take it: Stop what comes']"
    browser.find_element(By.CSS_SELECTOR, take).click()
    expect(browser, "Feed: rolled slowly, then rolled, then hit softly, then hit")
    taken = Ladder.objects.get(title="Stop what comes")
    stay = current(put_on(club, ladder=taken, place="home"))
    phone(browser)
    begin(browser, live_server, club, stay)
    one(browser, "Good", 3)
    assert SetRow.objects.count() == 0
    browser.get(f"{live_server.url}/card/{club.token}/")
    expect(browser, "feed: rolled slowly")
