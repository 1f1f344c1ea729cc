"""Nothing typed is lost: signed out with a form open, two tabs on one block, a bar on a phone."""

from django.contrib.sessions.models import Session as SignedIn
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from drill_ladder.apps.library.models import Drill
from tests.browser.driver import wait_until
from tests.browser.hands import click, expect, kept, page, phone, ready, sign_in
from tests.make import PASSWORD, current, put_on


def sign_in_again(browser, member):
    browser.find_element(By.NAME, "login").send_keys(member.user.email)
    browser.find_element(By.NAME, "password").send_keys(PASSWORD + Keys.ENTER)


def test_a_form_comes_back_after_signing_in_again(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    path = f"/drills/{club.drill.pk}/edit/"
    browser.get(live_server.url + path)
    ready(browser)
    browser.find_element(By.NAME, "purpose").send_keys("Typed before the session ended")
    SignedIn.objects.all().delete()
    click(browser, "Save the drill")
    wait_until(browser, "location.pathname === '/accounts/login/'")
    sign_in_again(browser, club.coach)
    wait_until(browser, f"location.pathname === '{path}'")
    expect(browser, "You were signed out before this was saved")
    assert Drill.objects.get(pk=club.drill.pk).purpose == ""
    click(browser, "Save it now")
    expect(browser, "is saved")
    assert Drill.objects.get(pk=club.drill.pk).purpose == "Typed before the session ended"
    browser.get(live_server.url + path)
    ready(browser)
    assert "You were signed out" not in page(browser)


def test_what_was_sent_elsewhere_comes_back_to_its_page(club, browser, live_server):
    """A form whose address nobody can open: the sign-in leads back to the page that holds it."""
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/new/")
    ready(browser)
    browser.find_element(By.NAME, "name").send_keys("Rana Voss")
    SignedIn.objects.all().delete()
    browser.find_element(By.NAME, "name").send_keys(Keys.ENTER)
    wait_until(browser, "location.pathname === '/accounts/login/'")
    sign_in_again(browser, club.coach)
    click(browser, "Save it now")
    expect(browser, "Rana Voss")


def test_two_tabs_on_one_block_count_together(club, browser, live_server):
    put_on(club)
    phone(browser)
    address = f"{live_server.url}/card/{club.token}/{current(club.player.prescriptions.get()).pk}/"
    browser.get(address)
    ready(browser)
    click(browser, "Good")
    first = browser.current_window_handle
    browser.switch_to.new_window("tab")
    phone(browser)
    browser.get(address)
    ready(browser)
    expect(browser, "1 of 10")
    click(browser, "Good")
    expect(browser, "2 of 10")
    kept(browser, "gg")
    browser.switch_to.window(first)
    expect(browser, "2 of 10")
    click(browser, "Good")
    expect(browser, "3 of 10")
    strokes = "document.querySelector('[name=e0-strokes]').value"
    assert browser.execute_script(f"return {strokes}") == "ggg"
    for handle in browser.window_handles:
        if handle != first:
            browser.switch_to.window(handle)
            wait_until(browser, f"{strokes} === 'ggg'")
            browser.close()
    browser.switch_to.window(first)


def test_on_a_phone_no_button_lies_under_the_bar_while_counting(club, browser, live_server):
    put_on(club)
    sign_in(browser, live_server, club.coach)
    phone(browser)
    browser.get(f"{live_server.url}/log/{current(club.player.prescriptions.get()).pk}/")
    ready(browser)
    covered = browser.execute_script(
        "const good = document.querySelector('.pad-good');"
        "good.scrollIntoView({block: 'end'});"
        "const at = good.getBoundingClientRect();"
        "const top = document.elementFromPoint(at.left + at.width / 2, at.bottom - 4);"
        "return top !== good && !good.contains(top)"
    )
    assert not covered
