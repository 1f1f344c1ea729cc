"""A rung that is set up in its own way; what is prescribed, changed while it runs."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.prescriptions.models import Prescription
from tests.browser.driver import wait_until
from tests.browser.hands import click, expect, page, phone, problems, ready, sideways, sign_in
from tests.browser.test_builder import fill
from tests.make import current, put_on

PLAN = {
    "units": "m",
    "markers": [{"id": "A", "x": 0, "y": 0}, {"id": "B", "x": 0, "y": 4}],
    "legs": [{"from": "A", "to": "B", "way": "run", "do": ""}],
    "zones": [],
    "paths": [],
    "margin": 0.5,
}


def test_a_rung_is_set_up_in_its_own_way_and_the_card_shows_it(club, browser, live_server):
    Drill.objects.filter(pk=club.drill.pk).update(plan=PLAN)
    stay = current(put_on(club))
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/")
    ready(browser)
    browser.find_elements(By.PARTIAL_LINK_TEXT, "as the drill has it")[0].click()
    ready(browser)
    away = browser.find_element(By.CSS_SELECTOR, "[aria-label='y of marker 2']")
    away.send_keys(Keys.CONTROL + "a")
    away.send_keys("6" + Keys.TAB)
    wait_until(browser, "document.querySelector('.plan-length')?.textContent.startsWith('6')")
    click(browser, "Save the plan")
    expect(browser, "Its own floor plan")
    assert page(browser).count("as the drill has it") == 2
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/")
    ready(browser)
    assert browser.execute_script(
        "return document.querySelector('.plan-length').textContent"
    ).startswith("6")
    browser.get(f"{live_server.url}/rungs/{stay.rung_id}/plan/")
    ready(browser)
    click(browser, "As the drill has it")
    expect(browser, "is saved")
    assert page(browser).count("as the drill has it") == 3


def test_a_prescription_is_changed_on_a_phone(club, browser, live_server):
    p = put_on(club)
    sign_in(browser, live_server, club.coach)
    phone(browser)
    browser.get(f"{live_server.url}/players/{club.player.pk}/")
    ready(browser)
    browser.find_element(By.CSS_SELECTOR, f"#prescription-{p.pk} a[href$='/change/']").click()
    ready(browser)
    fill(browser, "per_week", "2")
    expect(browser, "8\u00a0minutes a week")
    click(browser, "Dose, target, rule")
    fill(browser, "makes", "6")
    fill(browser, "of", "10")
    assert problems(browser) == []
    assert sideways(browser) <= 0
    click(browser, "Save")
    expect(browser, "goes on by the new terms")
    expect(browser, "2 a week")
    expect(browser, "6 of 10")
    assert Prescription.objects.get(pk=p.pk).per_week == 2
