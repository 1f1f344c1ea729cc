"""Two jobs in one repetition, from building it to looking back: on the run the keys change by
themselves, an undo takes back what was judged last, and each result stands on its own ladder.
"""

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.support.select import Select

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.library.models import Routine
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.prescriptions.routines.services import give_routine
from tests.browser.driver import wait_until
from tests.browser.hands import click, expect, kept, phone, problems, ready, sign_in
from tests.browser.test_hall import open_hall
from tests.browser.test_routine import key, one
from tests.browser.test_run import fits
from tests.make import drill, ladder


@pytest.fixture
def play(club):
    """What is made of the pass: 0 to 3 points."""
    of = drill(club.club, "Play on", lanes=[], measure={"kind": "points", "max": 3})
    made = {"target": {"value": 2.0}, "dose": {"sets": 1, "reps": 3}, "floor": None}
    return ladder(club.club, of, "The play", **made)


@pytest.fixture
def passing(club):
    of = drill(club.club, "Pass", lanes=[], faults=["late"])
    made = {"target": {"makes": 2, "of": 3}, "dose": {"sets": 1, "reps": 3}, "floor": None}
    return ladder(club.club, of, "The pass", **made)


def give(club, routine, today, place):
    return give_routine(
        member=club.coach, routine=routine, player=club.player, per_week=2, place=place, on=today
    )


def points(browser, n):
    key(browser, f".pad-keys .pad-key:nth-child({n + 1})")


def built(club, browser, live_server, passing, play):
    """As a coach types it."""
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/routines/new/")
    ready(browser)
    browser.find_element(By.NAME, "title").send_keys("Pass and play")
    for i, of in enumerate((passing, play)):
        Select(browser.find_element(By.NAME, f"part-{i}-of")).select_by_value(f"l{of.pk}")
    browser.find_element(By.NAME, "part-1-together").click()
    assert problems(browser) == []
    click(browser, "Save the routine")
    expect(browser, "each is judged twice")
    return Routine.objects.get()


def test_on_the_run_the_keys_change_by_themselves(club, passing, play, today, browser, live_server):
    given = give(club, built(club, browser, live_server, passing, play), today, "home")
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/routine/{given.pk}/run/")
    ready(browser)
    one(browser, "Begin")
    expect(browser, "judged twice")
    one(browser, "Begin")
    expect(browser, "Part 2 of 2")  # both are read before the first is counted
    one(browser, "Begin")
    expect(browser, "Part 1 of 2")
    fits(browser)
    one(browser, "Good")
    expect(browser, "Part 2 of 2")
    fits(browser)
    points(browser, 3)
    one(browser, "late")  # missed, and why, by one touch
    one(browser, "Undo")
    expect(browser, "1 good of 1")
    one(browser, "late")
    points(browser, 0)
    kept(browser, "30")
    browser.refresh()
    ready(browser)
    expect(browser, "Part 1 of 2")
    expect(browser, "1 to go")
    one(browser, "Good")
    points(browser, 2)
    expect(browser, "How hard was it?")
    expect(browser, "2 of 2 parts counted.")
    one(browser, "No, all fine")
    wait_until(browser, "/\\/routine\\/[0-9]+\\/2/.test(location.pathname)", 15)
    rows = {row.stay.prescription.ladder.title: row.sets.get() for row in Session.objects.all()}
    first, second = rows["The pass"], rows["The play"]
    assert (first.makes, first.attempts, first.faults) == (2, 3, {"late": 1})
    assert (second.points, second.attempts) == (5, 3)
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/{club.player.pk}/sessions/")
    expect(browser, "The pass")
    expect(browser, "The play")


def test_in_the_hall_the_tile_asks_for_one_after_the_other(
    club, passing, play, today, browser, live_server
):
    give(club, built(club, browser, live_server, passing, play), today, "coached")
    open_hall(browser, live_server, club.coach, [club.player.name])
    for n in (3, 0, 2):
        expect(browser, "Now: The pass")
        one(browser, "Good")
        expect(browser, "Now: The play")
        one(browser, str(n))
    expect(browser, "All done")
    wait_until(browser, "document.documentElement.dataset.sent === 'yes'")
    strokes = FloorTap.objects.filter(act__in=("stroke", "result"))
    assert {row.stay.prescription.ladder.title for row in strokes} == {"The pass", "The play"}
    assert strokes.count() == 6
