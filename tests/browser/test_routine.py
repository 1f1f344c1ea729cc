"""A routine on the phone: part after part on one page, kept on the device, sent at once."""

import pytest

from drill_ladder.apps.library.routines.services import PartInput, RoutineHead, save_routine
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.prescriptions.routines import give_routine
from tests.browser.driver import wait_until
from tests.browser.hands import choose, click, expect, kept, phone, problems, ready, sideways
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


def tap(browser, part, css, times=1):
    box = browser.find_elements("css selector", ".routine-part")[part]
    for _ in range(times):
        button = next(b for b in box.find_elements("css selector", css) if b.is_displayed())
        browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", button)
        button.click()


def test_parts_are_counted_kept_and_sent_together(club, given, browser, live_server):
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/")
    ready(browser)
    click(browser, "Start")
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
