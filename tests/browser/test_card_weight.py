"""The card is light: 120 kB at first, no static file again, and no tap waits for the network."""

import pytest

from tests.browser.driver import set_size, wait_until
from tests.browser.hands import expect, phone, problems, ready, sideways
from tests.make import current, put_on

MOST = 120_000  # bytes, compressed, with everything that the first visit fetches
LOADED = (
    "return [...performance.getEntriesByType('navigation'), "
    "...performance.getEntriesByType('resource')]"
    ".map(one => [new URL(one.name).pathname, one.transferSize])"
)


@pytest.fixture
def block(club, live_server):
    p = put_on(club, place="home")
    return f"{live_server.url}/card/{club.token}/{current(p).pk}/"


def test_the_first_visit_is_light_and_the_second_fetches_nothing_static(
    club, block, browser, live_server
):
    phone(browser)
    browser.execute_cdp_cmd("Network.clearBrowserCache", {})
    card = f"{live_server.url}/card/{club.token}/"
    browser.get(card)
    ready(browser)
    first = browser.execute_script(LOADED)
    total = sum(size for _, size in first)
    print(f"card, first visit: {total} bytes in {len(first)} answers")
    assert any(name.endswith(".woff2") for name, _ in first)
    assert 20_000 < total <= MOST
    browser.get(block)
    ready(browser)
    second = browser.execute_script(LOADED)
    assert {name: size for name, size in second if name.startswith("/static/") and size} == {}


def test_a_tap_asks_nothing_of_the_network(block, browser):
    phone(browser)
    browser.get(block)
    ready(browser)
    wait_until(browser, "document.documentElement.dataset.kept === 'yes'")
    before = len(browser.execute_script(LOADED))
    for _ in range(5):
        browser.find_element("css selector", ".pad-good").click()
    assert len(browser.execute_script(LOADED)) == before


def test_at_320_pixels_and_with_text_twice_as_large_nothing_is_cut_off(block, browser):
    set_size(browser, 320, 640, phone=True)
    browser.get(block)
    ready(browser)
    assert sideways(browser) <= 0
    assert problems(browser) == []
    set_size(browser, 390, 844, phone=True)
    browser.execute_script("document.documentElement.style.fontSize = '34px'")
    assert sideways(browser) <= 0


def test_without_scripts_it_is_a_plain_form(club, block, browser, live_server):
    """As today's plain form: totals are typed and sent."""
    phone(browser)
    browser.execute_cdp_cmd("Emulation.setScriptExecutionDisabled", {"value": True})
    try:
        browser.get(block)
        for name, value in (("e0-makes", "8"), ("e1-makes", "9")):
            browser.find_element("name", name).send_keys(value)
        browser.find_element("css selector", "[name=hurts][value=no]").click()
        browser.find_element("css selector", "#log button.main").click()
    finally:
        browser.execute_cdp_cmd("Emulation.setScriptExecutionDisabled", {"value": False})
    browser.refresh()
    ready(browser)
    expect(browser, "Left: 8 of 10")
