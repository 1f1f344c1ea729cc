"""Something hurts, in the hands of a child, a hurried coach and on a device without a network."""

import pytest
from django.utils import timezone
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from drill_ladder.apps.practice.models import HurtReport, Session, Stop
from drill_ladder.apps.practice.stops.services import end_stop
from tests.browser.driver import set_size, wait_until
from tests.browser.hands import (
    choose,
    click,
    expect,
    long_page,
    page,
    phone,
    problems,
    ready,
    sideways,
    sign_in,
    strokes,
)
from tests.make import current, drill, ladder, put_on

SEEN = "Your coach will see this:"


@pytest.fixture
def card(club, browser, network):
    """The card's address on a phone, with one block on it; a network that can be cut."""
    put_on(club)
    phone(browser)
    return f"http://127.0.0.1:{network.port}/card/{club.token}/"


def words():
    return list(HurtReport.objects.values_list("words", flat=True))


def clear(club):
    for stop in Stop.objects.open():
        end_stop(member=club.coach, stop=stop, cleared_by="physio", on=timezone.localdate())


def hurts(browser, where):
    choose(browser, "hurts", "yes")
    field = browser.find_element(By.NAME, "hurt_where")
    field.clear()
    field.send_keys(where)


def open_block(browser, card):
    browser.get(card)
    long_page(browser, "Gate 1")
    ready(browser)


def test_twice_on_one_day(club, browser, card):
    """(a) told, cleared by the coach, told again from the draft of the same page."""
    open_block(browser, card)
    hurts(browser, "ankle")
    click(browser, "Send to my coach")
    expect(browser, SEEN)
    clear(club)
    open_block(browser, card)
    assert not browser.find_element(By.CSS_SELECTOR, "[name=hurts][value=yes]").is_selected()
    hurts(browser, "wrist")
    click(browser, "Send to my coach")
    expect(browser, "wrist")
    assert words() == ["ankle", "wrist"]
    assert Stop.objects.open().count() == 1


def test_the_answer_got_lost(club, browser, card):
    """(b) the page still holds what was sent; now it hurts, and it is sent once more."""
    open_block(browser, card)
    strokes(browser, "g" * 20)
    choose(browser, "hurts", "no")
    click(browser, "Send to my coach")
    expect(browser, "What comes next")
    sent = Session.objects.get().pk
    open_block(browser, card)
    strokes(browser, "g" * 20)
    browser.execute_script(f"document.querySelector('[name=session_id]').value = '{sent}'")
    hurts(browser, "left knee")
    click(browser, "Send to my coach")
    expect(browser, SEEN)
    assert (words(), Session.objects.count()) == (["left knee"], 1)


def test_more_is_told_while_the_stop_is_open(browser, card):
    """(c) and everything told is on the page, with nothing cut off on a phone."""
    browser.get(card)
    for told, opener, button in (
        ("ankle", "Something hurts", "Stop and tell my coach"),
        ("and my head", "Something else hurts", "Add it"),
    ):
        click(browser, opener)
        browser.find_element(By.NAME, "what").send_keys(told)
        click(browser, button)
        expect(browser, f"“{told}”")
    assert words() == ["ankle", "and my head"]
    assert "“ankle”" in page(browser)
    assert sideways(browser) == 0
    assert problems(browser) == []


def test_without_the_adults_tick(club, browser, live_server):
    """(d) the session comes back, the report has arrived; with the tick it is work done before it
    hurt.
    """
    club.player.home_adult = True
    club.player.save()
    clears = ladder(club.club, drill(club.club, "Clear", caution="home_with_adult"), "Clears")
    stay = current(put_on(club, ladder=clears, place="home"))
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/")
    strokes(browser, "ggg")
    hurts(browser, "shoulder")
    click(browser, "Send to my coach")
    expect(browser, "An adult has to be there")
    assert SEEN in page(browser)
    assert words() == ["shoulder"]
    browser.find_element(By.NAME, "adult").find_element(By.XPATH, "./..").click()
    click(browser, "Send to my coach")
    expect(browser, "3 of 3")
    assert (words(), Session.objects.count()) == (["shoulder"], 1)


def test_with_a_count_that_cannot_be(browser, card):
    """(e) eleven of ten, and it hurts."""
    open_block(browser, card)
    click(browser, "Type the total")
    browser.find_element(By.NAME, "e0-makes").send_keys("11")
    browser.find_element(By.NAME, "e0-attempts").send_keys("10")
    hurts(browser, "left knee")
    click(browser, "Send to my coach")
    expect(browser, "11 good ones out of 10 cannot be.")
    assert SEEN in page(browser)
    assert words() == ["left knee"]


def test_words_that_no_field_was_made_for(club, browser, live_server, card):
    """(f) far too long, with line breaks and half an emoji: cut and cleaned, for the player as for
    the coach.
    """
    long = "It began when I landed and " * 20
    browser.get(card)
    click(browser, "Something hurts")
    field = browser.find_element(By.NAME, "what")
    browser.execute_script(
        "arguments[0].removeAttribute('maxlength'); arguments[0].value = arguments[1]", field, long
    )
    click(browser, "Stop and tell my coach")
    expect(browser, SEEN)
    set_size(browser)
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/{club.player.pk}/")
    click(browser, "Something else hurts")
    field = browser.find_element(By.NAME, "what")
    browser.execute_script("arguments[0].value = 'head \\u0000\\ud83d too'", field)
    click(browser, "Add it")
    expect(browser, "head")
    assert words()[0].startswith("It began when I landed")
    assert words()[0].endswith("…")
    assert "\x00" not in words()[1]


def test_a_page_of_five_sets_of_140_trials(club, browser, live_server):
    """(g) it fits into one form now, report and all."""
    sprint = drill(club.club, "Sprint", measure={"kind": "time", "score_by": "best"}, lanes=[])
    timed = ladder(
        club.club,
        sprint,
        "Sprints",
        dose={"sets": 5, "reps": 140},
        target={"value": 5.0},
        floor=9.0,
    )
    stay = current(put_on(club, ladder=timed, place="home"))
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/")
    ready(browser)
    fill = (
        "document.querySelectorAll('[name$=-seconds]').forEach((field) => { field.value = '5.5'; })"
    )
    browser.execute_script(fill)
    hurts(browser, "calf")
    click(browser, "Send to my coach")
    expect(browser, SEEN)
    assert words() == ["calf"]
    assert Session.objects.get().sets.count() == 200


def test_a_device_without_a_network_says_so_and_tells_it_later(club, browser, card, network):
    """In large words, with whom to ring; kept, told again, and never twice."""
    open_block(browser, card)
    strokes(browser, "gg")
    hurts(browser, "left knee")
    network.cut = True
    click(browser, "Send to my coach")
    expect(browser, "This has not reached your coach")
    shown = page(browser)
    assert "Stop now." in shown
    assert "left knee" in shown
    assert "Marlow family, 1" in shown
    assert words() == []
    click(browser, "Try again now")
    expect(browser, "This has not reached your coach")
    network.cut = False
    browser.execute_script("window.dispatchEvent(new Event('online'))")
    expect(browser, SEEN)
    assert words() == ["left knee"]
    clear(club)
    open_block(browser, card)
    # what was counted is still here; what hurt was told, and is not told again
    expect(browser, "2 good of 2")
    assert not browser.find_element(By.CSS_SELECTOR, "[name=hurts][value=yes]").is_selected()
    assert words() == ["left knee"]
    browser.get_log("browser")  # the browser complains of the requests that could not go out


def test_a_closed_page_tells_it_when_it_is_opened_again(browser, card, network):
    browser.get(card)
    ready(browser)
    click(browser, "Something hurts")
    browser.find_element(By.NAME, "what").send_keys("wrist" + Keys.TAB)
    network.cut = True
    click(browser, "Stop and tell my coach")
    expect(browser, "This has not reached your coach")
    network.cut = False
    browser.get(card)
    expect(browser, SEEN)
    assert words() == ["wrist"]
    browser.get_log("browser")


def test_two_reports_without_a_network_both_arrive(browser, card, network):
    """The second does not take the place of the first, on a device that keeps nothing either."""
    browser.get(card)
    ready(browser)
    browser.execute_script("Storage.prototype.setItem = () => { throw new Error('full'); }")
    click(browser, "Something hurts")
    network.cut = True
    for told in ("ankle", "head"):
        field = browser.find_element(By.NAME, "what")
        field.clear()
        field.send_keys(told)
        click(browser, "Stop and tell my coach")
        expect(browser, told)
        click(browser, "Back to the page")
    network.cut = False
    browser.execute_script("window.dispatchEvent(new Event('online'))")
    expect(browser, SEEN)
    assert words() == ["ankle", "head"]
    browser.get_log("browser")


def test_whoever_was_signed_out_is_told_that_it_did_not_arrive(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/{club.player.pk}/")
    ready(browser)
    click(browser, "Stop all drills")
    browser.find_element(By.NAME, "what").send_keys("wrist")
    session = browser.get_cookie("sessionid")
    browser.delete_cookie("sessionid")
    browser.find_element(By.CSS_SELECTOR, ".button.stop").click()
    expect(browser, "This has not reached your coach")
    browser.add_cookie(session)
    click(browser, "Try again now")
    expect(browser, "Resting since")
    assert words() == ["wrist"]
    browser.get_log("browser")


def test_from_desk_review_and_floor(club, browser, live_server):
    """A coach or an assistant says who is hurt from wherever they are."""
    sign_in(browser, live_server, club.assistant)
    click(browser, "Somebody is hurt")
    browser.find_element(By.NAME, "what").send_keys("fell on the wrist")
    browser.find_element(By.NAME, "player").send_keys("Ida")
    click(browser, "Stop all drills")
    expect(browser, "Ida Marlow rests")
    wait_until(browser, "document.body.innerText.includes('Mila')")
    assert words() == ["fell on the wrist"]
    assert HurtReport.objects.get().by == club.assistant.user
