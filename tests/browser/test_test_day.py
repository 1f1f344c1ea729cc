"""A test day of ten players with a gate that fails in every way, from the token to the results, and
not a sheet of paper.
"""

from datetime import timedelta

import pytest
from django.utils import timezone
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import Select

from drill_ladder.apps.api.simulated_gate import story
from drill_ladder.apps.floor.models import GateCall, Trial
from drill_ladder.apps.library.routines.services import PartInput, RoutineHead, save_routine
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.team.tokens import make_access
from tests.browser.driver import set_size, wait_until
from tests.browser.hands import click, expect, phone, problems, sideways, sign_in
from tests.browser.test_club import fill
from tests.browser.test_hall import open_hall, sent
from tests.browser.test_hall_instruments import press
from tests.db.test_open_door import Tool
from tests.make import drill, ladder

UNFOLD = "document.querySelectorAll('details').forEach((one) => { one.open = true; })"
NAMES = [f"Runner {chr(65 + n)}" for n in range(10)]


@pytest.fixture
def owner(club):
    Membership.objects.filter(pk=club.coach.pk).update(role="owner")
    club.coach.refresh_from_db()
    return club.coach


@pytest.fixture
def crowd(club):
    squad = club.club.squads.create(name="Runners")
    today = timezone.localdate()
    for name in NAMES:
        Player.objects.create(club=club.club, name=name, squad=squad, joined_on=today)
    drill(club.club, "Ten metres", measure={"kind": "time"}, lanes=[], faults=[])


def begun(browser, server):
    """A test made, and its day begun, on the pages."""
    browser.get(f"{server.url}/tests/new/")
    browser.find_element(By.NAME, "title").send_keys("Sprint")
    Select(browser.find_element(By.NAME, "drill")).select_by_visible_text("Ten metres")
    for name, value in (("trials", "2"), ("rest_s", "0")):
        field = browser.find_element(By.NAME, name)
        field.clear()
        field.send_keys(value)
    click(browser, "Keep this test")
    expect(browser, "nobody knows yet")
    click(browser, "Begin a test day")
    browser.find_element(By.XPATH, "//label[normalize-space(.)='Sprint']").click()
    Select(browser.find_element(By.NAME, "squad")).select_by_visible_text("Runners")
    browser.find_element(By.XPATH, "//button[normalize-space(.)='Begin']").click()
    expect(browser, "Now: Runner A")


def test_ten_players_and_a_gate_that_fails(club, owner, crowd, browser, live_server):
    gate = Tool(owner, "gate")
    sign_in(browser, live_server, club.coach)
    begun(browser, live_server)
    faults = ("double", "lone", "late", "repeat", "restart")
    wanted = []
    for number, name in enumerate(NAMES):
        picks = browser.find_elements(By.NAME, "player")
        Select(picks[-1]).select_by_visible_text(name)
        click(browser, "Call up to this gate")
        expect(browser, f"{name} is called up to Tool")
        call = GateCall.objects.latest("id")
        call.at = timezone.now() - timedelta(hours=1)
        call.save()
        told = story(number, 2, faults)
        for message in told.messages:
            assert gate.post("/gate/messages", message).status_code == 200
        wanted += [(name, seconds) for seconds in told.seconds]
    found = list(Trial.objects.values_list("player__name", "value"))
    assert sorted(found) == sorted(wanted)
    best = min(seconds for name, seconds in wanted if name == "Runner J")
    wait_until(browser, f"document.querySelector('.battery').innerText.includes('{best:.2f}')")
    assert problems(browser) == []
    for size in (lambda: set_size(browser, 768, 1024), lambda: phone(browser)):
        size()
        assert sideways(browser) <= 0
        assert problems(browser) == []


def test_a_trial_by_the_stopwatch_on_the_page(club, owner, crowd, browser, live_server):
    make_access(member=owner, name="Other", scopes=["results"])  # no gate: nothing is polled
    sign_in(browser, live_server, club.coach)
    begun(browser, live_server)
    click(browser, "Start")
    wait_until(browser, "document.querySelector('.watch').innerText > '0.30'")
    click(browser, "Stop")
    shown = browser.find_element(By.NAME, "value").get_attribute("value")
    click(browser, "Keep this trial")
    expect(browser, "Now: Runner B")
    trial = Trial.objects.get()
    assert (trial.player.name, trial.timing) == ("Runner A", "hand")
    assert f"{trial.value:.2f}" == shown
    expect(browser, "so far")


def test_a_routine_is_a_test_from_its_form_to_the_result(club, owner, browser, live_server):
    """Typed in the hall, part by part before the eyes, and looked at on the day's own page."""
    passes = ladder(club.club, drill(club.club, "Wall"), "Wall passes")
    save_routine(
        member=club.coach,
        routine=None,
        head=RoutineHead("Morning set", "", 20),
        parts=[PartInput(club.ladder), PartInput(passes, sets=2)],
    )
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/tests/new/")
    browser.find_element(By.NAME, "title").send_keys("Through it all")
    Select(browser.find_element(By.NAME, "routine")).select_by_visible_text("Morning set")
    by = Select(browser.find_element(By.NAME, "routine_by"))
    by.select_by_visible_text("Good ones in all its parts")
    fill(browser, trials="1", rest_s="0", attempts="20")
    assert problems(browser) == []
    click(browser, "Keep this test")
    expect(browser, "Morning set: the best of 1")
    click(browser, "Begin a test day")
    browser.find_element(By.XPATH, "//label[normalize-space(.)='Through it all']").click()
    browser.execute_script(UNFOLD)
    browser.find_element(By.XPATH, f"//label[normalize-space(.)='{club.player}']").click()
    browser.find_element(By.XPATH, "//button[normalize-space(.)='Begin']").click()
    expect(browser, f"Now: {club.player}")
    expect(browser, "Wall, Gate 1: 2 sets of")
    open_hall(browser, live_server, club.coach)
    press(browser, "Tests", ".hall-strip")
    expect(browser, "Wall, Gate 1: 2 sets of")
    field = browser.find_element(By.CSS_SELECTOR, ".trial-tiles input")
    field.send_keys("17")
    press(browser, "Keep it", ".trial-tiles")
    expect(browser, "All trials")
    sent(browser)
    assert problems(browser) == []
    click(browser, "What each says")
    expect(browser, "17 of 20")
