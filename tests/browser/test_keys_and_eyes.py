"""By keyboard alone, for every eye, at every width."""

import re
from datetime import timedelta

import pytest
from django.utils import timezone
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from drill_ladder.apps.floor.stations.services import set_up
from drill_ladder.apps.people.models import Player, PlayerDay, Squad
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.review.models import Decision
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.apps.weeks.services import solve
from drill_ladder.core.planning import Station
from drill_ladder.core.plans.plan_templates import SHAPES
from tests.browser.driver import wait_until
from tests.browser.hands import expect, page, problems, ready, sign_in
from tests.make import current, log, put_on


def ready_to_climb(club, players=1):
    today = timezone.localdate()
    for n in range(players):
        player = club.player
        if n:
            player = Player(name=f"Player {n}", joined_on=today)
            save_player(member=club.coach, player=player)
        p = put_on(club, player=player, on=today - timedelta(days=9))
        log(p, today - timedelta(days=2), 8, 9)
        log(p, today - timedelta(days=1), 9, 8)
    return p


def press(driver, *keys):
    chain = ActionChains(driver)
    for key in keys:
        chain.send_keys(key)
    chain.perform()


def focused(driver):
    """The words of what holds the focus; a page or a whole step that holds it says nothing."""
    return driver.execute_script(
        "const held = document.activeElement;"
        "return held.matches('a, button, summary, label, input, select, textarea')"
        " ? held.innerText || held.name : ''"
    )


def tab_to(driver, words, most=60):
    for _ in range(most):
        press(driver, Keys.TAB)
        if words in (focused(driver) or ""):
            return
    raise AssertionError(f"Tab never reaches {words!r}")


def test_the_review_by_keys_alone(club, browser, live_server):
    ready_to_climb(club, players=4)
    sign_in(browser, live_server, club.coach)
    tab_to(browser, "Review them")
    press(browser, Keys.ENTER)
    ready(browser)
    expect(browser, "4 waiting")
    press(browser, "c")
    expect(browser, "now on rung 2")
    expect(browser, "3 waiting")
    press(browser, "u")
    expect(browser, "4 waiting")
    press(browser, "h")
    expect(browser, "3 waiting")
    wait_until(browser, "document.querySelector('.toast').innerText.includes('held')")
    before = browser.find_element(By.CSS_SELECTOR, ".proposal h2").text
    press(browser, "l")
    wait_until(browser, f"document.querySelector('.proposal h2').innerText !== '{before}'")
    ready(browser)
    press(browser, "o")
    wait_until(browser, "document.activeElement.name === 'applied'")
    press(browser, Keys.SPACE)
    tab_to(browser, "reason")
    press(browser, "chud: letters in a field decide nothing", Keys.ENTER)
    expect(browser, "2 waiting")
    assert sorted(Decision.objects.filter(undone_at=None).values_list("action", flat=True)) == [
        "hold",
        "override",
    ]


def test_a_decision_leads_to_the_next_player_and_an_undo_back(club, browser, live_server):
    """By Tab and Enter alone: the focus is on who stands there now, so that a second Enter decides
    nothing and a reader says the name.
    """
    ready_to_climb(club, players=3)
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/review/")
    ready(browser)
    first = browser.find_element(By.CSS_SELECTOR, ".proposal h2").text
    browser.execute_script("document.querySelector('[data-action=confirm]').focus()")
    press(browser, Keys.ENTER)
    expect(browser, "2 waiting")
    wait_until(browser, "document.activeElement.localName === 'h2'")
    assert browser.execute_script("return document.activeElement.innerText") != first
    press(browser, Keys.ENTER)
    expect(browser, "2 waiting")
    browser.execute_script("document.querySelector('[data-action=undo]').focus()")
    press(browser, Keys.ENTER)
    expect(browser, "3 waiting")
    wait_until(browser, f"document.activeElement.innerText === '{first}'")


def test_keys_that_decide_can_be_switched_off(club, browser, live_server):
    """On this device, and it remembers; their letters go from the buttons with them."""
    ready_to_climb(club, players=2)
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/review/")
    ready(browser)
    shown = "getComputedStyle(document.querySelector('[data-action=confirm] .key')).display"
    browser.find_element(By.CSS_SELECTOR, ".key-switch input").click()
    press(browser, "c")
    browser.refresh()
    ready(browser)
    press(browser, "c")
    assert browser.execute_script(f"return {shown}") == "none"
    assert not Decision.objects.exists()
    browser.find_element(By.CSS_SELECTOR, ".key-switch input").click()
    assert browser.execute_script(f"return {shown}") != "none"
    press(browser, "c")
    expect(browser, "now on rung 2")
    assert Decision.objects.count() == 1


def test_a_refused_override_keeps_the_choice(club, browser, live_server):
    ready_to_climb(club)
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/review/")
    ready(browser)
    press(browser, "o")
    wait_until(browser, "document.activeElement.name === 'applied'")
    press(browser, Keys.SPACE)
    tab_to(browser, "Decide so")
    press(browser, Keys.ENTER)
    expect(browser, "An override needs a reason")
    assert browser.find_element(By.CSS_SELECTOR, "input[name=applied]:checked")


def test_signing_in_and_the_card_by_keys(club, browser, live_server):
    put_on(club)
    browser.get(f"{live_server.url}/card/{club.token}/")
    tab_to(browser, "Gate 1")
    press(browser, Keys.ENTER)
    ready(browser)
    for words in ("I am ready", "Begin"):
        expect(browser, words)
        tab_to(browser, words)
        press(browser, Keys.ENTER)
    expect(browser, "Good")
    tab_to(browser, "Good")
    press(browser, *[Keys.ENTER] * 20)
    expect(browser, "20 good of 20.")
    tab_to(browser, "effort")
    press(browser, Keys.ARROW_RIGHT)
    tab_to(browser, "No, all fine")
    press(browser, Keys.ENTER)
    expect(browser, "Target reached")


def star_document():
    """Six points, out and back."""
    markers, legs = SHAPES["star"].make(points=6, radius=3)
    return {
        "markers": [{"id": key, "x": x, "y": y} for key, (x, y) in markers.items()],
        "legs": [{"from": a, "to": b, "way": "run"} for a, b in legs],
        "paths": [{"from": "1", "to": "M", "kind": "ball"}],
    }


# what the server sent, before any script touched it
SOURCE = "const done = arguments[0]; fetch(location.href).then(r => r.text()).then(done)"


@pytest.fixture
def pages(club):
    """Every kind of page with something on it."""
    p = ready_to_climb(club)
    stay = current(p)
    card = f"/card/{club.token}/"
    who = club.player.pk
    club.drill.plan = {"units": "m", "margin": 1, **star_document()}
    club.drill.save()
    squad = Squad.objects.create(club=club.club, name="Under 12")
    save_player(
        member=club.coach,
        player=Player(name="Bo Vale", joined_on=timezone.localdate(), squad=squad),
    )
    for weekday, place in ((0, "home"), (5, "club")):
        PlayerDay.objects.create(
            club=club.club, player=club.player, weekday=weekday, minutes=20, place=place
        )
    monday = monday_of(timezone.localdate())
    solve(member=club.coach, player=club.player, monday=monday)
    publish(member=club.coach, player=club.player, monday=monday, at=timezone.now())
    group = set_up(
        member=club.coach,
        title="Tuesday",
        on=monday,
        players=[
            Player.objects.create(club=club.club, name=name, joined_on=monday).pk
            for name in ("Ann", "Bo", "Cy")
        ],
        stations=[Station("Gate", 2, ("worker", "feeder"), 5)],
        slot_s=240,
        change_s=20,
    )
    return {
        "public": [
            "/accounts/login/",
            card,
            f"{card}{stay.pk}/",
            f"{card}done/{stay.sessions.first().pk}/",
        ],
        "coach": [
            "/",
            "/players/",
            f"/players/{who}/",
            f"/players/{who}/edit/",
            f"/players/{who}/prescribe/",
            f"/players/{who}/prescribe/{club.ladder.pk}/",
            f"/prescriptions/{p.pk}/change/",
            f"/ladders/{club.ladder.pk}/",
            f"/ladders/{club.ladder.pk}/edit/",
            f"/ladders/{club.ladder.pk}/odds/1/",
            f"/ladders/{club.ladder.pk}/squads/{squad.pk}/",
            f"/drills/{club.drill.pk}/edit/",
            f"/drills/{club.drill.pk}/plan/",
            f"/rungs/{club.ladder.rungs.first().pk}/plan/",
            f"/stations/{group.pk}/",
            "/ladders/",
            "/drills/",
            "/drills/new/",
            "/ladders/draft/",
            "/library/in/",
            f"/drills/{club.drill.pk}/",
            f"/drills/{club.drill.pk}/run/",
            f"/ladders/{club.ladder.pk}/players/",
            f"/players/{who}/coverage/",
            f"/players/{who}/week/",
            f"/players/{who}/place/{club.ladder.pk}/",
            "/weeks/",
            "/stations/",
            "/roster/in/",
            f"/log/{stay.pk}/",
            "/review/",
        ],
    }


def test_a_stop_is_for_every_eye(club, browser, live_server):
    """All other pages: test_every_screen."""
    sign_in(browser, live_server, club.coach)
    open_stop(player=club.player, what="knee", on=timezone.localdate(), actor=None)
    for path in ("/", f"/players/{club.player.pk}/", f"/card/{club.token}/"):
        browser.get(live_server.url + path)
        assert problems(browser) == [], path


def test_the_eye_test_finds_what_is_wrong(club, browser, live_server):
    """A control: faint text, a nameless button and an image without words are found."""
    browser.get(f"{live_server.url}/accounts/login/")
    browser.execute_script(
        "document.querySelector('main').insertAdjacentHTML('beforeend',"
        "  '<button></button><img src=\"/x.png\"><p id=f>faint</p>');"
        "document.getElementById('f').style.color = '#e8e0d0'"
    )
    found = " ".join(problems(browser))
    for rule in ("button-name", "image-alt", "color-contrast"):
        assert rule in found
    browser.get_log("browser")


def test_nothing_is_asked_from_outside_and_no_script_is_inline(club, pages, browser, live_server):
    sign_in(browser, live_server, club.coach)
    for path in ("/", "/review/", f"/card/{club.token}/"):
        browser.get(live_server.url + path)
        ready(browser)
        script = "return performance.getEntriesByType('resource').map(e => e.name)"
        names = browser.execute_script(script)
        assert names
        assert all(name.startswith(live_server.url) for name in names), names
        html = browser.execute_async_script(SOURCE)
        assert (
            re.findall(
                r"<script(?![^>]*(?:src=|application/json))[^>]*>|\sstyle=|\son[a-z]+=|<style", html
            )
            == []
        )


def test_dark_stays_dark(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    ready(browser)
    browser.find_element(By.CSS_SELECTOR, "[aria-label='Light or dark']").click()
    browser.get(f"{live_server.url}/players/")
    assert browser.execute_script("return document.documentElement.dataset.theme") == "dark"
    assert "Players" in page(browser)
