"""The weekly review of thirty players by keys alone, each of which the screen shows."""

from selenium.webdriver.common.keys import Keys

from drill_ladder.apps.review.models import Decision
from tests.browser.driver import wait_until
from tests.browser.hands import ready, sign_in
from tests.browser.test_keys_and_eyes import press, ready_to_climb

PLAYERS, MOST_KEYS = 30, 40
BUTTON = "document.querySelector('[data-action=confirm] .key')"
BOX = "document.querySelector('[aria-label=Search][open] input')"


def test_thirty_are_reviewed_in_at_most_forty_keys(club, browser, live_server):
    ready_to_climb(club, players=PLAYERS)
    sign_in(browser, live_server, club.coach)
    pressed = list("/review")
    press(browser, "/")
    wait_until(browser, BOX)
    press(browser, *pressed[1:])
    press(browser, Keys.ENTER)
    pressed.append(Keys.ENTER)
    wait_until(browser, "location.pathname === '/review/'")
    ready(browser)
    assert browser.execute_script(f"return {BUTTON}.innerText").lower() == "c"
    for left in range(PLAYERS - 1, -1, -1):
        press(browser, "c")
        pressed.append("c")
        wait_until(
            browser,
            f"document.body.innerText.includes('{left} waiting') || {left} === 0",
        )
    wait_until(browser, "document.body.innerText.includes('Nothing waits')")
    assert len(pressed) <= MOST_KEYS
    assert Decision.objects.filter(action="confirm").count() == PLAYERS
