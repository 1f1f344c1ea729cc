"""Rungs moved by hand and keys, a conflict, a file with faults, the rest of the floor plan, the
timer.
"""

import json
import time

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.apps.library.rules.services import take_rule
from drill_ladder.core.judging import InARow, Rule
from drill_ladder.core.odds import MakesSession, odds
from tests.browser.driver import wait_until
from tests.browser.hands import click, expect, page, phone, problems, ready, sideways, sign_in
from tests.browser.test_builder import fill
from tests.make import put_on

TITLES = "[...document.querySelectorAll('.builder [name$=-title]')].map(e => e.value).join()"


def test_rungs_are_moved_by_keys_and_by_hand(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/edit/")
    ready(browser)
    wait_until(browser, f"{TITLES} === 'Gate 1,Gate 2,Gate 3'")
    browser.find_element(By.CSS_SELECTOR, ".rung-handle[data-row='0']").send_keys(Keys.ARROW_UP)
    wait_until(browser, f"{TITLES} === 'Gate 2,Gate 1,Gate 3'")
    # the handle that was moved keeps the focus, so that the next press moves it on
    wait_until(browser, "document.activeElement.dataset.row === '1'")
    browser.switch_to.active_element.send_keys(Keys.ARROW_UP)
    wait_until(browser, f"{TITLES} === 'Gate 2,Gate 3,Gate 1'")
    handle = browser.find_element(By.CSS_SELECTOR, ".rung-handle[data-row='2']")
    browser.execute_script("arguments[0].scrollIntoView({block: 'start'})", handle)
    height = browser.execute_script("return document.querySelector('.builder > li').offsetHeight")
    ActionChains(browser).click_and_hold(handle).move_by_offset(
        0, int(height * 0.4)
    ).move_by_offset(0, int(height * 0.5)).release().perform()
    wait_until(browser, f"{TITLES} === 'Gate 2,Gate 1,Gate 3'")
    assert problems(browser) == []
    click(browser, "Save the ladder")
    expect(browser, "is saved")
    assert [r.title for r in club.ladder.rungs.all()] == ["Gate 2", "Gate 1", "Gate 3"]


def test_odds_follow_the_typing(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/edit/")
    ready(browser)
    notes = "document.querySelectorAll('.builder > li')[0].querySelector('.rung-notes').innerText"
    session, spread = MakesSession(10, 8, 2, True), club.club.day_spread
    exact = odds(session, Rule(InARow(2)), [[0.6, 0.6]], 6, spread)[0].climb_by[-1]
    said = f"Within six sessions: {exact * 100:.0f}\u00a0%"
    wait_until(browser, f"{notes}.includes('{said} of those at a true 60')")
    fill(browser, "rung-0-makes", "5")
    before = browser.execute_script("return window.scrollY")
    wait_until(browser, f"!{notes}.includes('{said}')")
    fill(browser, "rung-0-makes", "10")
    wait_until(browser, f"{notes}.includes('passes here in')")
    assert browser.execute_script("return window.scrollY") == before
    assert browser.switch_to.active_element.get_attribute("name") == "rung-0-makes"


def test_a_conflict_shows_both_sides(club, browser, live_server):
    put_on(club)
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/edit/")
    ready(browser)
    # meanwhile the other coach
    other = Ladder.objects.get(pk=club.ladder.pk)
    other.purpose = "Theirs"
    other.save()
    take_rule(member=club.coach, ladder=other, rule=Rule(InARow(1)), revision=other.revision)
    fill(browser, "purpose", "Mine")
    click(browser, "Save the ladder")
    expect(browser, "changed this while you had it open")
    row = browser.find_element(By.XPATH, "//tr[th[normalize-space(.)='What it is for']]").text
    assert "Theirs" in row
    assert "Mine" in row
    assert browser.find_element(By.NAME, "purpose").get_attribute("value") == "Mine"
    assert problems(browser) == []
    assert Ladder.objects.get(pk=club.ladder.pk).purpose == "Theirs"
    click(browser, "Save the ladder")
    expect(browser, "Who stands where")
    kept = Ladder.objects.get(pk=club.ladder.pk)
    assert (kept.purpose, kept.rule.school.name) == ("Mine", "one_pass")
    # and the player who stands on it is offered the new rule, and keeps the old one until then
    expect(
        browser,
        "rule: Climbs after two passing sessions in a row. → Climbs after one passing session.",
    )
    assert problems(browser) == []
    click(browser, "Give the chosen ones the new terms")
    expect(browser, "One player goes on by the present terms")


def test_a_file_with_three_faults_stores_nothing(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    phone(browser)
    browser.get(f"{live_server.url}/library/in/")
    drills = [
        {"title": "One", "measure": {"kind": "makes"}, "caution": "home_alone", "faults": ["late"]},
        {"title": "One", "measure": {"kind": "points"}, "caution": "anywhere"},
    ]
    click(browser, "Or paste it")
    text = json.dumps({"format": "drill-ladder/1", "drills": drills})
    browser.find_element(By.NAME, "text").send_keys(text)
    click(browser, "Preview")
    expect(browser, "3 things are wrong")
    for line in (
        "$.drills[1].title: is given twice",
        "$.drills[1].measure.max",
        "$.drills[1].caution",
    ):
        assert line in page(browser)
    assert browser.find_element(By.NAME, "text").get_attribute("value") == text
    assert sideways(browser) <= 0
    assert problems(browser) == []
    assert Drill.objects.count() == 1
    mended = [
        {**drills[0]},
        {**drills[1], "title": "Two", "measure": {"kind": "streak"}, "caution": "home_alone"},
    ]
    fill(browser, "text", json.dumps({"format": "drill-ladder/1", "drills": mended}))
    click(browser, "Preview")
    expect(browser, "What it would do")
    assert Drill.objects.count() == 1
    click(browser, "Import it")
    expect(browser, "2 imported")
    assert Drill.objects.count() == 3


def test_balls_zones_and_ends_of_legs(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/drills/{club.drill.pk}/plan/")
    ready(browser)
    for what in ("Marker", "Leg", "Ball or feed", "Zone"):
        click(browser, what)
        # what is below moves down with every line that comes
        wait_until(browser, "document.querySelectorAll('.htmx-request').length === 0")
        time.sleep(0.3)
    wait_until(browser, "document.querySelectorAll('.plan-zone').length === 1")
    end = browser.find_element(By.CSS_SELECTOR, "[aria-label='At the end of leg 1']")
    end.send_keys("touch with left" + Keys.TAB)
    width = browser.find_element(By.CSS_SELECTOR, "[aria-label='Width of zone 1']")
    width.send_keys(Keys.CONTROL + "a")
    width.send_keys("2" + Keys.TAB)
    wait_until(browser, "document.querySelector(\"[aria-label='Width of zone 1']\").value === '2'")
    assert problems(browser) == []
    click(browser, "Save the plan")
    expect(browser, "is saved")
    plan = Drill.objects.get(pk=club.drill.pk).plan
    assert plan.legs[0].do == "touch with left"
    assert plan.ways[0].kind == "ball"
    xs = [point[0] for point in plan.zones[0].points]
    assert max(xs) - min(xs) == 2


def test_the_timer_runs_calls_and_ends(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    asked = "sets=2&work_s=2&rest_s=1&mode=serial&cues=red,blue&every_s=0.5&leave=0&seed=1"
    browser.get(f"{live_server.url}/drills/{club.drill.pk}/run/?{asked}")
    ready(browser)
    assert problems(browser) == []
    wait_until(browser, "document.querySelector('.run-clock').innerText === '0:02'")
    click(browser, "Start")
    wait_until(browser, "['red', 'blue'].includes(document.querySelector('.run-call').innerText)")
    click(browser, "Pause")
    click(browser, "Next part")
    wait_until(browser, "document.querySelector('.run-title').innerText === 'Rest'")
    click(browser, "Start" if "Start" in page(browser) else "Go on")
    wait_until(browser, "document.querySelector('.run-title').innerText === 'Done'")
    expect(browser, "Again")
