"""The whole loop: prescribe, do, record, judge, climb."""

from datetime import timedelta
from unittest import mock

from django.utils import timezone
from selenium.webdriver.common.by import By

from drill_ladder.apps.people.models import Player, SecretLink
from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.review.models import Decision
from tests.browser.driver import set_size, wait_until
from tests.browser.hands import (
    choose,
    choose_day,
    click,
    expect,
    long_page,
    page,
    phone,
    ready,
    sign_in,
    sign_in_by_form,
    strokes,
)
from tests.make import put_on


def send(driver):
    choose_day(driver)
    choose(driver, "effort", "6")
    choose(driver, "hurts", "no")
    click(driver, "Send to my coach")
    expect(driver, "What comes next")


def do_the_card(driver, server, token, left, right):
    driver.get(f"{server.url}/card/{token}/")
    long_page(driver, "Gate 1")
    strokes(driver, left + right)
    send(driver)


def test_the_whole_loop(club, browser, live_server):
    sign_in_by_form(browser, live_server, club.coach)
    click(browser, "Players")
    click(browser, "New player")
    browser.find_element(By.NAME, "name").send_keys("Bram Ashdown")
    click(browser, "Save")
    expect(browser, "On no ladder yet")
    click(browser, "Prescribe a ladder")
    click(browser, "Gate")
    click(browser, "Put on this ladder")
    expect(browser, "Rung 1 of 3")
    player = Player.objects.get(name="Bram Ashdown")
    token = SecretLink.objects.get(player=player, opens="card").token

    phone(browser)
    today = timezone.localdate()
    with mock.patch("django.utils.timezone.localdate", return_value=today):
        do_the_card(browser, live_server, token, "gggggg0gmm", "gggggggggg")
    assert "Nearly there" in page(browser)
    assert "Left: 7 of 10" in page(browser)
    assert "Left needs 8" in page(browser)
    # two passing days
    for ahead in (1, 2):
        later = today + timedelta(days=ahead)
        with mock.patch("django.utils.timezone.localdate", return_value=later):
            do_the_card(browser, live_server, token, "gggg1ggggg", "ggggggggm0")
            expect(browser, "Target reached")
    assert "rung 2" in page(browser)
    assert Session.objects.count() == 3
    assert SetRow.objects.filter(lane="left").last().faults in ({"late": 1}, {"wide": 1})

    set_size(browser)
    later = today + timedelta(days=2)
    with mock.patch("django.utils.timezone.localdate", return_value=later):
        browser.get(f"{live_server.url}/review/")
        expect(browser, "The rule is met: climb.")
        click(browser, "Confirm")
        expect(browser, "now on rung 2")
        browser.get(f"{live_server.url}/players/{player.pk}/")
        expect(browser, "Rung 2 of 3")
    chart = browser.find_element(By.CSS_SELECTOR, "svg.climb-chart title").get_attribute(
        "textContent"
    )
    assert chart == "From rung 1 to rung 2 of 3, 3 sessions"
    assert Decision.objects.get().applied == "climb"


def test_undo_a_stroke_and_a_closed_browser(club, browser, live_server):
    put_on(club)
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/")
    long_page(browser, "Gate 1")
    strokes(browser, "gg0")
    click(browser, "Undo")
    strokes(browser, "g")
    expect(browser, "3 good of 3")
    browser.refresh()
    ready(browser)
    expect(browser, "3 good of 3")
    strokes(browser, "ggggggg" + "gggggggggg")
    wait_until(browser, "document.querySelector('.pad-good').disabled")
    click(browser, "Undo")
    strokes(browser, "1")
    send(browser)
    assert list(SetRow.objects.order_by("order").values_list("makes", "attempts", "strokes")) == [
        (10, 10, "gggggggggg"),
        (9, 10, "ggggggggg1"),
    ]
    # what was sent is not on the device any more
    browser.back()
    browser.refresh()
    ready(browser)
    expect(browser, "0 good of 0")


def test_typing_the_total_takes_the_place_of_strokes(club, browser, live_server):
    put_on(club)
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/")
    long_page(browser, "Gate 1")
    strokes(browser, "g0")
    click(browser, "Type the total")
    for i, makes in enumerate((7, 8)):
        field = browser.find_element(By.NAME, f"e{i}-makes")
        field.clear()
        field.send_keys(str(makes))
        attempts = browser.find_element(By.NAME, f"e{i}-attempts")
        attempts.clear()
        attempts.send_keys("10")
    send(browser)
    assert list(
        SetRow.objects.order_by("order").values_list("makes", "attempts", "strokes", "faults")
    ) == [
        (7, 10, "", None),
        (8, 10, "", None),
    ]


def test_something_hurts(club, browser, live_server):
    put_on(club)
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/")
    long_page(browser, "Gate 1")
    strokes(browser, "gggm")
    choose(browser, "hurts", "yes")
    browser.find_element(By.NAME, "hurt_where").send_keys("left knee")
    click(browser, "Send to my coach")
    expect(browser, "licensed")
    browser.get(f"{live_server.url}/card/{club.token}/")
    expect(browser, "Rest for now")
    assert "Today" not in page(browser)
    set_size(browser)
    sign_in(browser, live_server, club.coach)
    expect(browser, "Ida Marlow rests")
    click(browser, "End the stop")
    click(browser, "End the stop")
    expect(browser, "who cleared the player")
    browser.find_element(By.NAME, "cleared_by").send_keys("physiotherapist")
    click(browser, "End the stop")
    expect(browser, "may train again")
    # what was done before it hurt is kept
    assert SetRow.objects.get().makes == 3
