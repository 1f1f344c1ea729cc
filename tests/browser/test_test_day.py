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
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.team.tokens import make_access
from tests.browser.driver import set_size, wait_until
from tests.browser.hands import click, expect, phone, problems, sideways, sign_in
from tests.db.test_open_door import Tool
from tests.make import drill

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
