"""From a new player to a published week, weeks by hand and keys, a week that cannot be, a roster,
stations.
"""

import time
from datetime import date, timedelta

from django.utils import timezone
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.select import Select

from drill_ladder.apps.people.models import Player, PlayerDay
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.services import solve
from tests.browser.driver import wait_until
from tests.browser.hands import click, expect, page, phone, problems, ready, sideways, sign_in
from tests.make import put_on

MONDAY = timezone.localdate() - timedelta(days=timezone.localdate().weekday())


class Hands:
    """Counts what a person does: a click, a field filled in, a choice."""

    def __init__(self, driver):
        self.driver, self.actions = driver, 0

    def click(self, words):
        click(self.driver, words)
        self.actions += 1

    def fill(self, name, value):
        field = self.driver.find_element(By.NAME, name)
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
        field.send_keys(value)
        self.actions += 1

    def choose(self, name, value):
        Select(self.driver.find_element(By.NAME, name)).select_by_value(value)
        self.actions += 1

    def tap(self, css):
        found = self.driver.find_element(By.CSS_SELECTOR, css)
        self.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", found)
        found.click()
        self.actions += 1


def test_from_a_new_player_to_a_published_week(club, browser, live_server):
    """Under three minutes for a person: here with the number of actions counted. Three seconds an
    action are a slow hand (common practice, no source): 27 actions are 81 seconds to the first
    prescription.
    """
    sign_in(browser, live_server, club.coach)
    hands, begun = Hands(browser), time.monotonic()
    hands.click("Players")
    hands.click("New player")
    hands.fill("name", "Robin Vale")
    hands.fill("squad_name", "Hockey under 12")
    for weekday, minutes, place in ((0, "20", "home"), (2, "20", "home"), (3, "60", "club")):
        hands.fill(f"day-{weekday}-minutes", minutes)
        hands.choose(f"day-{weekday}-place", place)
    hands.fill("guardian_name", "Vale family")
    assert problems(browser) == []
    hands.click("Save and prescribe")
    expect(browser, "Which ladder?")
    hands.click("Place first")
    expect(browser, "Try rung 2")
    assert problems(browser) == []
    for left, right in ((5, 4), (2, 1)):
        hands.tap(f"[name=good-0][value='{left}']")
        hands.tap(f"[name=good-1][value='{right}']")
        browser.execute_script("window.before = true")
        hands.click("Next")
        wait_until(browser, "!window.before && document.readyState === 'complete'")
    expect(browser, "Start on rung 2")
    assert problems(browser) == []
    hands.click("Start there")
    expect(browser, "minutes a week")
    assert problems(browser) == []
    hands.click("Put on this ladder")
    expect(browser, "The home card shows it")
    assert hands.actions <= 27
    assert time.monotonic() - begun < 180
    robin = Player.objects.get(name="Robin Vale")
    assert Prescription.objects.get(player=robin).stays.get().rung.position == 2

    browser.find_element("css selector", ".tabs a[href*=week]").click()
    hands.click("Plan this week")
    expect(browser, "Planned around what is kept.")
    # the ladder begins today: nothing is planned on days that are over
    ahead = [weekday for weekday in (0, 2, 3) if weekday >= timezone.localdate().weekday()]
    assert len(browser.find_elements(By.CSS_SELECTOR, ".week-block")) == len(ahead)
    assert problems(browser) == []
    hands.click("Publish")
    expect(browser, "the card and the calendar have it now")
    assert hands.actions <= 30
    assert Week.objects.get(player=robin).published_at
    browser.get(f"{live_server.url}/card/{robin.links.get(opens='card').token}/")
    # from Thursday on this week's days at home are over: the coach told a week without work at home
    expect(browser, "Gate 2" if min(ahead, default=7) < 3 else "Nothing to do at home yet")


def planned(club, *days):
    for weekday, minutes, place in days:
        PlayerDay.objects.create(
            club=club.club,
            player=club.player,
            weekday=weekday,
            minutes=minutes,
            place=place,
            adult=True,
        )
    put_on(club, on=MONDAY - timedelta(days=7))
    return solve(member=club.coach, player=club.player, monday=MONDAY)


def at(driver, n, blocks):
    wait_until(
        driver,
        f"document.querySelectorAll('.week-day')[{n}].querySelectorAll('.week-block').length === "
        f"{blocks}",
    )


def test_blocks_are_moved_by_keys_and_by_hand_and_say_what_they_break(club, browser, live_server):
    planned(club, (0, 4, "home"), (2, 20, "home"), (3, 60, "club"))
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/{club.player.pk}/week/")
    ready(browser)
    at(browser, 0, 1)
    grip = browser.find_element(By.CSS_SELECTOR, ".week-day .mover .grip")
    grip.send_keys(Keys.ARROW_RIGHT)
    at(browser, 1, 1)
    expect(browser, "Moved, and kept there.")
    # Tuesday has no minutes at all
    expect(browser, "no minutes")
    wait_until(browser, "document.querySelector('.week-day[data-on] .week-block.kept') !== null")
    # the focus goes with the block, so that the next key moves it on: onto the day that has one
    # already
    wait_until(
        browser,
        "document.activeElement.closest('.week-day') === document.querySelectorAll('.week-day')[1]",
    )
    browser.switch_to.active_element.send_keys(Keys.ARROW_RIGHT)
    at(browser, 2, 2)
    expect(browser, "twice on one day")
    assert problems(browser) == []
    # by hand back to Monday
    block = browser.find_element(By.CSS_SELECTOR, ".week-block.kept .mover .grip")
    browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", block)
    distance = browser.execute_script(
        "const d = document.querySelectorAll('.week-day');"
        "return d[0].getBoundingClientRect().left - d[2].getBoundingClientRect().left"
    )
    steps = ActionChains(browser).click_and_hold(block).move_by_offset(int(distance / 2), -20)
    steps.move_by_offset(int(distance / 2), -20).release().perform()
    at(browser, 0, 1)
    wait_until(browser, "!document.body.innerText.includes('twice on one day')")
    browser.find_element(By.CSS_SELECTOR, "[aria-label^='Keep Gate'][aria-pressed='true']").click()
    expect(browser, "Free to be moved by the planner.")
    assert not Week.objects.get().blocks.filter(locked=True).exists()


def test_a_week_on_a_phone_and_one_that_cannot_be(club, browser, live_server):
    planned(club, (0, 3, "home"), (3, 60, "club"))
    sign_in(browser, live_server, club.coach)
    phone(browser)
    browser.get(f"{live_server.url}/players/{club.player.pk}/week/")
    ready(browser)
    expect(browser, "Found no place")
    expect(browser, "1 of 3 a week, because the minutes do not suffice.")
    expect(browser, "1 more minutes on Monday would do.")
    assert sideways(browser) <= 0
    assert problems(browser) == []
    click(browser, "A sick week")
    expect(browser, "Planned without those days.")
    wait_until(browser, "document.querySelectorAll('.week-block').length === 0")
    assert Week.objects.get().skipped == tuple(range(7))


def test_what_changed_after_publishing_is_told(club, browser, live_server):
    planned(club, *((n, 20, "home") for n in range(7)))
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/{club.player.pk}/week/")
    click(browser, "Publish")
    expect(browser, "have it now")
    ready(browser)
    browser.find_element(By.CSS_SELECTOR, "[aria-label^='Remove Gate']").click()
    expect(browser, "the player does not know it yet")
    click(browser, "Publish the changes")
    expect(browser, "have it now")
    # the first of three on Monday, Wednesday, Friday was taken away: the third name is the one
    # that is gone
    assert Week.objects.get().told[0].lines[-1] == "No more: Gate on Friday"
    browser.get(f"{live_server.url}/card/{club.token}/")
    expect(browser, "Your week has changed")
    assert problems(browser) == []


def test_a_roster_with_faults_is_mended_and_brought_in(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/")
    click(browser, "Import players")
    click(browser, "Or paste it")
    rows = (
        "name,squad,birth_month,favourite\nRobin Vale,Under 12,2014-13,blue\nSam Reed,Under "
        "12,2014-02,\n"
    )
    browser.find_element(By.NAME, "text").send_keys(rows)
    click(browser, "Preview")
    expect(browser, "1 cell cannot be right")
    expect(browser, "is no month of the calendar")
    assert "favourite" in page(browser)
    assert problems(browser) == []
    assert Player.objects.count() == 1
    field = browser.find_element(By.CSS_SELECTOR, "#text")
    assert "2014-13" in field.get_attribute("value")
    browser.execute_script(
        "arguments[0].value = arguments[0].value.replace('2014-13', '2014-03')", field
    )
    click(browser, "Preview")
    expect(browser, "What it would do")
    assert Player.objects.count() == 1
    click(browser, "Import them")
    expect(browser, "2 new, 0 changed, 0 were the same already.")
    assert Player.objects.get(name="Robin Vale").birth_month == date(2014, 3, 1)


def tick(driver, name, label):
    """The box of somebody."""
    box = f"//label[.//input[@name='{name}']][normalize-space(.)='{label}']"
    found = driver.find_element(By.XPATH, box)
    driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", found)
    found.click()


def test_stations_with_a_late_arrival(club, browser, live_server):
    for name in ("Ann", "Bo", "Cy", "Dee"):
        Player.objects.create(club=club.club, name=name, joined_on=timezone.localdate())
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/weeks/")
    click(browser, "Stations for a group")
    ready(browser)
    hands = Hands(browser)
    hands.fill("title", "Tuesday")
    Select(browser.find_element(By.NAME, "station-0-name")).select_by_visible_text("Push pass")
    hands.click("Others, by name")
    for name in ("Ann", "Bo", "Cy"):
        tick(browser, "people", name)
    assert problems(browser) == []
    hands.click("Make the rotation")
    expect(browser, "Against one queue")
    wait_until(browser, "document.querySelector('.run-title').innerText === 'Slot 1 of 3'")
    assert problems(browser) == []
    # who is where follows the clock: in a change it says where to go
    shown = (
        "[...document.querySelectorAll('.where')].filter((one) => one.offsetParent).map((one) => "
        "one.innerText)"
    )
    first = browser.execute_script(f"return {shown}")
    click(browser, "Next")
    expect(browser, "go there now")
    then = browser.execute_script(f"return {shown}")
    assert len(first) == len(then) == 1
    assert first != then
    before = [
        cell.text for cell in browser.find_elements(By.CSS_SELECTOR, "tbody tr:first-child td")
    ]
    tick(browser, "people", "Dee")
    Select(browser.find_element(By.ID, "slot")).select_by_value("2")
    click(browser, "Plan the rest anew")
    expect(browser, "what was run stays as it was")
    expect(browser, "Dee")
    cells = [
        cell.text for cell in browser.find_elements(By.CSS_SELECTOR, "tbody tr:first-child td")
    ]
    assert cells[0] == before[0].splitlines()[0]
    assert len(cells) == 4
    wait_until(browser, "document.querySelector('.run-title').innerText === 'Slot 2 of 3'")
    phone(browser)
    assert sideways(browser) <= 0, browser.execute_script(
        "return [...document.querySelectorAll('*')].filter(e => e.getBoundingClientRect().right > "
        "391)"
        ".map(e => e.tagName + '.' + e.className).slice(0, 9)"
    )
