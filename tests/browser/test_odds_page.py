"""Trying a rule and taking it."""

from selenium.webdriver.common.by import By

from drill_ladder.apps.library.models import Ladder
from tests.browser.driver import wait_until
from tests.browser.hands import choose, click, expect, phone, problems, ready, sideways, sign_in


def test_a_rule_is_tried_and_taken(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/")
    click(browser, "What will it do?")
    ready(browser)
    expect(browser, "Climbs after two passing sessions in a row.")
    assert not browser.find_element(By.NAME, "of").is_displayed()
    before = browser.execute_script("return window.scrollY")
    choose(browser, "school", "window")
    expect(browser, "Climbs when two of the last three sessions pass.")
    field = browser.find_element(By.NAME, "of")
    field.clear()
    field.send_keys("4")
    expect(browser, "Climbs when two of the last four sessions pass.")
    not_ready = browser.find_element(By.NAME, "not_ready")
    not_ready.clear()
    not_ready.send_keys("99")
    expect(browser, "has to be a lower rate")
    assert not_ready.get_attribute("value") == "99"
    not_ready.clear()
    not_ready.send_keys("50")
    wait_until(
        browser,
        "document.querySelector('svg.odds-chart title')?.textContent.includes('a player at 50')",
    )
    assert browser.execute_script("return window.scrollY") >= before
    assert problems(browser) == []
    click(browser, "Use this rule")
    expect(browser, "has its new rule")
    assert Ladder.objects.get(pk=club.ladder.pk).rule.school.of == 4


def test_the_rule_is_tried_beside_the_rungs(club, browser, live_server):
    """The sentence is edited in place, every rung's odds follow, and nothing is stored before it is
    taken.
    """
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/")
    ready(browser)
    before = [one.text for one in browser.find_elements(By.CLASS_NAME, "rung-risks")]
    assert len(before) == 3
    assert not browser.find_elements(By.CSS_SELECTOR, "button[form=rule]")
    choose(browser, "school", "one_pass")
    expect(browser, "Now: Climbs after two passing sessions in a row.")
    assert [one.text for one in browser.find_elements(By.CLASS_NAME, "rung-risks")] != before
    choose(browser, "school", "window")
    expect(browser, "Climbs when two of the last three sessions pass.")
    assert problems(browser) == []
    assert Ladder.objects.get(pk=club.ladder.pk).rule.school.name == "in_a_row"
    click(browser, "Use this rule")
    expect(browser, "has its new rule")
    assert Ladder.objects.get(pk=club.ladder.pk).rule.school.name == "window"
    phone(browser)
    ready(browser)
    assert sideways(browser) <= 0
    assert problems(browser) == []


def test_what_the_finder_found_is_taken_by_one_button(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/odds/2/")
    ready(browser)
    browser.find_element(By.CSS_SELECTOR, "button[name=found][value=in_a_row]").click()
    expect(browser, "Rung 2 now asks")
    rung = club.ladder.rungs.get(position=2)
    assert rung.target.of == rung.dose.reps != 10
    assert rung.rule is None


def test_the_odds_on_a_phone(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    phone(browser)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/odds/2/")
    ready(browser)
    assert problems(browser) == []
    assert sideways(browser) <= 0
