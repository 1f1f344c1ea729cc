"""A sheet typed in with keys alone."""

from selenium.webdriver.common.keys import Keys

from drill_ladder.apps.practice.models import Session, SetRow
from tests.browser.hands import expect, problems, ready, sideways, sign_in
from tests.make import drill, ladder, put_on

NUMBERS = 60


def test_sixty_numbers_by_keys_in_one_save(club, browser, live_server, today):
    """Ten ladders of six windows: a number, Enter, and so on; the last Enter stands on the button.

    Keystroke-level model (Card, Moran and Newell 1980, from memory): 0.28 s a key for an average
    typist who is not a secretary, 1.35 s to read each number: 60 x (3 keys x 0.28 + 1.35) = 131 s
    with two digits each; with one digit 115 s.
    """
    on = []
    for n in range(10):
        of = drill(club.club, f"Drill {n}", lanes=[], measure={"kind": "count", "window_s": 30})
        steps = ladder(
            club.club, of, f"L{n}", rungs=1, target={"value": 9}, dose={"sets": 6}, floor=None
        )
        p = put_on(club, ladder=steps, on=today, place="home")
        p.per_week = 1
        p.save()
        on.append(p)
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/sheet/typed/?player={club.player.pk}")
    ready(browser)
    assert problems(browser) == []
    keys = 0
    for block in browser.find_elements("css selector", ".paper-block"):
        day = block.find_element("css selector", "input[type=date]")
        browser.execute_script("arguments[0].value = arguments[1]", day, f"{today}")
        first = block.find_element("css selector", ".paper-cell input")
        browser.execute_script("arguments[0].focus()", first)
        for _ in range(6):
            browser.switch_to.active_element.send_keys("9", Keys.ENTER)
            keys += 2
    assert keys == 2 * NUMBERS
    # the last column ends on the button, and never where a hurt is told
    browser.switch_to.active_element.send_keys(Keys.ENTER)
    assert browser.switch_to.active_element.text == "Save the sheet"
    browser.find_element("css selector", "button.main").click()
    expect(browser, "10 sessions stored from paper")
    assert SetRow.objects.count() == NUMBERS
    assert set(Session.objects.values_list("paper", "on")) == {(True, today)}
    assert sideways(browser) <= 0
