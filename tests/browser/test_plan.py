"""A floor plan from a shape, typed, dragged, mirrored, undone and saved."""

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from drill_ladder.apps.library.models import Drill
from tests.browser.driver import wait_until
from tests.browser.hands import click, expect, phone, problems, ready, sideways, sign_in

XS = "[...document.querySelectorAll('.plan-row.three input:nth-child(2)')].map(e => e.value).join()"


def test_a_floor_plan_is_drawn_and_mirrored(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/drills/{club.drill.pk}/")
    click(browser, "Draw a floor plan")
    ready(browser)
    wait_until(browser, "document.querySelectorAll('.plan-marker').length === 1")
    browser.find_element(By.XPATH, "//summary[normalize-space(.)='T']").click()
    click(browser, "Use it")
    wait_until(browser, "document.querySelectorAll('.plan-marker').length === 4")
    expect(browser, "path 40 m".replace(" m", "\u00a0m"))
    assert problems(browser) == []

    # typing
    y = browser.find_elements(By.CSS_SELECTOR, ".plan-row.three input:nth-child(3)")[1]
    y.send_keys(Keys.CONTROL + "a")
    y.send_keys("8" + Keys.TAB)
    wait_until(browser, "!document.body.innerText.includes('path 40')")
    click(browser, "Undo")
    expect(browser, "path 40\u00a0m")

    # dragging marker D two metres to the right, to the grid
    wait_until(browser, f"{XS} === '0,0,-5,5'")
    marker = browser.find_element(By.CSS_SELECTOR, ".plan-marker[data-marker=D]")
    zoom = browser.execute_script(
        "const s = document.querySelector('.floor-plan');"
        "return s.getBoundingClientRect().width / s.viewBox.baseVal.width"
    )
    step = browser.execute_script(
        "const c = n => Number(document.querySelector(`.plan-marker[data-marker=${n}] "
        "circle`).getAttribute('cx'));"
        "return (c('D') - c('C')) / 10"
    )
    browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", marker)
    ActionChains(browser).move_to_element(marker).click_and_hold().move_by_offset(
        int(2.1 * step * zoom), 0
    ).release().perform()
    wait_until(browser, f"{XS} === '0,0,-5,7'")
    click(browser, "Mirror for left-handers")
    wait_until(browser, f"{XS} === '0,0,5,-7'")
    click(browser, "Save the plan")
    expect(browser, "is saved")
    expect(browser, "Floor plan")
    plan = Drill.objects.get(pk=club.drill.pk).plan
    assert [m.x for m in plan.markers] == [0, 0, 5, -7]


def test_taking_a_marker_away_takes_its_legs(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    phone(browser)
    browser.get(f"{live_server.url}/drills/{club.drill.pk}/plan/")
    ready(browser)
    click(browser, "Marker")
    click(browser, "Marker")
    click(browser, "Leg")
    click(browser, "Leg")
    wait_until(browser, "document.querySelectorAll('.plan-row.legs:not(.head)').length === 2")
    assert sideways(browser) <= 0
    assert problems(browser) == []
    browser.find_element(By.CSS_SELECTOR, "[aria-label='Remove marker 1']").click()
    wait_until(browser, "document.querySelectorAll('.plan-row.legs:not(.head)').length === 0")
    wait_until(browser, "document.querySelectorAll('.plan-marker').length === 2")


def test_units_are_switched_knowingly_and_the_drawing_follows_each_key(club, browser, live_server):
    """Lengths or numbers are kept, as it is said; a decimal comma is a point."""
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/drills/{club.drill.pk}/plan/")
    ready(browser)
    click(browser, "Marker")
    wait_until(browser, "document.querySelectorAll('.plan-marker').length === 2")
    x = browser.find_elements(By.CSS_SELECTOR, ".plan-row.three input:nth-child(2)")[1]
    x.send_keys(Keys.CONTROL + "a")
    x.send_keys("3,5")  # no Tab: it follows each key
    wait_until(browser, "document.body.innerText.includes('4.5\u00a0m wide')")
    assert x.get_attribute("value") == "3,5"
    x.send_keys("x" + Keys.TAB)
    expect(browser, "is no number: 3.5 is kept")
    unit = browser.find_element(By.CSS_SELECTOR, ".unit-select")
    unit.send_keys("feet")
    expect(browser, "The lengths: 3.5 m becomes 11.48 ft")
    assert browser.execute_script(f"return {XS}") == "0,3.5"
    click(browser, "Leave it")
    assert unit.get_attribute("value") == "m"
    unit.send_keys("feet")
    click(browser, "The numbers: 3.5 m becomes 3.5 ft")
    wait_until(browser, "document.body.innerText.includes('4.5\u00a0ft wide')")
    click(browser, "Undo")
    unit.send_keys("yards")
    click(browser, "The lengths")
    wait_until(browser, f"{XS} === '0,3.828'")
    browser.find_element(By.XPATH, "//summary[normalize-space(.)='Two-lane wall']").click()
    click(browser, "Use it")
    wait_until(browser, "document.querySelectorAll('.plan-wall').length === 1")
    assert unit.get_attribute("value") == "yd"  # a shape takes the unit that is chosen
    assert problems(browser) == []
