"""A club from its first minute: founded, somebody invited who joins on a phone, a family told, a
player put aside and erased. All its pages without a fault of access.
"""

import pytest
from selenium.webdriver.common.by import By

from drill_ladder.apps.messages.models import Message
from drill_ladder.apps.people.club.founding import new_code
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.records.models import Receipt
from tests.browser.driver import close_browser, open_browser, set_size, wait_until
from tests.browser.hands import click, expect, page, phone, problems, sideways, sign_in

LONG = "quite a long password"


def fill(driver, **values):
    for name, value in values.items():
        field = driver.find_element(By.NAME, name)
        field.clear()
        field.send_keys(value)


def test_founded_invited_joined(transactional_db, browser, live_server):
    set_size(browser)
    browser.get(live_server.url + "/")
    expect(browser, "A new club")
    assert problems(browser) == []
    fill(
        browser,
        code=new_code(),
        club="Harbour",
        name="Olive",
        email="olive@example.org",
        password=LONG,
    )
    click(browser, "Found the club")
    expect(browser, "Harbour is there, and it is yours")
    fill(browser.find_element(By.XPATH, "//form[contains(., 'Add')]"), name="Juniors")
    click(browser, "Add")
    expect(browser, "Juniors is saved")
    browser.get(live_server.url + "/club/people/")
    fill(browser, name="Nia", email="nia@example.org")
    click(browser, "Invite")
    expect(browser, "Nia is invited")
    link = browser.find_element(By.CSS_SELECTOR, "code.secret").text
    other = open_browser()
    try:
        phone(other)
        other.get(link)
        expect(other, "You are invited as coach")
        assert sideways(other) <= 0
        fill(other, name="Nia", password=LONG)
        click(other, "Join")
        expect(other, "Welcome to Harbour")
        assert sideways(other) <= 0
    finally:
        close_browser(other)
    assert Membership.objects.get(user__email="nia@example.org").role == "coach"


@pytest.fixture
def owner(club):
    Membership.objects.filter(pk=club.coach.pk).update(role="owner")
    club.coach.refresh_from_db()
    club.player.guardians.update(email="family@example.org")
    return club.coach


def test_a_family_is_written_to_and_a_player_erased(club, owner, browser, live_server):
    set_size(browser)
    sign_in(browser, live_server, owner)
    who = f"{live_server.url}/players/{club.player.pk}/"
    browser.get(f"{who}family/")
    click(browser, "Mail the link to the family")
    expect(browser, "family@example.org")
    browser.get(f"{live_server.url}/club/outbox/")
    browser.find_element(By.CSS_SELECTOR, ".lines a.whole").click()
    expect(browser, "What became of it")
    browser.switch_to.frame(browser.find_element(By.CSS_SELECTOR, "iframe.mail"))
    wait_until(browser, "document.body && document.body.innerText.includes('card of Ida')")
    browser.switch_to.default_content()
    browser.get(f"{who}records/")
    click(browser, "Put Ida Marlow aside")
    expect(browser, "is archived")
    browser.get(f"{who}records/")
    fill(browser, name="Ida Marlow")
    click(browser, "Erase for good")
    expect(browser, "Erased.")
    assert "Ida" not in page(browser)
    assert Receipt.objects.count() == 1
    assert not Player.objects.filter(name__icontains="Ida").exists()
    assert not Message.objects.exists()
