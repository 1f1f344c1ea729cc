"""A form that comes back shows its fault where the finger was: the part it is in opens, and the
focus is there.
"""

from selenium.webdriver.common.by import By

from tests.browser.driver import wait_until
from tests.browser.hands import expect, ready, sign_in
from tests.browser.test_club import fill

HELD = "document.activeElement.name"


def test_the_focus_is_at_the_first_fault(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/new/")
    ready(browser)
    fill(browser, stride_cm="9999", name="Robin Vale")
    browser.find_element(By.NAME, "name").submit()
    expect(browser, "Not saved yet")
    wait_until(browser, f"{HELD} === 'stride_cm'")
    top = browser.execute_script("return document.activeElement.getBoundingClientRect().top")
    assert 0 < top < 800


def test_a_part_that_was_folded_opens_for_its_fault(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/edit/")
    ready(browser)
    found = browser.execute_script(
        "const one = [...document.querySelectorAll('details.rung-more input[type=number], "
        "details.rung-more input[inputmode]')][0]; one.value = '-77'; return one.name;"
    )
    browser.execute_script(
        "document.querySelectorAll('details.rung-more').forEach((one) => one.open = false);"
        "document.querySelector('#ladder-form form').requestSubmit()"
    )
    expect(browser, "Not saved yet")
    wait_until(browser, f"{HELD} === {found!r}")
    assert browser.execute_script("return document.activeElement.closest('details').open")
