"""A drill and a ladder from nothing, and a half-step."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.select import Select

from drill_ladder.apps.library.models import Ladder
from tests.browser.driver import wait_until
from tests.browser.hands import click, expect, idle, phone, problems, ready, sideways, sign_in


def fill(driver, name, value):
    field = driver.find_element(By.NAME, name)
    field.send_keys(Keys.CONTROL + "a")
    field.send_keys(value)


def step(driver, label):
    button = driver.find_element(By.CSS_SELECTOR, f"[aria-label='{label}']")
    driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
    button.click()


def rows(driver, n):
    wait_until(driver, f"document.querySelectorAll('.rung-row').length === {n}")


def test_a_drill_and_a_ladder_from_nothing(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/drills/")
    click(browser, "New drill")
    fill(browser, "title", "Nine spots")
    assert not browser.find_element(By.NAME, "window_s").is_displayed()
    Select(browser.find_element(By.NAME, "kind")).select_by_value("count")
    assert browser.find_element(By.NAME, "window_s").is_displayed()
    Select(browser.find_element(By.NAME, "kind")).select_by_value("makes")
    assert problems(browser) == []
    click(browser, "Save the drill")
    expect(browser, "is saved")

    click(browser, "Library")
    click(browser, "New ladder")
    ready(browser)
    fill(browser, "title", "Nine spots, nearer and farther")
    Select(browser.find_element(By.NAME, "rung-0-drill")).select_by_visible_text("Nine spots")
    fill(browser, "rung-0-title", "From 2 m")
    click(browser, "Rung on top")
    rows(browser, 2)
    fill(browser, "rung-1-title", "From 4 m")
    fill(browser, "rung-1-makes", "10")
    step(browser, "Half-step below rung 2")
    rows(browser, 3)
    assert (
        browser.find_element(By.NAME, "rung-1-title").get_attribute("value")
        == "Half-way to From 4 m"
    )
    assert browser.find_element(By.NAME, "rung-1-makes").get_attribute("value") == "9"
    step(browser, "Rung 3 down")
    wait_until(browser, "document.querySelector('[name=rung-1-title]').value === 'From 4 m'")
    assert problems(browser) == []
    # Enter in a field saves; it does not press the first row's first button
    idle(browser)
    browser.find_element(By.NAME, "title").send_keys(Keys.ENTER)
    expect(browser, "Players keep the terms they arrived with")
    made = Ladder.objects.get(title="Nine spots, nearer and farther")
    assert [r.title for r in made.rungs.all()] == ["From 2 m", "From 4 m", "Half-way to From 4 m"]


def test_the_builder_on_a_phone_says_what_is_wrong(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    phone(browser)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/edit/")
    ready(browser)
    assert sideways(browser) <= 0
    fill(browser, "rung-1-makes", "12")
    click(browser, "Save the ladder")
    expect(browser, "Is more than of.")
    assert browser.find_element(By.NAME, "rung-1-makes").get_attribute("value") == "12"
    assert problems(browser) == []


def test_a_fault_is_shown_where_it_is_and_counted_in_the_bar(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/edit/")
    ready(browser)
    fill(browser, "rung-1-makes", "-1")
    click(browser, "Save the ladder")
    expect(browser, "One thing to mend")
    assert browser.switch_to.active_element.get_attribute("name") == "rung-1-makes"


def test_a_draft_is_shaped_and_saved(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/")
    click(browser, "Draft one from steps")
    fill(browser, "steps_1", "2 m, 4 m, 6 m")
    assert problems(browser) == []
    click(browser, "Draft the rungs")
    rows(browser, 3)
    ready(browser)
    click(browser, "Save the ladder")
    expect(browser, "Not saved yet")
    assert browser.find_element(By.NAME, "rung-2-title").get_attribute("value") == "6 m"
    fill(browser, "title", "Near to far")
    click(browser, "Save the ladder")
    expect(browser, "Near to far is saved")
    assert Ladder.objects.get(title="Near to far").rungs.count() == 3


ASKS = (
    "const e = new Event('beforeunload', {cancelable: true}); window.dispatchEvent(e); return "
    "e.defaultPrevented"
)


def test_what_is_typed_is_not_lost_by_a_wrong_touch(club, browser, live_server):
    """The browser asks before it leaves a page with something unsaved, and only then."""
    sign_in(browser, live_server, club.coach)
    for address, name in (
        (f"/ladders/{club.ladder.pk}/edit/", "purpose"),
        (f"/drills/{club.drill.pk}/edit/", "purpose"),
        (f"/players/{club.player.pk}/edit/", "name"),
    ):
        browser.get(live_server.url + address)
        ready(browser)
        assert not browser.execute_script(ASKS)
        browser.find_element(By.NAME, name).send_keys(" more")
        assert browser.execute_script(ASKS)
        click(browser, "Back without saving")
        wait_until(browser, f"location.pathname !== '{address}'")
        ready(browser)
        assert not browser.execute_script(ASKS)
    assert Ladder.objects.get(pk=club.ladder.pk).purpose == ""


def test_after_saving_nothing_is_asked_and_after_a_step_it_still_is(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/edit/")
    ready(browser)
    fill(browser, "purpose", "Passes that arrive")
    step(browser, "Copy rung 1")
    wait_until(browser, "document.querySelectorAll('.rung-row').length === 4")
    assert browser.execute_script(ASKS)
    click(browser, "Save the ladder")
    expect(browser, "is saved")
    assert not browser.execute_script(ASKS)
    browser.get(f"{live_server.url}/drills/{club.drill.pk}/plan/")
    ready(browser)
    click(browser, "Marker")
    wait_until(browser, "document.querySelectorAll('.plan-row.three:not(.head)').length === 2")
    assert browser.execute_script(ASKS)
