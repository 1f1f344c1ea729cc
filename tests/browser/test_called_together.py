"""Several who stand on one rung are called at once, on the whole screen: for each it is told how
they went, and a call may ask for a foot that is part of the right answer.
"""

from selenium.webdriver.common.by import By

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import Session, SetRow
from tests.browser.driver import wait_until
from tests.browser.hands import click, expect, phone, problems, ready, sign_in
from tests.browser.test_builder import fill
from tests.browser.test_hall import OPEN, open_hall, sent
from tests.browser.test_hall_instruments import press
from tests.browser.test_run import begin, finish, tap
from tests.make import current, drill, ladder, put_on


def called(club, *cues, **caller):
    """A ladder whose rungs call, two attempts a set."""
    of = drill(club.club, "Called", lanes=[], faults=[])
    given = {"cues": list(cues), "mode": "serial", "every_s": 0.5, "spread": 0} | caller
    return ladder(
        club.club,
        of,
        "Called",
        target={"makes": 1, "of": 2},
        dose={"sets": 1, "reps": 2},
        caller=given,
    )


def second(club, name="Bea Stone"):
    return Player.objects.create(club=club.club, name=name, joined_on=club.player.joined_on)


def test_two_are_called_at_once_and_told_apart(club, browser, live_server):
    own = called(club, {"name": "red"}, {"name": "blue"})
    for player in (club.player, second(club)):
        put_on(club, ladder=own, player=player)
    open_hall(browser, live_server, club.coach, ["Ida Marlow", "Bea Stone"])
    browser.execute_script(OPEN, "Ida Marlow")
    press(browser, "Bea Stone")
    press(browser, "Call them all, on the whole screen")
    wait_until(browser, "document.querySelector('#hall-panel .calls-alone .call')")
    expect(browser, "of 2 · Ida Marlow · Bea Stone")
    expect(browser, "How did they go?")
    expect(browser, "Bea Stone: Got: 2 of 2")
    assert problems(browser) == []
    fewer = "button[aria-label='Bea Stone: One fewer: Got']"
    browser.find_element(By.CSS_SELECTOR, fewer).click()
    expect(browser, "Bea Stone: Got: 1 of 2")
    expect(browser, "Ida Marlow: Got: 2 of 2")
    press(browser, "That is right")
    sent(browser)
    rows = SetRow.objects.order_by("session__stay__prescription__player__name")
    told = [(row.makes, row.attempts, row.reads.hits, row.reads.misses) for row in rows]
    assert told == [(1, 2, 1, 1), (2, 2, 2, 0)]


def test_somebody_who_is_here_is_named(club, browser, live_server):
    own = called(club, {"name": "a name"})
    put_on(club, ladder=own)
    put_on(club, player=second(club), place="coached")
    open_hall(browser, live_server, club.coach, ["Ida Marlow", "Bea Stone"])
    browser.execute_script(OPEN, "Ida Marlow")
    press(browser, "Start the calls, answer each")
    wait_until(browser, "document.querySelector('#hall-panel .call')?.textContent === 'Bea'")
    press(browser, "Got it")


def test_the_wrong_foot_is_an_answer_from_building_to_looking_back(club, browser, live_server):
    own = called(club, {"name": "left"})
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/ladders/{own.pk}/edit/")
    ready(browser)
    for details in browser.find_elements(By.CSS_SELECTOR, ".rung-more"):
        browser.execute_script("arguments[0].open = true", details)
    fill(browser, "rung-0-calls", "A (left foot), B (right foot)")
    click(browser, "Save")
    expect(browser, "is saved")
    expect(browser, "A (left foot), B (right foot)")
    stay = current(put_on(club, ladder=own, place="home"))
    phone(browser)
    begin(browser, live_server, club, stay)
    click(browser, "answer each")
    wait_until(browser, "document.querySelector('.call')?.innerText.startsWith('A, left foot')")
    tap(browser, "Wrong foot")
    wait_until(browser, "document.querySelector('.call')?.innerText.startsWith('B, right foot')")
    assert problems(browser) == []
    tap(browser, "Got it")
    finish(browser)
    assert Session.objects.get().sets.get().reads.wrong_way == 1
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/players/{club.player.pk}/progress/")
    expect(browser, "1 right place, wrong foot, hand or tool")


def test_who_feeds_is_named_by_one_touch(club, browser, live_server):
    fed = drill(club.club, "Fed", lanes=[], faults=[], people="feeder")
    own = ladder(club.club, fed, "Fed", target={"makes": 1, "of": 2}, dose={"sets": 1, "reps": 2})
    put_on(club, ladder=own)
    put_on(club, player=second(club), place="coached")
    open_hall(browser, live_server, club.coach, ["Ida Marlow", "Bea Stone"])
    browser.execute_script(OPEN, "Ida Marlow")
    press(browser, "Bea Stone")
    chosen = "#hall-panel .hall-feeding [aria-pressed=true]"
    wait_until(browser, f"document.querySelector('{chosen}')?.textContent === 'Bea Stone'")
    assert problems(browser) == []
    for _ in range(2):
        press(browser, "Good")
    sent(browser)
    assert SetRow.objects.get().feeder == "Bea Stone"


def one_more(browser, name, word):
    """One touch for a player, in their own panel."""
    browser.execute_script(OPEN, name)
    head = "document.querySelector('#hall-panel h2')?.textContent"
    wait_until(browser, f"{head}?.includes('{name}')")
    press(browser, word)


def test_a_group_works_for_a_row_that_nobody_breaks(club, browser, live_server):
    of = drill(club.club, "Passes", lanes=[], faults=[])
    own = ladder(club.club, of, "Passes", target={"makes": 1, "of": 5}, dose={"reps": 5})
    for player in (club.player, second(club)):
        put_on(club, ladder=own, player=player)
    open_hall(browser, live_server, club.coach)
    click(browser, "Turns")
    browser.find_element(By.NAME, "goal").send_keys("3")
    browser.find_element(By.CSS_SELECTOR, "[name=goal_kind] [value=row]").click()
    click(browser, "Set it")
    open_hall(browser, live_server, club.coach, ["Ida Marlow", "Bea Stone"])
    expect(browser, "0 of 3 in a row, all together, best 0")
    for name, word in (("Ida", "Good"), ("Bea", "Good"), ("Ida", "Miss"), ("Bea", "Good")):
        browser.execute_script(OPEN, name)
        wait_until(
            browser, f"document.querySelector('#hall-panel h2')?.textContent.includes('{name}')"
        )
        press(browser, word)
    expect(browser, "1 of 3 in a row, all together, best 2")
    for name in ("Ida", "Bea"):
        browser.execute_script(OPEN, name)
        wait_until(
            browser, f"document.querySelector('#hall-panel h2')?.textContent.includes('{name}')"
        )
        press(browser, "Good")
    expect(browser, "3 of 3 in a row, all together ✓ reached, best 3")
    assert problems(browser) == []


def test_a_group_collects_points_by_what_a_good_one_is_worth(club, browser, live_server):
    of = drill(club.club, "Passes", lanes=[], faults=[])
    own = ladder(club.club, of, "Passes", target={"makes": 1, "of": 5}, dose={"reps": 5})
    for player in (club.player, second(club)):
        put_on(club, ladder=own, player=player)
    open_hall(browser, live_server, club.coach)
    click(browser, "Turns")
    browser.find_element(By.NAME, "goal").send_keys("9")
    browser.find_element(By.CSS_SELECTOR, "[name=goal_kind] [value=points]").click()
    browser.execute_script("document.querySelector('[name=goal_worth]').value = ''")
    browser.find_element(By.NAME, "goal_worth").send_keys("3")
    click(browser, "Set it")
    open_hall(browser, live_server, club.coach, ["Ida Marlow", "Bea Stone"])
    expect(browser, "0 of 9 points, all together")
    for name, word in (("Ida", "Good"), ("Bea", "Miss"), ("Ida", "Good")):
        one_more(browser, name, word)
    expect(browser, "6 of 9 points, all together")
    assert problems(browser) == []


def test_the_calls_of_the_next_set_begin_when_the_rest_ends(club, browser, live_server):
    """Nobody comes to the tablet between two sets; whoever stopped the calls is not called."""
    made = drill(club.club, "Called", lanes=[], faults=[])
    called = {"cues": [{"name": "near"}, {"name": "far"}], "every_s": 0.5, "spread": 0}
    given = {"dose": {"sets": 3, "reps": 2, "rest_s": 2}, "target": {"makes": 4, "of": 6}}
    put_on(club, ladder=ladder(club.club, made, "Called", caller=called, **given))
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    browser.execute_script(OPEN, "Ida Marlow")
    press(browser, "Calls by themselves")
    telling = "document.querySelector('#hall-panel').innerText.includes('How did they go?')"
    wait_until(browser, telling, 20)
    press(browser, "That is right")
    called_now = "Boolean(document.querySelector('#hall-panel .call')?.innerText.match(/near|far/))"
    wait_until(browser, called_now, 20)
    press(browser, "Stop the calls")
    wait_until(browser, f"!{called_now}")
    expect(browser, "Calls by themselves")


def test_roles_change_by_turns_and_each_entry_knows_who_fed(club, browser, live_server):
    """Two share a drill with a feeder: two attempts of one, then they change, by themselves."""
    made = drill(club.club, "Fed", lanes=[], faults=[], people="feeder")
    given = {"dose": {"sets": 1, "reps": 2}, "target": {"makes": 1, "of": 2}}
    own = ladder(club.club, made, "Fed", **given)
    bea = second(club)
    for player in (club.player, bea):
        put_on(club, ladder=own, player=player)
    open_hall(browser, live_server, club.coach, ["Ida Marlow", "Bea Stone"])
    press(browser, "Together", ".hall-strip")
    field = browser.find_element(By.CSS_SELECTOR, "#hall-together [aria-label^='Attempts each']")
    field.clear()
    field.send_keys("2")
    press(browser, "In turns of", "#hall-together")
    wait_until(browser, "location.search === '?view=stations'")
    expect(browser, "0 of 2 each")
    press(browser, "Start", "#hall-stations")
    first = browser.find_element(By.CSS_SELECTOR, ".station-tile strong").text
    for done in (1, 2):
        press(browser, "Good", ".station-tile")
        wait_until(browser, f"document.body.innerText.includes('{done % 2} of 2 each')")
    expect(browser, "Slot 2")
    now = browser.find_element(By.CSS_SELECTOR, ".station-tile strong").text
    assert now != first
    assert problems(browser) == []
    for _ in range(2):
        press(browser, "Miss", ".station-tile")
    sent(browser)
    wait_until(browser, "document.body.innerText.includes('Done')")
    rows = SetRow.objects.order_by("session__stay__prescription__player__name")
    assert [(row.attempts, row.feeder) for row in rows] == [(2, "Ida Marlow"), (2, "Bea Stone")]


def test_two_teams_collect_and_nobody_is_named(club, browser, live_server):
    of = drill(club.club, "Passes", lanes=[], faults=[])
    own = ladder(club.club, of, "Passes", target={"makes": 1, "of": 5}, dose={"reps": 5})
    for player in (club.player, second(club)):
        put_on(club, ladder=own, player=player)
    open_hall(browser, live_server, club.coach)
    click(browser, "Turns")
    browser.find_element(By.NAME, "goal").send_keys("2")
    browser.find_element(By.CSS_SELECTOR, "[name=goal_kind] [value=teams]").click()
    click(browser, "Set it")
    open_hall(browser, live_server, club.coach, ["Ida Marlow", "Bea Stone"])
    click(browser, "Turns")
    press(browser, "Ida Marlow", "#hall-teams")
    assert problems(browser) == []
    click(browser, "Players")
    for name, word in (("Ida", "Good"), ("Bea", "Miss"), ("Ida", "Good"), ("Bea", "Good")):
        one_more(browser, name, word)
    expect(browser, "With bibs 2 ✓ · without 1 · first to 2")
    goal = browser.find_element(By.ID, "hall-goal").text
    assert "Ida" not in goal
    sent(browser)
    # another tablet knows the teams too
    open_hall(browser, live_server, club.coach)
    expect(browser, "With bibs 2 ✓ · without 1 · first to 2")
