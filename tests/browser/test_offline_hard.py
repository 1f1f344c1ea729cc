"""The card against what phones and networks really do: a killed browser, a network cut by the
browser's own means, two phones, a wrong clock, midnight, a link that is closed meanwhile.
"""

import os
import signal
from contextlib import suppress
from datetime import timedelta
from time import sleep

import pytest
from selenium.common.exceptions import WebDriverException
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import Select

from drill_ladder.apps.people.players.links import renew_link
from drill_ladder.apps.practice.models import Session
from tests.browser.driver import close_browser, open_browser, wait_until
from tests.browser.hands import (
    choose,
    click,
    expect,
    kept,
    long_page,
    page,
    phone,
    ready,
    sign_in,
    touch_key,
)
from tests.browser.test_offline import count_all, stored
from tests.make import current, put_on


@pytest.fixture
def block(club):
    """The address of a block of the card."""
    p = put_on(club, place="home")
    return f"/card/{club.token}/{current(p).pk}/"


def good(browser, times):
    for _ in range(times):
        touch_key(browser, ".pad-good")


def kill(driver):
    """As an empty battery does: nothing is told to the browser before."""
    driver.service.process.kill()
    for name in os.listdir("/proc"):
        if not name.isdigit():
            continue
        try:
            with open(f"/proc/{name}/cmdline", "rb") as line:
                ours = driver.profile.encode() in line.read()
        except OSError:
            continue
        if ours:
            os.kill(int(name), signal.SIGKILL)
    sleep(0.5)


def test_a_killed_browser_loses_no_stroke(club, block, live_server):
    first = open_browser()
    phone(first)
    first.get(live_server.url + block)
    ready(first)
    good(first, 4)
    kept(first, "gggg")
    good(first, 1)
    sleep(0.05)  # one frame and a half after the last stroke, not a second
    kill(first)
    again = open_browser(first.profile)
    try:
        phone(again)
        again.get(live_server.url + block)
        ready(again)
        expect(again, "5 good of 5")
    finally:
        close_browser(again)


def offline(driver, yes):
    """The network cut by the browser's own means."""
    driver.execute_cdp_cmd("Network.enable", {})
    driver.execute_cdp_cmd(
        "Network.emulateNetworkConditions",
        {"offline": yes, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1},
    )


def test_the_network_goes_in_mid_set_and_comes_back(club, block, browser, live_server):
    phone(browser)
    browser.get(live_server.url + block)
    ready(browser)
    good(browser, 3)
    offline(browser, True)
    for _ in range(17):
        touch_key(browser, ".pad-good")
    choose(browser, "hurts", "no")
    offline(browser, False)
    click(browser, "Send to my coach")
    wait_until(browser, "location.pathname.includes('/done/')")
    assert stored() == [(10, 10), (10, 10)]


def test_two_phones_with_one_card_are_one_question(club, block, browser, live_server, today):
    other = open_browser()
    try:
        for driver in (browser, other):
            phone(driver)
            driver.get(live_server.url + block)
            ready(driver)
        for driver in (browser, other):
            count_all(driver)
            click(driver, "Send to my coach")
            wait_until(driver, "location.pathname.includes('/done/')")
    finally:
        close_browser(other)
    rows = list(Session.objects.order_by("recorded_at"))
    assert [row.extra for row in rows] == [False, True]
    assert len({row.device for row in rows}) == 2
    sign_in(browser, live_server, club.coach)
    expect(browser, "The same work twice, or two sessions?")
    click(browser, "Both are real")
    expect(browser, "Both are kept as they are")
    assert "The same work twice" not in page(browser)
    assert Session.objects.filter(both_real=True).count() == 2


@pytest.fixture
def a_day_ahead(browser):
    """The device's clock, and the page's with it."""
    day = 24 * 3600 * 1000
    script = browser.execute_cdp_cmd(
        "Page.addScriptToEvaluateOnNewDocument",
        {
            "source": "const Real = Date; globalThis.Date = class extends Real {"
            "constructor(...given) "
            f"{{ given.length ? super(...given) : super(Real.now() + {day}); }}"
            f"static now() {{ return Real.now() + {day}; }} }};"
        },
    )
    yield
    browser.execute_cdp_cmd(
        "Page.removeScriptToEvaluateOnNewDocument", {"identifier": script["identifier"]}
    )


def test_a_clock_that_is_a_day_off_is_asked_about_on_the_page(
    club, block, browser, live_server, today, a_day_ahead
):
    phone(browser)
    browser.get(live_server.url + block)
    ready(browser)
    expect(browser, "On which day did you do it?")
    count_all(browser)
    click(browser, "Send to my coach")
    assert not Session.objects.exists()  # nothing is stored before a day is chosen
    Select(browser.find_element(By.NAME, "on")).select_by_value(f"{today}")
    click(browser, "Send to my coach")
    wait_until(browser, "location.pathname.includes('/done/')")
    assert Session.objects.get().on == today


def test_a_clock_that_went_wrong_meanwhile_is_asked_about_before_it_is_stored(
    club, browser, card, network, today, a_day_ahead
):
    """The block was done while the clock was right; it is sent by one that is wrong."""
    network.cut = True
    browser.get(card)
    long_page(browser, "Gate 1")
    ready(browser)
    browser.execute_script("document.getElementById('log').dataset.asked = 'no'")
    browser.execute_script("document.querySelector('[name=day_asked]').remove()")
    Select(browser.find_element(By.NAME, "on")).select_by_value(f"{today}")
    count_all(browser)
    click(browser, "Send to my coach")
    wait_until(browser, f"location.href === '{card}'")
    network.cut = False
    browser.refresh()
    expect(browser, "When was it done?")
    assert not Session.objects.exists()
    yesterday = today - timedelta(days=1)
    click(browser, f"{yesterday:%A} {yesterday.day} {yesterday:%B}")
    wait_until(browser, "document.getElementById('unsent').hidden")
    assert Session.objects.get().on == yesterday


def test_strokes_of_before_midnight_are_there_after_it_with_their_day(
    club, block, browser, live_server, today
):
    phone(browser)
    browser.get(live_server.url + block)
    ready(browser)
    good(browser, 3)
    kept(browser, "ggg")
    yesterday = today - timedelta(days=1)
    browser.execute_async_script(
        "const done = arguments[arguments.length - 1];"
        "const opening = indexedDB.open('drill-ladder');"
        "opening.onsuccess = () => {"
        "  const store = opening.result.transaction('work', 'readwrite').objectStore('work');"
        "  store.getAll().onsuccess = (event) => {"
        "    const one = event.target.result[0];"
        "    one.began = arguments[0] + 'T22:00:00Z'; one.fields.on = [arguments[0]];"
        "    store.put(one).onsuccess = () => { opening.result.close(); done(); };"
        "  };"
        "};",
        f"{yesterday}",
    )
    browser.refresh()
    ready(browser)
    expect(browser, "3 good of 3")
    expect(browser, "and not sent yet")
    good(browser, 17)
    choose(browser, "hurts", "no")
    click(browser, "Send to my coach")
    wait_until(browser, "location.pathname.includes('/done/')")
    assert Session.objects.get().on == yesterday


def test_begun_anew_the_old_strokes_are_gone(club, block, browser, live_server):
    phone(browser)
    browser.get(live_server.url + block)
    ready(browser)
    good(browser, 2)
    kept(browser, "gg")
    browser.execute_script("document.querySelector('[data-old]').hidden = false")
    browser.refresh()
    ready(browser)
    expect(browser, "2 good of 2")
    assert not browser.find_element(By.CSS_SELECTOR, "[data-old]").is_displayed()


def waiting(browser, card, network):
    """A session that was done without a network, and waits."""
    network.cut = True
    long_page(browser, "Gate 1")
    ready(browser)
    count_all(browser)
    click(browser, "Send to my coach")
    wait_until(browser, f"location.href === '{card}'")
    expect(browser, "1 session waits for a network")


def test_a_link_closed_while_it_was_offline_keeps_the_work_and_says_why(
    club, browser, card, network
):
    waiting(browser, card, network)
    renew_link(member=club.coach, player=club.player)
    network.cut = False
    browser.execute_script("window.dispatchEvent(new Event('online'))")
    expect(browser, "This link is closed")
    assert not Session.objects.exists()
    browser.get(card)
    expect(browser, "Not here")
    kept(browser, "This link is closed")
    # the new link sends what waited for the old one
    browser.get(card.replace(card.split("/card/")[1], f"{club.token}/"))
    ready(browser)
    assert stored() == [(10, 10), (10, 10)]


def test_what_waits_goes_out_when_the_browser_wakes_the_worker(club, browser, card, network):
    waiting(browser, card, network)
    origin = card.partition("/card/")[0]
    network.spared = "/static/"  # the browser may or may not have kept the icon
    browser.get(f"{origin}/static/icons/icon.svg")  # no page of ours is open
    assert not Session.objects.exists()
    network.cut = False
    browser.execute_cdp_cmd("ServiceWorker.enable", {})
    for number in range(400):  # the browser counts the workers of all tests before this one
        with suppress(WebDriverException):
            browser.execute_cdp_cmd(
                "ServiceWorker.dispatchSyncEvent",
                {
                    "origin": origin,
                    "registrationId": f"{number}",
                    "tag": "work",
                    "lastChance": False,
                },
            )
    assert stored() == [(10, 10), (10, 10)]
    browser.get(card)
    ready(browser)
    assert "waits for a network" not in page(browser)
