"""The card with the network really cut: what was counted is kept, sent once, and never lost."""

from time import monotonic, sleep

from selenium.webdriver.common.by import By

from drill_ladder.apps.people.players.links import renew_link
from drill_ladder.apps.practice.models import Session, SetRow
from tests.browser.driver import wait_until
from tests.browser.hands import choose, click, expect, kept, long_page, page, ready, touch_key
from tests.make import current


def stored(times=1):
    """Wait until so many sessions have arrived, and then what was counted in them."""
    end = monotonic() + 10
    while Session.objects.count() < times and monotonic() < end:
        sleep(0.1)
    rows = SetRow.objects.order_by("session__recorded_at", "order")
    return [(row.makes, row.attempts) for row in rows]


def count_all(browser):
    """Ten in each of two lanes."""
    for _ in range(20):
        touch_key(browser, ".pad-good")
    choose(browser, "hurts", "no")


def test_without_a_network_the_card_opens_counts_and_sends_later(club, browser, card, network):
    """From the first visit on: the block was never opened before the network went."""
    network.cut = True
    browser.get(card)
    expect(browser, "Ida Marlow")
    long_page(browser, "Gate 1")
    ready(browser)
    expect(browser, "Strokes")
    count_all(browser)
    click(browser, "Send to my coach")
    wait_until(browser, f"location.href === '{card}'")
    expect(browser, "1 session waits for a network")
    expect(browser, "Done, and waits to be sent")
    assert "e0-strokes" not in browser.execute_script("return JSON.stringify(localStorage)")
    assert not browser.find_element(By.CSS_SELECTOR, "a.start").is_displayed()
    browser.refresh()
    ready(browser)
    expect(browser, "1 session waits for a network")
    assert not Session.objects.exists()
    network.cut = False
    browser.refresh()
    ready(browser)
    assert stored() == [(10, 10), (10, 10)]
    wait_until(browser, "document.getElementById('unsent').hidden")


def test_twice_without_a_network_is_two_sessions(club, browser, card, network):
    """The kept page has the ids of when it came: each opening is a session of its own."""
    network.cut = True
    address = f"{card}{current(club.player.prescriptions.get()).pk}/"
    for waiting in ("1 session waits", "2 sessions wait"):
        browser.get(address)
        ready(browser)
        count_all(browser)
        click(browser, "Send to my coach")
        wait_until(browser, f"location.href === '{card}'")
        expect(browser, waiting)
    network.cut = False
    browser.refresh()
    ready(browser)
    assert stored(2) == [(10, 10)] * 4
    assert [one.extra for one in Session.objects.order_by("recorded_at")] == [False, True]


def test_strokes_in_mid_set_outlive_a_reload_without_a_network(club, browser, card, network):
    stay = current(club.player.prescriptions.get()).pk
    browser.get(f"{card}{stay}/")
    ready(browser)
    network.cut = True
    for _ in range(4):
        touch_key(browser, ".pad-good")
    kept(browser, "gggg")
    browser.refresh()
    ready(browser)
    expect(browser, "4 good of 4")


def test_an_answer_that_is_lost_makes_no_second_session(club, browser, card, network):
    """The server stores it, and the answer never comes: the same item is sent again."""
    stay = current(club.player.prescriptions.get()).pk
    browser.get(f"{card}{stay}/")
    ready(browser)
    count_all(browser)
    # two: a browser may try once more by itself where a connection ends without an answer
    network.lose = 2
    click(browser, "Send to my coach")
    wait_until(browser, f"location.href === '{card}'")
    assert stored() == [(10, 10), (10, 10)]
    browser.refresh()
    ready(browser)
    wait_until(browser, "document.getElementById('unsent').hidden")
    assert Session.objects.count() == 1


def test_what_the_server_refuses_comes_back_with_its_reason(club, browser, card, network):
    stay = current(club.player.prescriptions.get()).pk
    browser.get(f"{card}{stay}/")
    ready(browser)
    click(browser, "Type the total")
    for name, value in (("e0-makes", "12"), ("e0-attempts", "10")):
        browser.find_element(By.NAME, name).send_keys(value)
    choose(browser, "hurts", "no")
    click(browser, "Send to my coach")
    expect(browser, "12 good ones out of 10 cannot be.")
    assert browser.find_element(By.NAME, "e0-makes").get_attribute("value") == "12"
    browser.get(card)
    ready(browser)
    assert "waits for a network" not in page(browser)


def test_a_link_that_was_closed_shows_nothing_even_from_here(club, browser, card, network):
    renew_link(member=club.coach, player=club.player)
    browser.get(card)
    expect(browser, "Not here")
    network.cut = True
    browser.get(card)
    expect(browser, "No network just now")
    assert "Ida" not in page(browser)
