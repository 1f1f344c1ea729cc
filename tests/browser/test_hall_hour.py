"""One hour in the hall, simulated: two tablets, one behind a slow network that loses answers and is
gone for a while; twelve of a squad, three groups, one late, one who leaves, one hurt, a guest, nine
spots, a counted and a timed drill, stations and a test. Every touch is counted.
"""

import random
from datetime import timedelta
from time import sleep

import pytest
from selenium.webdriver.common.by import By

from drill_ladder.apps.floor.hall.settling import close_halls
from drill_ladder.apps.floor.models import FloorTap, GroupSession, Trial
from drill_ladder.apps.floor.test_days.services import new_battery, save_protocol
from drill_ladder.apps.people.models import Player, Squad
from drill_ladder.apps.practice.models import Session, SetRow, Stop
from tests.browser.driver import close_browser, open_browser, set_size, wait_until
from tests.browser.hands import ready, sign_in
from tests.browser.test_hall import Away, sent
from tests.browser.test_hall_instruments import press
from tests.make import drill, ladder, put_on

SPOTS = [f"spot {n}" for n in "abcdefghi"]
SEED = 26
NAMES = [f"Player {letter}" for letter in "ABCDEFGHIJKL"]
COUNT = """
window.touches = 0;
addEventListener('click', (event) => {
  if (event.target.closest('button, input, select, a')) window.touches += 1;
}, true);
"""
# one touch on a tile: the key that says so; nothing else is looked for
TOUCH = """
const [name, look] = arguments;
const tile = [...document.querySelectorAll('#hall-tiles > li')]
  .find((one) => one.querySelector('strong')?.textContent === name);
const key = tile?.querySelector(look);
key?.click();
return Boolean(key);
"""


@pytest.fixture
def squad(club, today):
    """Twelve: four on nine spots, four on two lanes, two by a clock, two in a window of 3 s."""
    on = today - timedelta(days=2)
    squad = Squad.objects.create(club=club.club, name="U12")
    nine = ladder(
        club.club,
        drill(club.club, "Corners", lanes=SPOTS, faults=[]),
        "Corners",
        target={"makes": 2, "of": 3},
        dose={"sets": 1, "reps": 3},
    )
    run = drill(club.club, "Run", measure={"kind": "time"}, lanes=[], faults=[])
    timed = ladder(club.club, run, "Runs", target={"value": 10}, floor=14, dose={"sets": 3})
    steps = drill(club.club, "Steps", measure={"kind": "count", "window_s": 3}, lanes=[], faults=[])
    counted = ladder(club.club, steps, "Steps", target={"value": 2}, floor=None, dose={"sets": 2})
    steps_of = [nine] * 4 + [club.ladder] * 4 + [timed] * 2 + [counted] * 2
    players = []
    for name, own in zip(NAMES, steps_of, strict=True):
        player = Player.objects.create(club=club.club, name=name, joined_on=on, squad=squad)
        put_on(club, player=player, ladder=own, on=on)
        players.append(player)
    return players


@pytest.fixture
def test_day(club, squad, today):
    sprint = drill(club.club, "Sprint", measure={"kind": "time"}, lanes=[], faults=[])
    values = {"title": "Sprint", "drill": sprint, "trials": 1, "score_by": "best", "rest_s": 0}
    test = save_protocol(member=club.coach, protocol=None, values=values)
    return new_battery(
        member=club.coach, title="Tests", on=today, protocols=[test], players=squad[:3]
    )


def enter(driver, server, member):
    """The hall's page; 1024x768."""
    sign_in(driver, server, member)
    set_size(driver, 1024, 768)
    driver.get(f"{server.url}/floor/")
    opened(driver)


def opened(driver):
    ready(driver)
    wait_until(driver, "document.documentElement.dataset.hall === 'open'", 20)
    driver.execute_script(COUNT)


def touches(driver):
    return driver.execute_script("return window.touches")


def touch(driver, name, look):
    """One touch on a tile, once it has that key."""
    for _ in range(100):
        if driver.execute_script(TOUCH, name, look):
            return
        sleep(0.05)
    raise AssertionError(f"{name} has no {look}")


def entries():
    return FloorTap.objects.filter(act__in=("stroke", "result"))


def still(driver):
    """Nothing has scrolled."""
    return driver.execute_script(
        "return ['html', '#hall-tiles'].map((one) => document.querySelector(one).scrollTop)"
    )


def attendance(driver, guest_ladder):
    """A squad in three touches; then a guest, one late and one who leaves."""
    driver.find_element(By.ID, "hall-drawer").click()
    press(driver, "U12: all 12 here", "#hall-squads")
    driver.find_element(By.ID, "hall-shut").click()
    wait_until(driver, "document.querySelectorAll('.hall-tile').length === 12")
    assert touches(driver) == 3
    sent(driver)
    driver.find_element(By.ID, "hall-drawer").click()
    driver.find_element(By.CSS_SELECTOR, ".hall-guest input[name=name]").send_keys("Guest")
    driver.execute_script(
        "document.querySelector('.hall-guest select').value = arguments[0]", str(guest_ladder)
    )
    press(driver, "Is here", ".hall-guest")
    wait_until(driver, "location.search.startsWith('?player=')")
    opened(driver)
    wait_until(driver, "document.querySelectorAll('.hall-tile').length === 13")
    driver.execute_script("document.querySelector('#hall-panel [data-close]').click()")
    said(driver, "Player L", "here, late")
    fits = "document.getElementById('hall-tiles')"
    assert driver.execute_script(f"return {fits}.scrollHeight <= {fits}.clientHeight")


def said(driver, name, words):
    """A name in the drawer is touched until it says so."""
    driver.find_element(By.ID, "hall-drawer").click()
    chips = "[...document.querySelectorAll('.hall-chip')]"
    chip = f"{chips}.find(one => one.textContent.startsWith('{name}'))"
    for _ in range(3):
        if driver.execute_script(f"return {chip}.textContent.includes('{words}')"):
            break
        driver.execute_script(f"{chip}.click()")
        sleep(0.1)
    wait_until(driver, f"{chip}.textContent.includes('{words}')")
    driver.find_element(By.ID, "hall-shut").click()


def both(driver, second):
    """Both tablets have sent all and show the same."""
    for one in (driver, second):
        sent(one)
    shown = (
        "[...document.querySelectorAll('#hall-tiles > li')].map((one) => ["
        "'strong', '.tile-lanes', '.tile-all'].map((part) => one.querySelector(part)?.textContent)"
        ".join(' ') + one.className.includes('halted')).sort().join('|')"
    )
    for _ in range(60):
        told = [one.execute_script(f"return {shown}") for one in (driver, second)]
        if told[0] == told[1]:
            return told[0]
        sleep(0.1)
    raise AssertionError(f"{told[0]}\n{told[1]}")


def test_an_hour_with_two_tablets(club, squad, test_day, browser, live_server, network, today):
    chance = random.Random(SEED)
    second = open_browser()
    try:
        enter(browser, live_server, club.coach)
        attendance(browser, club.ladder.pk)
        network.delay = 0.15
        enter(second, Away(network), club.assistant)
        wait_until(second, "document.querySelectorAll('.hall-tile').length === 13", 20)
        wait_until(second, "document.documentElement.dataset.kept === 'yes'", 20)
        before = touches(browser) + touches(second)

        # strokes on tiles: the lane moves on by itself, a touch is an entry
        network.lose = 3
        plan = [name for name in [*NAMES[:8], "Guest"] for _ in range(6)]
        chance.shuffle(plan)
        for number, name in enumerate(plan):
            look = ".tile-good" if chance.random() < 0.8 else ".tile-miss"
            touch(browser if number % 2 else second, name, look)
        made = len(plan)
        both(browser, second)
        assert entries().count() == made

        # several clocks by one touch, each stopped on its tile; two windows, counted
        press(browser, "Start 4 clocks", ".hall-strip")
        for name in NAMES[8:10]:
            touch(browser, name, ".tile-watch")
        made += 2
        counting = (
            "[...document.querySelectorAll('.tile-good')]"
            ".filter((one) => one.textContent.startsWith('Tap')).length === 2"
        )
        wait_until(browser, counting, 10)
        for name in NAMES[10:]:
            touch(browser, name, ".tile-good")
        made += 2  # a window is one entry when it ends, and its touches are no entries
        wait_until(browser, "document.querySelectorAll('.hall-tile').length === 13")
        for _ in range(60):
            if entries().count() == made:
                break
            sleep(0.1)
        assert entries().count() == made

        # the server is gone for one tablet, which is closed in the middle and goes on
        network.cut = True
        for name in NAMES[:4]:
            touch(second, name, ".tile-good")
        second.get("about:blank")
        second.get_log("browser")
        second.get(f"http://127.0.0.1:{network.port}/floor/")
        opened(second)
        touch(second, NAMES[0], ".tile-good")
        made += 5
        # meanwhile somebody is hurt there, and somebody leaves
        second.find_element(By.ID, "hall-hurt-key").click()
        press(second, NAMES[7], "#hall-hurt-names")
        # nobody could be told: it is said in large words until somebody has read it
        wait_until(second, "!document.getElementById('unreachable').hidden")
        second.execute_script("document.querySelector('#unreachable [data-hide]').click()")
        second.find_element(By.ID, "hall-hurt-shut").click()
        wait_until(second, "document.querySelector('.hall-tile.halted')")
        network.cut = False
        second.execute_script("dispatchEvent(new Event('online'))")
        wait_until(browser, "document.querySelector('.hall-tile.halted')", 15)
        both(browser, second)
        assert Stop.objects.get().player.name == NAMES[7]
        assert entries().count() == made
        second.get_log("browser")

        # stations: begun in one touch from what many share, counted there, typed at the change
        press(browser, "Together", ".hall-strip")
        press(browser, "By the clock", "#hall-together")
        wait_until(browser, "location.search === '?view=stations'")
        opened(browser)
        group = GroupSession.objects.get()
        assert len(group.players) >= 3
        browser.execute_script(
            "document.querySelector('.station-tile .tile-good, .station-tile .tile-miss').click()"
        )
        made += 1
        press(browser, "Start", "#hall-stations")
        press(browser, "Next", "#hall-stations")

        # a test: three trials typed, one refused where the finger is
        press(browser, "Tests", ".hall-strip")
        wait_until(browser, "document.querySelectorAll('.trial-tiles li').length === 3")
        for n, value in enumerate(("2.31", "9999", "2.4")):
            tile = browser.find_elements(By.CSS_SELECTOR, ".trial-tiles li")[n]
            tile.find_element(By.CSS_SELECTOR, "input").send_keys(value)
            tile.find_element(By.XPATH, ".//button[text()='Keep it']").click()
            tiles = f"document.querySelectorAll('.trial-tiles li')[{n}]"
            wait_until(browser, f"/All trials|At most/.test({tiles}.textContent)")
        sent(browser)
        assert sorted(Trial.objects.values_list("value", flat=True)) == [2.31, 2.4]
        press(browser, "Players", ".hall-strip")

        # one leaves early: the tile goes on both, and what was counted stays
        said(browser, "Player A", "gone")
        wait_until(second, "document.querySelectorAll('.hall-tile').length === 12", 10)

        both(browser, second)
        assert entries().count() == made
        uids = list(entries().values_list("uid", flat=True))
        assert len(uids) == len(set(uids))
        assert still(browser) == still(second) == [0, 0]
        # at night the hall closes itself: parts are recorded as parts, and nobody lost an entry
        before_night = Session.objects.count()
        assert close_halls(club.club, today + timedelta(days=1)) >= 9
        assert Session.objects.count() > before_night
        stored = sum(len(row.strokes) for row in SetRow.objects.filter(session__hall=True))
        assert stored == FloorTap.objects.filter(act="stroke", after_stop=False).count()
        print(f"{made} entries, {touches(browser) + touches(second) - before} touches besides")
    finally:
        close_browser(second)


def test_an_entry_is_one_touch(club, squad, browser, live_server):
    """Sixty strokes on twelve tiles, nothing else touched: 1.05 touches an entry at most."""
    enter(browser, live_server, club.coach)
    browser.find_element(By.ID, "hall-drawer").click()
    press(browser, "U12: all 12 here", "#hall-squads")
    browser.find_element(By.ID, "hall-shut").click()
    wait_until(browser, "document.querySelectorAll('.hall-tile').length === 12")
    before = touches(browser)
    for number in range(60):
        touch(browser, NAMES[number % 8], ".tile-good")
    sent(browser)
    assert entries().count() == 60
    assert (touches(browser) - before) / 60 <= 1.05
    assert still(browser) == [0, 0]
