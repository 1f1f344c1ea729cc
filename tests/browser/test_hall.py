"""A hall with twelve players: two devices, one of them without a network for a while, four hundred
entries in fast motion, every one of them once on the right rung.
"""

import random
from dataclasses import replace
from datetime import timedelta
from time import monotonic, sleep

import pytest
from django.utils import timezone
from selenium.webdriver.common.by import By

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import JudgedDay, Session
from tests.browser.driver import close_browser, open_browser, set_size, wait_until
from tests.browser.hands import click, expect, phone, problems, ready, sideways, sign_in
from tests.make import current, drill, ladder, put_on

TAP = """
const [name, lane, stroke] = arguments;
const press = (root, text) => {
  const says = (one) => one.textContent.trim().startsWith(text);
  const found = [...root.querySelectorAll('button')].find(says);
  if (!found) throw new Error(`nothing says ${text}: ${root.textContent.trim().slice(0, 300)}`);
  found.click();
};
const tile = [...document.querySelectorAll('#hall-tiles > li')]
  .find((one) => one.querySelector('strong').textContent === name);
if (!tile) throw new Error(`nobody is called ${name}`);
press(tile.querySelector('.tile-lanes'), lane);
press(tile.querySelector('.tile-zones'), stroke);
"""
OPEN = """
const names = [...document.querySelectorAll('.tile-name')];
names.find((one) => one.textContent.includes(arguments[0])).click();
"""
MORE = "document.querySelector('#hall-panel .pad-good').click();"


@pytest.fixture
def crowd(club):
    """Twelve players in the hall, each on the ladder of two lanes."""
    today = timezone.localdate()
    names = [f"Player {chr(65 + n)}" for n in range(12)]
    players = [Player.objects.create(club=club.club, name=n, joined_on=today) for n in names]
    return {p.name: current(put_on(club, player=p, on=today - timedelta(days=2))) for p in players}


def open_hall(driver, server, member, names=()):
    sign_in(driver, server, member)
    driver.get(f"{server.url}/floor/")
    ready(driver)
    wait_until(driver, "document.documentElement.dataset.hall === 'open'")
    if names:
        driver.find_element(By.ID, "hall-drawer").click()
        for name in names:
            click(driver, name)
        driver.find_element(By.ID, "hall-shut").click()


def sent(driver):
    """Wait until nothing waits on the device."""
    wait_until(driver, "document.documentElement.dataset.sent === 'yes'", 30)


class Away:
    """The server through a network that can be cut."""

    def __init__(self, network):
        self.url = f"http://127.0.0.1:{network.port}"


def settled(browser):
    """The tally once nothing comes in any more from the other device."""
    last, since = tally(browser), monotonic()
    end = since + 20
    while monotonic() - since < 3 and monotonic() < end:
        sleep(0.2)
        if tally(browser) != last:
            last, since = tally(browser), monotonic()
    return last


def test_twelve_players_two_devices_and_one_without_a_network(
    club, crowd, browser, live_server, network
):
    chance = random.Random(2026)
    names = sorted(crowd)
    fifteen = {
        "dose": {"sets": 1, "reps": 15},
        "target": {"makes": 12, "of": 15, "each_lane": True},
    }
    club.ladder.rungs.update(**fifteen)
    for stay in crowd.values():
        stay.terms = replace(stay.terms, rung=stay.rung.__class__.objects.get(pk=stay.rung_id).core)
        stay.save()
    second = open_browser()
    try:
        set_size(browser)
        open_hall(browser, live_server, club.coach, names)
        sent(browser)
        open_hall(second, Away(network), club.assistant)
        wait_until(second, "document.querySelectorAll('.hall-tile').length === 12")
        plan = [
            (n, lane, "Good" if chance.random() < 0.8 else "Miss")
            for n in names
            for lane in ("left", "right")
            for _ in range(15)
        ]
        chance.shuffle(plan)
        network.cut = True
        for number, entry in enumerate(plan):
            (browser if number % 2 else second).execute_script(TAP, *entry)
        wait_until(
            second,
            "document.getElementById('hall-net').textContent.includes('wait on this device')",
            20,
        )
        sent(browser)
        assert FloorTap.objects.filter(act="stroke").count() == 180
        network.cut = False
        sent(second)
        wait_until(browser, "document.documentElement.dataset.sent === 'yes'")
        taps = FloorTap.objects.filter(act="stroke")
        assert taps.count() == 360
        for name, stay in crowd.items():
            for lane in ("left", "right"):
                mine = taps.filter(stay=stay, lane=lane)
                wanted = [entry[2] for entry in plan if entry[:2] == (name, lane)]
                assert mine.count() == len(wanted)
                good = sum(tap.value["stroke"] == "g" for tap in mine)
                assert good == wanted.count("Good")
                session = Session.objects.filter(stay=stay).first()
                if session is not None:
                    made = sum(row.makes for row in session.sets.filter(lane=lane))
                    assert made == good
        assert Session.objects.count() >= 10
        # what the other device tapped stands on this one within two seconds
        for driver in (browser, second):
            driver.execute_script(OPEN, names[0])
        browser.execute_script(MORE)
        before = settled(browser)
        second.execute_script(MORE)
        end = 0.0
        while tally(browser) == before and end < 2:
            sleep(0.1)
            end += 0.1
        assert tally(browser) == before + 1
    finally:
        close_browser(second)


def tally(driver):
    """How many strokes the open player shows."""
    return driver.execute_script("return document.querySelector('.hall-tally').textContent.length")


def tile(driver, name):
    return driver.execute_script(
        "return [...document.querySelectorAll('.hall-tile')].map((t) => t.textContent)"
        ".find((text) => text.includes(arguments[0]))",
        name,
    )


def test_a_tablet_that_is_closed_in_the_middle_goes_on_without_a_network(
    club, crowd, browser, network
):
    open_hall(browser, Away(network), club.coach, ["Player A"])
    sent(browser)
    wait_until(browser, "document.documentElement.dataset.kept === 'yes'", 20)
    network.cut = True
    for _ in range(4):
        browser.execute_script(TAP, "Player A", "left", "Good")
    wait_until(browser, "document.querySelector('.hall-tile').textContent.includes('left 4/10')")
    sleep(0.3)
    browser.get("about:blank")
    browser.get_log("browser")  # the network is gone, and the browser says so
    browser.get(f"http://127.0.0.1:{network.port}/floor/")
    wait_until(browser, "document.documentElement.dataset.hall === 'open'", 20)
    assert "left 4/10" in tile(browser, "Player A")
    browser.execute_script(TAP, "Player A", "left", "Miss")
    network.cut = False
    sent(browser)
    assert FloorTap.objects.filter(act="stroke").count() == 5
    assert (
        "".join(t.value["stroke"] for t in FloorTap.objects.filter(act="stroke").order_by("at"))
        == "ggggm"
    )
    browser.get_log("browser")


def test_the_verdict_comes_as_soon_as_the_dose_is_done(club, crowd, browser, live_server):
    open_hall(browser, live_server, club.coach, ["Player A"])
    for lane in ("left", "right"):
        for n in range(10):
            browser.execute_script(TAP, "Player A", lane, "Good" if n < 8 else "Miss")
    expect(browser, "Target reached")
    assert JudgedDay.objects.get().verdict == "pass"
    for left in (9, 8, 7):
        # found and touched at once: an answer of the server draws the tile anew
        browser.execute_script(
            "document.querySelector(arguments[0]).click()", "[aria-label='Undo for Player A']"
        )
        wait_until(
            browser, f"document.querySelector('.hall-tile').textContent.includes('right {left}/10')"
        )
    browser.execute_script(OPEN, "Player A")
    click(browser, "Enough for today")
    sent(browser)
    expect(browser, "Part of it done")


def test_one_stopwatch_for_many(club, browser, live_server):
    today = timezone.localdate()
    run = drill(club.club, "Shuttle run", measure={"kind": "time"}, lanes=[], faults=[])
    own = ladder(club.club, run, "Runs", target={"value": 10}, floor=14, dose={"sets": 2})
    for name in ("Ada", "Bo", "Cy"):
        player = Player.objects.create(club=club.club, name=name, joined_on=today)
        put_on(club, player=player, ladder=own, on=today - timedelta(days=2))
    open_hall(browser, live_server, club.coach, ["Ada", "Bo", "Cy"])
    click(browser, "Together")
    click(browser, "Start all")
    for _ in range(3):
        sleep(0.2)
        click(browser, "Stop")
    sent(browser)
    times = [
        t.value["numbers"]["seconds"] for t in FloorTap.objects.filter(act="result").order_by("at")
    ]
    assert len(times) == 3
    assert times == sorted(times)
    click(browser, "Undo")
    sent(browser)
    assert FloorTap.objects.filter(act="undo").count() == 1


def test_the_hall_on_every_width_for_every_eye(club, crowd, browser, live_server):
    open_hall(browser, live_server, club.coach, ["Player A", "Player B"])
    browser.execute_script(TAP, "Player A", "left", "Good")
    for set_to in (
        lambda: set_size(browser),
        lambda: set_size(browser, 768, 1024),
        lambda: phone(browser),
    ):
        set_to()
        assert sideways(browser) <= 0
        assert problems(browser) == []
    click(browser, "Together")
    expect(browser, "Gate 1 (2)")
    assert sideways(browser) <= 0
    assert problems(browser) == []
    assert browser.find_elements(By.CSS_SELECTOR, ".hall-matrix tbody tr")
