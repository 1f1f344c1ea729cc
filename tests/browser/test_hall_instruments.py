"""The hall as an instrument: every measure on its tile or in the open one, technique, windows, a
group's feeds, many lanes and many ladders; nothing scrolls and nobody jumps.
"""

from datetime import timedelta
from functools import partial

import pytest
from django.utils import timezone
from selenium.webdriver.common.by import By

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.people.models import Player, Squad
from drill_ladder.apps.practice.models import JudgedDay, Session
from drill_ladder.apps.review.models import Decision
from tests.browser.driver import set_size, wait_until
from tests.browser.hands import expect, problems, ready, sideways, sign_in, touch
from tests.browser.test_hall import OPEN, TAP, open_hall, sent
from tests.make import current, drill, ladder, put_on

LANES = [f"spot {n}" for n in "abcdefghi"]


def press(browser, words, inside="#hall-panel"):
    """The button inside that begins with some words, as soon as it is there."""
    script = f"""(() => {{
        const all = [...document.querySelectorAll({inside + " button"!r})];
        const one = all.find((b) => b.textContent.trim().startsWith({words!r}));
        one?.click();
        return Boolean(one);
    }})()"""
    wait_until(browser, script)


def good_of(browser, name):
    """The key for a good one on a player's tile."""
    tiles = browser.find_elements(By.CSS_SELECTOR, ".hall-tile")
    return next(t for t in tiles if name in t.text).find_element(By.CSS_SELECTOR, ".tile-good")


@pytest.fixture
def on(today):
    return today - timedelta(days=2)


def test_the_hall_passes_a_technique_rung_and_says_what_is_missing(club, browser, live_server, on):
    club.drill.checkpoints = ["Head still", "Low"]
    club.drill.save()
    club.ladder.rungs.update(target={"makes": 8, "of": 10, "each_lane": True, "form_min": 0.75})
    put_on(club, on=on)
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    for lane in ("left", "right"):
        for _ in range(10):
            browser.execute_script(TAP, "Ida Marlow", lane, "Good")
    sent(browser)
    browser.execute_script(OPEN, "Ida Marlow")
    expect(browser, "Nobody looked at the technique")
    press(browser, "All of it right")
    expect(browser, "Target reached")
    assert JudgedDay.objects.get().verdict == "pass"
    assert Session.objects.get().form == 1.0


def test_a_window_runs_and_is_one_entry(club, browser, live_server, on):
    taps = drill(club.club, "Taps", lanes=[], measure={"kind": "count", "window_s": 3}, faults=[])
    own = ladder(club.club, taps, "Taps", target={"value": 2}, floor=None, dose={"sets": 1})
    put_on(club, ladder=own, on=on)
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    browser.execute_script(OPEN, "Ida Marlow")
    press(browser, "Start 3 s")
    press(browser, "Tap for each")
    press(browser, "Tap for each")
    wait_until(browser, "!document.querySelector('#hall-watch')")
    sent(browser)
    assert FloorTap.objects.get(act="result").value["numbers"] == {"count": 2}


def test_rest_is_shown_on_the_tile_and_in_the_open_one(club, browser, live_server, on):
    club.ladder.rungs.update(dose={"sets": 2, "reps": 2, "rest_s": 60})
    club.drill.lanes = []
    club.drill.save()
    club.ladder.rungs.update(target={"makes": 2, "of": 2})
    put_on(club, on=on)
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    for _ in range(2):
        press(browser, "Good", ".tile-zones")
    wait_until(browser, "/◷ (1:00|0:5)/.test(document.querySelector('.hall-tile').textContent)")
    browser.execute_script(OPEN, "Ida Marlow")
    wait_until(browser, "/Rest: (1:00|0:5)/.test(document.querySelector('#hall-rest').textContent)")


def test_a_word_in_the_moment_by_one_touch_and_typed(club, browser, live_server, on):
    """A cue of the drill is one touch; what is typed may wait for the next time; one is taken
    back.
    """
    club.drill.cues = ["Soft hands"]
    club.drill.save()
    put_on(club, on=on)
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    browser.execute_script(OPEN, "Ida Marlow")
    browser.execute_script("document.querySelector('.hall-word summary').click()")
    press(browser, "Soft hands", ".hall-word")
    wait_until(browser, "document.querySelector('.hall-word').innerText.includes('(1)')")
    browser.execute_script(
        "const open = document.querySelector('.hall-word'); open.open = true;"
        "open.querySelector('input').value = 'Look up first';"
    )
    press(browser, "For next time", ".hall-word")
    wait_until(browser, "document.querySelector('.hall-word').innerText.includes('(2)')")
    sent(browser)
    told = [
        (tap.value["word"], tap.value.get("on", True))
        for tap in FloorTap.objects.all()
        if tap.act == "word"
    ]
    assert told == [("Soft hands", True), ("Look up first", False)]
    browser.execute_script("document.querySelector('.hall-word').open = true")
    press(browser, "Take back", ".hall-word")
    wait_until(browser, "document.querySelector('.hall-word').innerText.includes('(1)')")
    browser.get(f"{live_server.url}/card/{club.token}/")
    wait_until(browser, "document.body.innerText.includes('Look up first')")
    assert problems(browser) == []


def test_a_groups_bad_feeds_count_for_nothing(club, browser, live_server, on):
    club.drill.people, club.drill.group_of, club.drill.feeds_judged = "group", 3, True
    club.drill.save()
    put_on(club, on=on)
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    browser.execute_script(OPEN, "Ida Marlow")
    press(browser, "Good")
    press(browser, "Bad feed")
    sent(browser)
    strokes = FloorTap.objects.filter(act="stroke").order_by("pk")
    assert [tap.value["stroke"] for tap in strokes] == ["g", "v"]
    assert "left 1/10" in browser.find_element(By.CSS_SELECTOR, ".tile-lane").text.replace(
        "\n", " "
    )


def test_nine_lanes_and_eight_ladders_are_all_there(club, browser, live_server, on):
    spots = drill(club.club, "Spots", lanes=LANES)
    put_on(club, ladder=ladder(club.club, spots, "A spots", dose={"sets": 1, "reps": 1},
                               target={"makes": 1, "of": 1, "each_lane": True}), on=on)  # fmt: skip
    for n in range(7):
        put_on(club, ladder=ladder(club.club, drill(club.club, f"D{n}"), f"L{n}"), on=on)
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    browser.execute_script(OPEN, "Ida Marlow")
    assert len(browser.find_elements(By.CSS_SELECTOR, "#hall-panel .hall-works button")) == 8
    press(browser, "A spots")
    for lane in LANES:
        press(browser, lane)
        press(browser, "Good")
    sent(browser)
    taps = FloorTap.objects.filter(act="stroke")
    assert sorted(taps.values_list("lane", flat=True)) == LANES
    assert sideways(browser) <= 0


@pytest.fixture
def sixteen(club, on):
    squad = Squad.objects.create(club=club.club, name="U12")
    for n in range(16):
        player = Player.objects.create(
            club=club.club, name=f"Player {chr(65 + n)}", joined_on=on, squad=squad
        )
        put_on(club, player=player, on=on)
    return squad


def test_sixteen_stand_in_one_view_with_one_touch_each(club, sixteen, browser, live_server):
    """A squad is here in three touches; an entry is one; nothing scrolls and no name moves."""
    sign_in(browser, live_server, club.coach)
    set_size(browser, 1024, 768)
    browser.get(f"{live_server.url}/floor/")
    ready(browser)
    wait_until(browser, "document.documentElement.dataset.hall === 'open'")
    browser.find_element(By.ID, "hall-drawer").click()
    places = "return JSON.stringify([...document.querySelectorAll('.hall-chip')].map(c => [c.textContent.split(',')[0], c.getBoundingClientRect().top, c.getBoundingClientRect().left]))"  # noqa: E501
    before = browser.execute_script(places)
    press(browser, "U12: all 16 here", "#hall-squads")
    wait_until(browser, "document.querySelectorAll('.hall-tile').length === 16")
    assert browser.execute_script(places) == before
    browser.find_element(By.ID, "hall-shut").click()
    fits = "return [...document.querySelectorAll('.hall-tile')].every(t => t.getBoundingClientRect().bottom <= innerHeight)"  # noqa: E501
    assert browser.execute_script(fits)
    low = browser.execute_script(
        "return [...document.querySelectorAll('.hall-frame button, .hall-frame a')]"
        ".filter(b => b.offsetParent).map(b => [b.textContent, b.getBoundingClientRect().height])"
        ".filter(([, h]) => h < 43.9)"
    )
    assert low == []
    zones = browser.find_elements(By.CSS_SELECTOR, ".tile-zones button")
    assert min(zone.rect["height"] for zone in zones) >= 64
    names = [f"Player {chr(65 + n)}" for n in range(16)]
    for name in names:
        touch(partial(good_of, browser, name))
    sent(browser)
    assert FloorTap.objects.filter(act="stroke").count() == 16
    assert browser.execute_script("return document.documentElement.scrollTop") == 0
    browser.execute_script(OPEN, "Player K")
    top, bottom = browser.execute_script(
        "const r = document.getElementById('hall-panel').getBoundingClientRect();"
        "return [r.top, r.bottom]"
    )
    assert top >= 0
    assert bottom <= 768


@pytest.mark.parametrize("dark", [False, True])
def test_tiles_for_every_eye(club, sixteen, browser, live_server, dark):
    open_hall(browser, live_server, club.coach, ["Player A", "Player B"])
    theme = "dark" if dark else "light"
    browser.execute_script("document.documentElement.dataset.theme = arguments[0]", theme)
    assert problems(browser) == []
    browser.find_element(By.ID, "hall-drawer").click()
    assert problems(browser) == []


def test_a_whole_set_is_typed_where_nobody_counted_each(club, browser, live_server, on):
    club.drill.lanes = []
    club.drill.save()
    club.ladder.rungs.update(target={"makes": 8, "of": 10})
    put_on(club, on=on)
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    browser.execute_script(OPEN, "Ida Marlow")
    browser.execute_script("document.querySelector('.hall-set').open = true")
    browser.find_element(By.CSS_SELECTOR, ".hall-set input").send_keys("9")
    press(browser, "Keep it", ".hall-set")
    sent(browser)
    expect(browser, "Target reached")
    assert [(s.makes, s.attempts) for s in Session.objects.get().sets.all()] == [(9, 10)]


def test_after_the_hour_everybody_stands_on_one_page_and_can_be_decided(
    club, browser, live_server, on, today
):
    club.ladder.rule = {"school": "in_a_row", "passes": 1}
    club.ladder.save()
    p = put_on(club, on=on)
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    for lane in ("left", "right"):
        for _ in range(10):
            browser.execute_script(TAP, "Ida Marlow", lane, "Good")
    sent(browser)
    expect(browser, "All done")
    browser.get(f"{live_server.url}/hall/after/")
    expect(browser, "1 of 1 reached their target")
    browser.find_element(By.CSS_SELECTOR, "[aria-label='Confirm for Ida Marlow']").click()
    expect(browser, "nothing to decide")
    assert Decision.objects.get().action == "confirm"
    assert current(p).rung.position > 1
    assert timezone.localdate() == today


def test_the_calls_of_a_window_begin_and_end_with_it(club, browser, live_server, on):
    """Nobody stands at the tablet: how many they were is asked with how the calls went."""
    called = drill(
        club.club, "Called", lanes=[], measure={"kind": "count", "window_s": 2}, faults=[]
    )
    caller = {"cues": [{"name": "red"}, {"name": "blue"}], "mode": "serial", "every_s": 0.5}
    own = ladder(
        club.club,
        called,
        "Called",
        target={"value": 2},
        floor=None,
        dose={"sets": 1},
        caller=caller,
    )
    put_on(club, ladder=own, on=on)
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    browser.execute_script(OPEN, "Ida Marlow")
    press(browser, "Start 2 s")
    wait_until(browser, "document.querySelector('#hall-panel .calls-alone .call')")
    wait_until(browser, "document.querySelector('#hall-call-window')?.textContent.endsWith('left')")
    expect(browser, "How did they go?")
    expect(browser, "How many in the window?")
    browser.find_element(By.CSS_SELECTOR, "#hall-panel .caller input").send_keys("7")
    press(browser, "−")
    assert (
        browser.find_element(By.CSS_SELECTOR, "#hall-panel .caller input").get_attribute("value")
        == "7"
    )
    press(browser, "That is right")
    sent(browser)
    wait_until(browser, "!document.querySelector('#hall-panel .sum-line')")
    assert FloorTap.objects.get(act="result").value["numbers"] == {"count": 7}
    answers = [tap.value["word"] for tap in FloorTap.objects.filter(act="read")]
    assert "misses" in answers
    assert set(answers) <= {"hits", "misses"}
