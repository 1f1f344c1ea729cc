"""A routine on the phone: as a run, part after part; and on one long page. Kept on the device, sent
at once.
"""

import pytest

from drill_ladder.apps.library.routines.services import PartInput, RoutineHead, save_routine
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.prescriptions.routines.services import give_routine
from tests.browser.driver import set_size, wait_until
from tests.browser.hands import (
    choose,
    click,
    expect,
    kept,
    phone,
    problems,
    ready,
    sideways,
    touch,
    touch_key,
)
from tests.browser.test_run import fits, shown
from tests.make import drill, ladder


@pytest.fixture
def given(club, today):
    """The gate, a run, and the check at the gate after the run."""
    runs = ladder(
        club.club,
        drill(club.club, "Juggle", lanes=[], measure={"kind": "streak"}),
        "Juggling",
        target={"value": 5},
        dose={"sets": 1},
        floor=None,
    )
    routine = save_routine(
        member=club.coach,
        routine=None,
        head=RoutineHead("Morning set", "", 20, (0, 5, 4)),
        parts=[PartInput(club.ladder), PartInput(runs, insert_after=True)],
    )
    return give_routine(
        member=club.coach, routine=routine, player=club.player, per_week=2, place="home", on=today
    )


SIZES = [(360, 640), (390, 844)]


def one(browser, words, times=1):
    """Tap what says so and can be seen."""
    for _ in range(times):
        touch(lambda: shown(browser, words))


def key(browser, css, times=1):
    """The instrument's key that can be seen."""
    touch_key(browser, css, times)


def back(browser):
    browser.find_element("css selector", ".run-head [aria-label=Back]").click()


def tap(browser, part, css, times=1):
    box = browser.find_elements("css selector", ".routine-part")[part]
    for _ in range(times):
        button = next(b for b in box.find_elements("css selector", css) if b.is_displayed())
        browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
        button.click()


def test_parts_are_counted_kept_and_sent_together(club, given, browser, live_server):
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/routine/{given.pk}/")
    wait_until(browser, "document.querySelector('.routine-part') && window.Alpine")
    ready(browser)
    assert sideways(browser) <= 0
    assert problems(browser) == []
    tap(browser, 0, ".pad-good", 8)
    tap(browser, 0, ".pad-miss", 2)
    browser.execute_script("document.querySelectorAll('.routine-part').forEach(p => p.open = true)")
    tap(browser, 1, ".pad-good", 3)
    tap(browser, 1, ".pad-miss")
    kept(browser, "gggm")
    browser.refresh()
    ready(browser)
    browser.execute_script("document.querySelectorAll('.routine-part').forEach(p => p.open = true)")
    expect(browser, "8 good, 10 of 10")
    expect(browser, "3 in a row")
    tap(browser, 2, ".pad-good", 4)
    tap(browser, 2, ".pad-miss", 1)
    choose(browser, "hurts", "no")
    click(browser, "Send to my coach")
    wait_until(browser, "location.pathname.includes('/routine/') && document.title.length > 0")
    expect(browser, "Morning set: done")
    told = [
        (row.stay.prescription.ladder.title, row.tired, row.sets.first().attempts)
        for row in Session.objects.order_by("recorded_at")
    ]
    assert told == [("Gate", False, 10), ("Juggling", False, None), ("Gate", True, 5)]


@pytest.mark.parametrize("size", SIZES)
def test_as_a_run_it_is_one_thing_at_a_time(club, given, browser, live_server, size):
    """From Start through three parts to the end of the day, with the browser closed in the middle:
    nothing is scrolled, nothing lost, and each part leads on by itself.
    """
    phone(browser)
    set_size(browser, *size, phone=True)
    browser.get(f"{live_server.url}/card/{club.token}/")
    ready(browser)
    click(browser, "Start")
    wait_until(browser, "location.pathname.includes('/routine/') && window.Alpine")
    ready(browser)
    assert problems(browser) == []
    one(browser, "Begin")
    fits(browser)
    one(browser, "Begin")  # the part
    for _ in range(8):
        one(browser, "Good")
    fits(browser)
    one(browser, "Miss")
    one(browser, "Miss")
    expect(browser, "10 to go")  # the other side
    one(browser, "Good", 10)
    expect(browser, "Part 2 of 3")
    fits(browser)
    one(browser, "Begin")
    key(browser, ".pad-good", 3)
    kept(browser, "ggg")
    browser.refresh()
    ready(browser)
    expect(browser, "Part 2 of 3")
    expect(browser, "3 in a row")
    key(browser, ".pad-miss")
    expect(browser, "Part 3 of 3")
    one(browser, "Begin")
    one(browser, "Good", 5)
    expect(browser, "5 to go")
    one(browser, "Good", 5)
    expect(browser, "How hard was it?")
    fits(browser)
    expect(browser, "3 of 3 parts counted.")
    one(browser, "No, all fine")
    wait_until(browser, "/\\/routine\\/[0-9]+\\/2/.test(location.pathname)", 15)
    expect(browser, "Morning set: done")
    expect(browser, "That was today")
    told = [
        (row.stay.prescription.ladder.title, row.tired, row.sets.first().makes)
        for row in Session.objects.order_by("recorded_at")
    ]
    assert told == [("Gate", False, 8), ("Juggling", False, None), ("Gate", True, 5)]


def test_back_leads_through_the_parts_and_a_part_can_be_left_out(club, given, browser, live_server):
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/routine/{given.pk}/run/")
    ready(browser)
    one(browser, "Begin")
    one(browser, "Leave it out")
    expect(browser, "Part 2 of 3")
    back(browser)
    expect(browser, "Part 1 of 3")
    one(browser, "Begin")
    one(browser, "Good", 4)
    back(browser)
    expect(browser, "Go on")
    back(browser)
    wait_until(browser, "document.body.innerText.includes('one after the other')")
    one(browser, "Begin")
    expect(browser, "Go on")
    one(browser, "Go on")
    expect(browser, "6 to go")
