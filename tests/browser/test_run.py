"""The run: one block, one thing at a time, on a phone in one hand."""

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from drill_ladder.apps.practice.models import Session, Skip, Stop
from tests.browser.driver import set_size, wait_until
from tests.browser.hands import expect, page, phone, problems, ready, touch, touch_key
from tests.make import current, drill, ladder, put_on

SIZES = [(360, 640), (390, 844)]
TITLE = "document.querySelector('.run-step:not([style*=none])')"


def shown(browser, words):
    """The button that says so and can be seen."""
    script = (
        "return [...document.querySelectorAll('button, a.button')].find(b => b.offsetParent"
        " && b.getBoundingClientRect().height && b.innerText.trim().startsWith(arguments[0]))"
    )
    wait_until(browser, script.removeprefix("return ").replace("arguments[0]", repr(words)))
    return browser.execute_script(script, words)


def tap(browser, words):
    touch(lambda: shown(browser, words))


def begin(browser, live_server, club, stay):
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/run/")
    ready(browser)
    tap(browser, "I am ready")
    tap(browser, "Begin")


def fits(browser):
    """Nothing has to be scrolled, up and down or sideways."""
    height, inner, width, across = browser.execute_script(
        "const d = document.documentElement;"
        "return [d.scrollHeight, innerHeight, d.scrollWidth, innerWidth]"
    )
    assert height <= inner, (height, inner)
    assert width <= across


def finish(browser):
    wait_until(browser, "document.querySelector('.effort').offsetParent")
    fits(browser)
    browser.find_elements(By.CSS_SELECTOR, ".effort label")[4].click()
    tap(browser, "No, all fine")
    wait_until(browser, "location.pathname.includes('/done/')", 15)


@pytest.fixture
def small(browser):
    phone(browser)
    set_size(browser, 360, 640, phone=True)


@pytest.mark.parametrize("size", SIZES)
def test_ten_repetitions_are_ten_taps_and_three(club, browser, live_server, today, size):
    """From Start to the next Start: begin, how hard, all fine."""
    phone(browser)
    set_size(browser, *size, phone=True)
    club.ladder.rungs.update(target={"makes": 8, "of": 10}, dose={"sets": 1, "reps": 10})
    club.drill.lanes = []
    club.drill.save()
    put_on(club, place="home")
    other = ladder(
        club.club, drill(club.club, "Wall", lanes=[]), "Wall", target={"makes": 8, "of": 10}
    )
    put_on(club, place="home", ladder=other)
    browser.get(f"{live_server.url}/card/{club.token}/")
    ready(browser)
    browser.execute_script(
        "window.taps = 0; localStorage.setItem('run-ready', JSON.stringify({day: arguments[0]}))",
        f"{today}",
    )
    browser.find_element(By.CSS_SELECTOR, "a.start").click()
    ready(browser)
    fits(browser)
    taps = 0
    tap(browser, "Begin")
    taps += 1
    for _ in range(10):
        tap(browser, "Good")
        taps += 1
        fits(browser)
    wait_until(browser, "document.querySelector('.effort').offsetParent")
    fits(browser)
    browser.find_elements(By.CSS_SELECTOR, ".effort label")[4].click()
    tap(browser, "No, all fine")
    taps += 2
    expect(browser, "Target reached")
    assert taps == 13
    tap(browser, "Next: Gate 1")
    expect(browser, "2 of 2 today")
    session = Session.objects.get()
    assert (session.effort, session.observer) == (4, "self")
    assert [(s.attempts, s.makes) for s in session.sets.all()] == [(10, 10)]


def test_what_is_got_ready_is_said_once_and_each_caution_is_ticked(
    club, browser, live_server, small
):
    club.drill.tools, club.drill.worn = ["stick", "three balls"], ["eye wear"]
    club.drill.caution = "home_with_adult"
    club.drill.save()
    club.player.home_adult = True
    club.player.save()
    stay = current(put_on(club, place="home"))
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/run/")
    ready(browser)
    expect(browser, "three balls")
    expect(browser, "An adult has to be there for: Gate 1")
    tap(browser, "I am ready")
    fits(browser)
    assert not shown(browser, "Tick above first").is_enabled()
    browser.find_element(By.NAME, "worn").click()
    assert not shown(browser, "Tick above first").is_enabled()
    browser.find_element(By.NAME, "adult").click()
    tap(browser, "Begin")
    for _ in range(20):
        tap(browser, "Good")
    finish(browser)
    session = Session.objects.get()
    assert session.worn == ["eye wear"]
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/run/")
    ready(browser)
    assert "I am ready" not in browser.find_element(By.TAG_NAME, "main").text


def test_a_miss_asks_why_and_the_side_changes_by_itself(club, browser, live_server, small):
    stay = current(put_on(club, place="home"))
    begin(browser, live_server, club, stay)
    expect(browser, "Left")
    for _ in range(9):
        tap(browser, "Good")
    tap(browser, "Miss")
    fits(browser)
    tap(browser, "late")
    expect(browser, "Right")
    for _ in range(10):
        tap(browser, "Good")
    finish(browser)
    left, right = Session.objects.get().sets.order_by("order")
    assert (left.makes, left.faults, left.strokes) == (9, {"late": 1}, "ggggggggg1")
    assert (right.makes, right.faults) == (10, {})


def test_the_long_page_is_one_tap_away_and_back_without_losing_a_stroke(
    club, browser, live_server, small
):
    stay = current(put_on(club, place="home"))
    begin(browser, live_server, club, stay)
    for _ in range(4):
        tap(browser, "Good")
    wait_until(browser, "document.documentElement.dataset.keptForms === 'ready'")
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/")
    ready(browser)
    expect(browser, "4 good of 4")
    touch_key(browser, ".pad-good")
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/run/")
    ready(browser)
    expect(browser, "5 good of 5")
    expect(browser, "5 to go")


KINDS = {
    "streak": ({"kind": "streak", "cap": 3}, {"value": 3}, ["One more"] * 3),
    "until_lost": (
        {"kind": "until_lost", "lost": 2},
        {"value": 2},
        ["Good", "Miss", "Good", "Miss"],
    ),
    "to_n": ({"kind": "to_n", "n": 3}, {"value": 5}, ["Good", "Miss", "Good", "Good"]),
    "points": ({"kind": "points", "max": 3}, {"value": 2}, ["3", "2"]),
    "done": ({"kind": "done"}, {"value": 1}, ["Done"]),
    "time": ({"kind": "time"}, {"value": 9}, ["Start", "Stop"]),
    "checklist": (
        {"kind": "checklist", "items": ["Low", "Head still"]},
        {"value": 1},
        ["Low", "Next"],
    ),
}


@pytest.mark.parametrize("kind", KINDS)
def test_every_measure_has_its_screen(club, browser, live_server, small, kind):
    measure, target, taps = KINDS[kind]
    reps = 2 if kind == "points" else None
    other = ladder(
        club.club,
        drill(club.club, "Other", lanes=[], measure=measure, faults=[]),
        "Other",
        target=target,
        dose={"sets": 1} | ({"reps": reps} if reps else {}),
        floor=None,
    )
    stay = current(put_on(club, place="home", ladder=other))
    begin(browser, live_server, club, stay)
    fits(browser)
    for words in taps:
        tap(browser, words)
    finish(browser)
    assert Session.objects.get().sets.count() == 1


def test_a_list_of_two_rounds_goes_on_to_the_second(club, browser, live_server, small):
    """Next goes on once something was said of this one; what nobody touched says nothing."""
    measure, target, _ = KINDS["checklist"]
    of = drill(club.club, "Look", lanes=[], measure=measure, faults=[])
    terms = {"target": target, "dose": {"sets": 2}, "floor": None}
    stay = current(put_on(club, place="home", ladder=ladder(club.club, of, "Look", **terms)))
    begin(browser, live_server, club, stay)
    assert not shown(browser, "Next").is_enabled()
    for words in ("Low", "Next"):
        tap(browser, words)
    expect(browser, "2 of 2")
    assert not shown(browser, "Next").is_enabled()
    for words in ("Low", "Head still", "Next"):
        tap(browser, words)
    finish(browser)
    assert [one.ticks for one in Session.objects.get().sets.all()] == [1, 2]


def test_without_a_network_it_goes_on_and_says_what_it_keeps(club, browser, card, network, today):
    set_size(browser, 360, 640, phone=True)
    stay = current(club.player.prescriptions.get())
    browser.get(f"{card}{stay.pk}/run/")
    ready(browser)
    network.cut = True
    tap(browser, "I am ready")
    tap(browser, "Begin")
    for _ in range(20):
        tap(browser, "Good")
    wait_until(browser, "document.querySelector('.effort').offsetParent")
    browser.find_elements(By.CSS_SELECTOR, ".effort label")[4].click()
    tap(browser, "No, all fine")
    expect(browser, "It is kept on this device")
    expect(browser, "20 good of 20.")
    assert not Session.objects.exists()
    network.cut = False
    browser.execute_script("window.dispatchEvent(new Event('online'))")
    wait_until(browser, "true")
    from time import monotonic, sleep

    end = monotonic() + 15
    while not Session.objects.exists() and monotonic() < end:
        sleep(0.1)
    assert Session.objects.get().sets.count() == 2


def test_hurt_is_one_touch_from_every_step(club, browser, live_server, small):
    stay = current(put_on(club, place="home"))
    begin(browser, live_server, club, stay)
    tap(browser, "Good")
    tap(browser, "Hurt")
    browser.find_element(By.CSS_SELECTOR, "#run-hurt [name=what]").send_keys("knee")
    tap(browser, "Stop and tell my coach")
    expect(browser, "Rest for now")
    assert Stop.objects.get().what == "knee"


def test_left_out_stands_on_the_card_and_start_goes_past_it(club, browser, live_server, small):
    stay = current(put_on(club, place="home"))
    other = ladder(club.club, drill(club.club, "Wall"), "Wall")
    put_on(club, place="home", ladder=other)
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/run/")
    ready(browser)
    tap(browser, "I am ready")
    tap(browser, "Not today")
    tap(browser, "Too hard today")
    expect(browser, "Gate 1")
    assert Skip.objects.get().stay == stay
    browser.get(f"{live_server.url}/card/{club.token}/")
    expect(browser, "Left out today: too hard today")
    start = browser.find_element(By.CSS_SELECTOR, "a.start").get_attribute("href")
    assert f"/{stay.pk}/" not in start


@pytest.mark.parametrize("dark", [False, True])
def test_every_step_for_every_eye(club, browser, live_server, small, dark):
    club.drill.worn = ["eye wear"]
    club.drill.save()
    stay = current(put_on(club, place="home"))
    browser.get(f"{live_server.url}/card/{club.token}/{stay.pk}/run/")
    ready(browser)
    theme = "dark" if dark else "light"
    browser.execute_script("document.documentElement.dataset.theme = arguments[0]", theme)
    assert problems(browser) == []
    tap(browser, "I am ready")
    browser.find_element(By.NAME, "worn").click()
    assert problems(browser) == []
    tap(browser, "Begin")
    tap(browser, "Miss")
    assert problems(browser) == []
    tap(browser, "Enough")
    assert problems(browser) == []
    browser.find_element(By.CSS_SELECTOR, "[aria-label=More]").click()
    assert problems(browser) == []


def test_targets_are_large_enough_for_a_thumb(club, browser, live_server, small):
    stay = current(put_on(club, place="home"))
    begin(browser, live_server, club, stay)
    small_ones = browser.execute_script(
        "return [...document.querySelectorAll('button')].filter(b => b.offsetParent).map(b =>"
        " [b.innerText, b.getBoundingClientRect().height]).filter(([, h]) => h < 44)"
    )
    assert small_ones == []
    for words in ("Good", "Miss"):
        assert shown(browser, words).rect["height"] >= 64
    assert "Left" in page(browser)


def test_calls_come_by_themselves_and_are_put_right_one_by_one(club, browser, live_server):
    """Nobody stands at the phone: the calls go on, and are answered afterwards."""
    made = drill(club.club, "Called", lanes=[], faults=[])
    called = {"cues": [{"name": "near"}, {"name": "far"}], "every_s": 0.5, "spread": 0}
    given = {"dose": {"sets": 1, "reps": 3}, "target": {"makes": 2, "of": 3}, "caller": called}
    p = put_on(club, ladder=ladder(club.club, made, "Called", **given), place="home")
    phone(browser)
    begin(browser, live_server, club, current(p))
    tap(browser, "Calls by themselves")
    wait_until(browser, "document.querySelector('.call').innerText.match(/near|far/)")
    wait_until(browser, "document.body.innerText.includes('How did they go?')", 20)
    fits(browser)
    browser.execute_script("document.querySelector('.caller details').open = true")
    browser.find_elements(By.CSS_SELECTOR, ".caller details .button")[1].click()
    expect(browser, "Got: 2 of 3")
    assert problems(browser) == []
    tap(browser, "That is right")
    finish(browser)
    row = Session.objects.get().sets.get()
    assert (row.makes, row.attempts, row.strokes) == (2, 3, "gmg")
    assert (row.reads.hits, row.reads.misses, row.reads.late) == (2, 1, 1)


def test_the_calls_of_a_window_begin_and_end_with_it(club, browser, live_server):
    measure = {"kind": "count", "window_s": 3}
    made = drill(club.club, "Called", lanes=[], faults=[], measure=measure)
    called = {"cues": [{"name": "near"}, {"name": "far"}], "every_s": 1, "spread": 0}
    given = {"dose": {"sets": 1}, "target": {"value": 2}, "floor": None, "caller": called}
    p = put_on(club, ladder=ladder(club.club, made, "Called", **given), place="home")
    phone(browser)
    begin(browser, live_server, club, current(p))
    tap(browser, "Start 3")
    wait_until(browser, "document.querySelector('.calls-alone')?.innerText.includes('left')")
    wait_until(browser, "document.body.innerText.includes('How did they go?')", 20)
    told = browser.execute_script("return document.querySelector('.sum-line').innerText")
    assert told.startswith(("Got: 2 of 2", "Got: 3 of 3"))
    browser.find_element(By.CSS_SELECTOR, ".caller input[type=number]").send_keys("2", Keys.TAB)
    tap(browser, "That is right")
    tap(browser, "Next")
    finish(browser)
    row = Session.objects.get().sets.get()
    assert row.count == 2
    assert row.reads.hits in (2, 3)
