"""Devices that keep little or nothing: full, refused, private; at opening and in mid-block."""

from contextlib import contextmanager
from time import monotonic, sleep

import pytest
from selenium.webdriver.common.by import By

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.practice.models import HurtReport, Session
from drill_ladder.apps.practice.stops.services import open_stop
from tests.browser.driver import wait_until
from tests.browser.hands import choose, click, expect, page, ready, sign_in, touch_key
from tests.browser.test_offline import count_all, stored
from tests.make import current, put_on

NO_DATABASE = "indexedDB.open = () => { throw new DOMException('refused', 'SecurityError'); };"
HANGS = "indexedDB.open = () => new EventTarget();"  # a private window that never answers
FULL = "() => { throw new DOMException('full', 'QuotaExceededError'); };"
FULL_DATABASE = f"IDBObjectStore.prototype.put = {FULL}"
NO_PLACE = f"Storage.prototype.setItem = {FULL}"
ALL_FULL = FULL_DATABASE + NO_PLACE
LARGE = "This device keeps nothing"


@contextmanager
def device_that(browser, script):
    """A device that is as a script makes it, for a while."""
    given = {"source": script}
    made = browser.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", given)
    yield
    browser.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", made)


@pytest.fixture
def device(browser):
    """A device that is as a script makes it, from the next page on."""
    made = []

    def be(script):
        answer = browser.execute_cdp_cmd(
            "Page.addScriptToEvaluateOnNewDocument", {"source": script}
        )
        made.append(answer["identifier"])

    yield be
    for one in made:
        browser.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", {"identifier": one})


def block_of(club, card):
    return f"{card}{current(club.player.prescriptions.get()).pk}/"


@pytest.mark.parametrize("less", [NO_DATABASE, FULL_DATABASE, HANGS])
def test_without_a_database_the_little_place_keeps_it(club, browser, card, network, device, less):
    device(less)
    browser.get(block_of(club, card))
    ready(browser)
    for _ in range(3):
        touch_key(browser, ".pad-good")
    wait_until(browser, "JSON.stringify(localStorage).includes('ggg')")
    browser.refresh()
    ready(browser)
    expect(browser, "3 good of 3")
    network.cut = True
    for _ in range(17):
        touch_key(browser, ".pad-good")
    choose(browser, "hurts", "no")
    click(browser, "Send to my coach")
    wait_until(browser, f"location.href === '{card}'")
    expect(browser, "1 session waits for a network")
    network.cut = False
    browser.refresh()
    assert stored() == [(10, 10), (10, 10)]
    wait_until(browser, "document.getElementById('unsent').hidden")


def test_a_device_that_keeps_nothing_holds_the_page_open_and_says_so(
    club, browser, card, network, device
):
    device(ALL_FULL)
    browser.get(block_of(club, card))
    ready(browser)
    network.cut = True
    count_all(browser)
    expect(browser, LARGE)
    click(browser, "Send to my coach")
    expect(browser, "Keep this page open: it is sent as soon as there is a network.")
    assert browser.current_url == block_of(club, card)
    network.cut = False
    browser.execute_script("window.dispatchEvent(new Event('online'))")
    assert stored() == [(10, 10), (10, 10)]
    wait_until(
        browser, "location.pathname.includes('/done/') || location.pathname.split('/').length < 5"
    )


def test_it_gets_full_in_mid_block(club, browser, card):
    browser.get(block_of(club, card))
    ready(browser)
    for _ in range(3):
        touch_key(browser, ".pad-good")
    browser.execute_script(FULL_DATABASE)
    for _ in range(4):
        touch_key(browser, ".pad-good")
    wait_until(browser, "JSON.stringify(localStorage).includes('ggggggg')")
    browser.refresh()
    ready(browser)
    expect(browser, "7 good of 7")


def test_a_hurt_on_a_device_that_keeps_nothing_arrives(club, browser, card, network, device):
    device(ALL_FULL)
    browser.get(card)
    ready(browser)
    network.cut = True
    click(browser, "Something hurts")
    browser.find_element(By.NAME, "what").send_keys("knee")
    click(browser, "Stop and tell my coach")
    expect(browser, "This has not reached your coach")
    network.cut = False
    browser.execute_script("window.dispatchEvent(new Event('online'))")
    expect(browser, "Your coach will see this:")
    assert [one.words for one in HurtReport.objects.all()] == ["knee"]


def test_a_hurt_of_a_page_that_was_left_is_told_by_the_next_one(club, browser, card, network):
    """And it carries the time at which it was told."""
    browser.get(card)
    ready(browser)
    network.cut = True
    click(browser, "Something hurts")
    browser.find_element(By.NAME, "what").send_keys("knee")
    click(browser, "Stop and tell my coach")
    expect(browser, "This has not reached your coach")
    network.cut = False
    browser.get(f"{card}climb/")  # a page that has no form for it
    end = monotonic() + 10
    while not HurtReport.objects.exists() and monotonic() < end:
        sleep(0.1)
    assert HurtReport.objects.get().words == "knee"


# --- the hall


@pytest.fixture
def hall(club, browser, network, today):
    """The hall's page of a coach, through a network that can be cut."""
    put_on(club, on=today)

    class At:
        url = f"http://127.0.0.1:{network.port}"

    sign_in(browser, At, club.coach)

    def go(back=False):
        browser.get(f"{At.url}/floor/")
        wait_until(browser, "document.documentElement.dataset.hall === 'open'")
        if not back:
            browser.find_element(By.ID, "hall-drawer").click()
            click(browser, "Ida Marlow")
            browser.find_element(By.ID, "hall-shut").click()
        wait_until(browser, "document.querySelector('.hall-tile')")
        # opened again without a network it is there only once it is kept
        wait_until(browser, "document.documentElement.dataset.kept === 'yes'", 20)

    yield go
    network.cut = False
    browser.execute_script(
        "return navigator.serviceWorker.getRegistrations()"
        ".then(all => Promise.all(all.map(one => one.unregister())))"
    )
    browser.get_log("browser")


def good(browser, times):
    for _ in range(times):
        touch_key(browser, ".tile-good")


def tapped(count, **asked):
    """Wait until so many strokes have arrived."""
    end = monotonic() + 15
    rows = FloorTap.objects.filter(act="stroke", **asked)
    while rows.count() < count and monotonic() < end:
        sleep(0.1)
    return rows.count()


@pytest.mark.parametrize("less", [NO_DATABASE, ALL_FULL])
def test_the_hall_counts_on_whatever_the_device_keeps(browser, network, hall, device, less):
    device(less)
    hall()
    network.cut = True
    good(browser, 5)
    expect(browser, "No network: go on")
    if less == ALL_FULL:
        expect(browser, LARGE)
    network.cut = False
    browser.execute_script("window.dispatchEvent(new Event('online'))")
    assert tapped(5) == 5
    wait_until(browser, "document.documentElement.dataset.sent === 'yes'")
    assert LARGE not in page(browser)


def test_signed_out_says_signed_out_and_never_no_network(browser, hall):
    hall()
    session = browser.get_cookie("sessionid")
    browser.delete_cookie("sessionid")
    good(browser, 2)
    expect(browser, "You are signed out.")
    assert "No network" not in page(browser)
    browser.add_cookie(session)
    assert tapped(2) == 2


def test_an_open_hall_learns_of_a_stop_within_two_seconds_and_refuses_what_comes_after(
    club, browser, hall, today, network
):
    hall()
    good(browser, 2)
    assert tapped(2) == 2
    open_stop(player=club.player, what="knee", on=today, actor=None)
    begun = monotonic()
    wait_until(browser, "document.querySelector('.hall-tile.halted')", 5)
    assert monotonic() - begun < 2.5  # two seconds, and half of one for this test's own look
    expect(browser, "Stopped: something hurts")
    assert not browser.find_elements(By.CSS_SELECTOR, ".tile-good")


def test_hurt_in_the_hall_without_a_network_is_said_in_large_words_and_goes_first(
    club, browser, hall, network
):
    hall()
    network.cut = True
    good(browser, 3)
    touch_key(browser, ".tile-key.hall-stop")
    expect(browser, "Stopped: something hurts")
    expect(browser, "This has not reached your coach")
    assert "Ida Marlow: something hurts" in page(browser)
    click(browser, "Back to the page")
    browser.refresh()  # it stops also what is opened again without a network
    wait_until(browser, "document.querySelector('.hall-tile.halted')")
    network.cut = False
    browser.execute_script("window.dispatchEvent(new Event('online'))")
    assert tapped(3, after_stop=False) == 3
    assert HurtReport.objects.get().by == club.coach.user
    assert not Session.objects.exists()
