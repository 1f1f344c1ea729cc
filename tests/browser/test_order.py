"""Lanes in turn, a rest between any two attempts, and the easier way where one kind of fault comes
again: from building it to looking back, on the run and in the hall.
"""

from selenium.webdriver.common.by import By

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.practice.models import Session
from tests.browser.driver import set_size, wait_until
from tests.browser.hands import click, expect, page, phone, problems, ready, sign_in
from tests.browser.test_builder import fill
from tests.browser.test_hall import OPEN, open_hall, sent
from tests.browser.test_hall_instruments import press
from tests.browser.test_run import begin, finish, fits, shown, tap
from tests.make import current, put_on

LANE = "document.querySelector('.run-lane').textContent"
CHOSEN = (
    "[...document.querySelectorAll('#hall-panel [aria-label=Lane] button')]"
    ".find((one) => one.ariaPressed === 'true')?.textContent"
)


def in_turn(club, **more):
    """Two attempts a lane, in turn."""
    given = {"turns": ["left", "right"], "ease_faults": 2, "ease_note": "gate twice as wide"} | more
    Rung.objects.filter(ladder=club.ladder).update(
        dose={"sets": 1, "reps": 2}, target={"makes": 1, "of": 2, "each_lane": True}, **given
    )


def test_it_is_built_and_said(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/edit/")
    ready(browser)
    for details in browser.find_elements(By.CSS_SELECTOR, ".rung-more"):
        browser.execute_script("arguments[0].open = true", details)
    fill(browser, "rung-0-turns", "left, middle")
    fill(browser, "rung-0-rest_each_s", "20")
    fill(browser, "rung-0-ease_faults", "3")
    click(browser, "Save")
    expect(browser, "“middle” is no lane of this drill. Its lanes: left, right.")
    fill(browser, "rung-0-turns", "left, right")
    assert problems(browser) == []
    click(browser, "Save")
    expect(browser, "is saved")
    expect(browser, "in turn: left, right, 20\u00a0s between any two")
    rung = club.ladder.rungs.get(position=1)
    assert (rung.turns, rung.rest_each_s, rung.ease_faults) == (["left", "right"], 20, 3)


def test_on_the_run_sides_change_and_the_easier_way_is_offered(club, browser, live_server):
    in_turn(club)
    stay = current(put_on(club, place="home"))
    phone(browser)
    set_size(browser, 360, 640, phone=True)
    begin(browser, live_server, club, stay)
    wait_until(browser, f"{LANE} === 'Left'")
    tap(browser, "Good")
    wait_until(browser, f"{LANE} === 'Right'")
    tap(browser, "Miss")
    tap(browser, "late")  # why it was missed
    wait_until(browser, f"{LANE} === 'Left'")
    tap(browser, "Undo")
    wait_until(browser, f"{LANE} === 'Right'")
    tap(browser, "Miss")
    tap(browser, "late")
    assert "Easier from now on" not in browser.find_element(By.TAG_NAME, "body").text
    tap(browser, "Miss")
    tap(browser, "late")
    expect(browser, "2 times “late”. Easier: gate twice as wide")
    fits(browser)
    assert problems(browser) == []
    tap(browser, "Easier from now on")
    wait_until(browser, f"{LANE} === 'Right'")
    tap(browser, "Good")
    finish(browser)
    rows = Session.objects.get().sets.order_by("order")
    counted = [(row.lane, row.attempts, row.makes, row.eased) for row in rows]
    assert counted == [("left", 2, 1, False), ("right", 1, 0, False), ("right", 1, 1, True)]
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/{club.player.pk}/sessions/")
    expect(browser, "left 1 of 2 (late 1), right 0 of 1 (late 1), right 1 of 1 (easier)")


def test_on_the_run_the_rest_runs_between_any_two(club, browser, live_server):
    in_turn(club, rest_each_s=30)
    stay = current(put_on(club, place="home"))
    phone(browser)
    begin(browser, live_server, club, stay)
    tap(browser, "Good")
    expect(browser, "0:29")
    assert "Right" in browser.find_element(By.CSS_SELECTOR, ".run-rest").text
    tap(browser, "Good")  # whoever is ready goes on
    expect(browser, "0:30")
    shown(browser, "Pause")
    tap(browser, "Go on")
    wait_until(browser, f"{LANE} === 'Left'")
    assert problems(browser) == []


def test_a_rest_goes_on_until_ready_and_the_real_one_is_kept(club, browser, live_server):
    club.drill.lanes = []
    club.drill.save()
    Rung.objects.filter(ladder=club.ladder).update(
        dose={"sets": 2, "reps": 1, "rest_s": 1}, target={"makes": 1, "of": 2}, rest_ready=True
    )
    stay = current(put_on(club, place="home"))
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/run/")
    ready(browser)
    tap(browser, "I am ready")
    expect(browser, "1\u00a0s rest, then until you are ready")
    tap(browser, "Begin")
    tap(browser, "Good")
    expect(browser, "Go on when you are ready")
    assert problems(browser) == []
    tap(browser, "Good")
    finish(browser)
    first, second = Session.objects.get().sets.order_by("order")
    assert first.rested_s is None
    assert 1 <= second.rested_s <= 60
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/{club.player.pk}/sessions/")
    expect(browser, f"1 of 1 (after {second.rested_s}\u00a0s of rest)")


def test_in_the_hall_the_lane_changes_and_the_easier_way_is_offered(club, browser, live_server):
    in_turn(club, rest_each_s=30)
    stay = current(put_on(club, place="coached"))
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    browser.execute_script(OPEN, "Ida Marlow")
    expect(browser, "in turn: left, right")
    wait_until(browser, f"{CHOSEN}.startsWith('left')")
    press(browser, "late")
    wait_until(browser, f"{CHOSEN}.startsWith('right')")
    expect(browser, "Rest: 0:")
    press(browser, "late")
    expect(browser, "2 times “late”. Easier: gate twice as wide")
    press(browser, "Leave it as it is")
    wait_until(browser, "!document.querySelector('#hall-panel .ease-offer')")
    press(browser, "Good")
    wait_until(browser, f"{CHOSEN}.startsWith('right')")
    press(browser, "Good")
    sent(browser)
    wait_until(browser, "document.querySelector('#hall-panel .hall-told')")
    rows = Session.objects.get(stay=stay).sets.order_by("lane")
    assert [(row.lane, row.attempts, row.makes) for row in rows] == [
        ("left", 2, 1),
        ("right", 2, 1),
    ]


def test_a_slow_one_first_is_built_told_shown_and_not_counted(club, browser, live_server):
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{club.ladder.pk}/edit/")
    ready(browser)
    browser.execute_script(
        "document.querySelectorAll('details').forEach((one) => { one.open = true; })"
    )
    fill(browser, "rung-0-slow_first_s", "20")
    click(browser, "Save")
    expect(browser, "is saved")
    assert Rung.objects.get(ladder=club.ladder, position=1).slow_first_s == 20
    club.drill.lanes = []
    club.drill.save()
    Rung.objects.filter(ladder=club.ladder).update(
        dose={"sets": 1, "reps": 10}, target={"makes": 7, "of": 10}
    )
    stay = current(put_on(club, place="home"))
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/run/")
    ready(browser)
    tap(browser, "I am ready")
    expect(browser, "one slowly, not counted, then 20\u00a0s")
    tap(browser, "Begin")
    expect(browser, "One slowly first: it is not counted")
    assert problems(browser) == []
    tap(browser, "Done")
    expect(browser, "0:20")
    tap(browser, "Go on")
    for _ in range(10):
        tap(browser, "Good")
    finish(browser)
    assert Session.objects.get().sets.get().attempts == 10


def finishing(club):
    """Two sets of two, each ended by four good ones."""
    club.drill.lanes = []
    club.drill.save()
    given = {"dose": {"sets": 2, "reps": 2, "rest_s": 30}, "target": {"makes": 3, "of": 4}}
    Rung.objects.filter(ladder=club.ladder).update(finish_good=4, **given)


def test_good_ones_end_a_set_and_are_not_counted(club, browser, live_server):
    """On the run: before the rest, and after the last set before anything is asked."""
    finishing(club)
    stay = current(put_on(club, place="home"))
    phone(browser)
    begin(browser, live_server, club, stay)
    for _ in range(2):
        tap(browser, "Good")
    expect(browser, "To finish: 4 good ones, not counted")
    fits(browser)
    tap(browser, "Done")
    expect(browser, "0:30")
    tap(browser, "Go on")
    for _ in range(2):
        tap(browser, "Good")
    expect(browser, "To finish: 4 good ones, not counted")
    assert "How hard was it?" not in page(browser)
    tap(browser, "Done")
    finish(browser)
    assert list(Session.objects.get().sets.values_list("attempts", flat=True)) == [2, 2]


def test_in_the_hall_good_ones_end_a_set(club, browser, live_server):
    finishing(club)
    stay = current(put_on(club))
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    for _ in range(2):
        press(browser, "Good", ".hall-tile")
    press(browser, "To finish: 4 good ones, not counted ✓", ".hall-tile")
    for _ in range(2):
        press(browser, "Good", ".hall-tile")
    browser.execute_script(OPEN, "Ida Marlow")
    expect(browser, "To finish: 4 good ones, not counted")
    press(browser, "Done")
    sent(browser)
    wait_until(browser, "document.querySelector('#hall-panel .hall-told')")
    assert list(Session.objects.get(stay=stay).sets.values_list("attempts", flat=True)) == [2, 2]


def test_in_the_hall_a_slow_one_comes_before_each_set(club, browser, live_server):
    """On the tile and in the open player: one touch, then its short rest is run by the clock."""
    club.drill.lanes = []
    club.drill.save()
    given = {"dose": {"sets": 2, "reps": 2}, "target": {"makes": 3, "of": 4}}
    Rung.objects.filter(ladder=club.ladder).update(slow_first_s=30, **given)
    stay = current(put_on(club))
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    press(browser, "One slowly first: it is not counted ✓", ".hall-tile")
    wait_until(browser, "document.querySelector('.tile-rest').innerText.includes('0:')")
    for _ in range(2):
        press(browser, "Good", ".hall-tile")
    browser.execute_script(OPEN, "Ida Marlow")
    expect(browser, "One slowly first: it is not counted")
    assert problems(browser) == []
    press(browser, "Done")
    expect(browser, "Rest: 0:")
    for _ in range(2):
        press(browser, "Good")
    sent(browser)
    wait_until(browser, "document.querySelector('#hall-panel .hall-told')")
    assert list(Session.objects.get(stay=stay).sets.values_list("attempts", flat=True)) == [2, 2]


def test_technique_that_slips_at_the_end_offers_the_easier_way(club, browser, live_server):
    club.drill.lanes, club.drill.checkpoints = [], ["low", "still"]
    club.drill.save()
    Rung.objects.filter(ladder=club.ladder).update(
        dose={"sets": 3, "reps": 2},
        target={"makes": 1, "of": 2, "form_min": 0.8},
        ease_note="one metre nearer",
    )
    stay = current(put_on(club, place="home"))
    phone(browser)
    begin(browser, live_server, club, stay)
    for _ in range(5):
        tap(browser, "Good")
    browser.find_element(By.CSS_SELECTOR, ".run-head [aria-label=More]").click()
    browser.execute_script("document.querySelector('[name=e2-seen]').click()")
    tap(browser, "Back")
    expect(browser, "Technique in the last third: 50 %, needs 80 %.")
    expect(browser, "Easier: one metre nearer")
    assert problems(browser) == []
    tap(browser, "Leave it as it is")
    wait_until(browser, "!document.querySelector('.ease-offer').checkVisibility()")
