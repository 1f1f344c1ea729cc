"""The first hour, counted: from a program without a club to a card that is open on a phone."""

import time

from selenium.webdriver.common.by import By

from drill_ladder.apps.people.club.founding import new_code
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.models import Prescription
from tests.browser.driver import set_size
from tests.browser.hands import expect, phone, ready
from tests.browser.test_planning import Hands

MOST_ACTIONS, MOST_S = 30, 180
NEW = {
    "club": "Gull Cove",
    "name": "Ruth Calder",
    "email": "ruth@gull-cove.example",
    "password": "a long walk on the pier",
}


def test_from_no_club_to_a_card_on_a_phone(browser, live_server, transactional_db):
    """A field that is filled in, or a thing that is touched, is one action."""
    set_size(browser, 1280, 800)
    begun, hands = time.monotonic(), Hands(browser)
    browser.get(f"{live_server.url}/")
    for name, value in {"code": new_code(), **NEW}.items():
        hands.fill(name, value)
    hands.click("Found the club")
    hands.click("Overview")
    expect(browser, "First steps")
    hands.click("Starter ladders")
    hands.click("Take it")
    hands.click("Overview")
    hands.click("Add a player")
    hands.fill("name", "Ida Marlow")
    hands.click("Save and prescribe")
    hands.tap("a.whole")
    hands.click("Put on this ladder")
    expect(browser, "The home card shows it")
    hands.click("Overview")
    hands.click("The card")
    expect(browser, "Show it as a QR code")
    hands.click("Show it as a QR code")
    ida = Player.objects.get(name="Ida Marlow")
    assert Prescription.objects.filter(player=ida).count() == 1
    address = browser.find_element(By.ID, "card-link").get_attribute("value")
    # a phone that has the code's address, and no account
    browser.delete_all_cookies()
    phone(browser)
    browser.get(live_server.url + "/card/" + address.split("/card/")[1])
    ready(browser)
    expect(browser, "Ida Marlow")
    expect(browser, "Start")
    assert hands.actions <= MOST_ACTIONS
    assert time.monotonic() - begun < MOST_S
