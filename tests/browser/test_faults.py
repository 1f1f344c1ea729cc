"""Scripted rounds against a bad network, through the run and the long page in turn: what was tapped
arrives, all of it and once.

A short run here; the long one is `./ladder bench --faults` (FAULT_ROUNDS, FAULT_SEED).
"""

import os
import random
from collections import Counter
from time import monotonic, sleep

from drill_ladder.apps.practice.models import Session, SetRow
from tests.browser.driver import wait_until
from tests.browser.hands import choose, choose_day, click, kept, page, phone, ready, touch_key
from tests.browser.test_stores import ALL_FULL, NO_DATABASE, device_that
from tests.make import current, drill, ladder, put_on

ROUNDS = int(os.environ.get("FAULT_ROUNDS", "12"))
SEED = int(os.environ.get("FAULT_SEED", "13"))
TAPS = 4
NETWORK = ("none", "cut", "lost", "mid", "reload", "double", "late", "gone", "back")
CLOCK = (
    "const Real = Date; globalThis.Date = class extends Real {{"
    "constructor(...given) {{ given.length ? super(...given) : super(Real.now() + {ms}); }}"
    "static now() {{ return Real.now() + {ms}; }} }};"
)
DEVICE = {
    "no database": lambda _: NO_DATABASE,
    "full": lambda _: ALL_FULL,
    "wrong clock": lambda chance: CLOCK.format(ms=chance.choice((-30, -25, 25, 49)) * 3_600_000),
}
FAULTS = (*NETWORK, *DEVICE)


class LongPage:
    """The block on one page, as it is typed or counted there."""

    way = ""

    def begin(self, browser):
        wait_until(browser, "document.querySelector('.pad-good')")

    def tell(self, browser):
        choose(browser, "hurts", "no")

    def send(self, browser):
        click(browser, "Send to my coach")
        wait_until(browser, "!location.pathname.match(/\\/\\d+\\/$/)", seconds=20)


class Run:
    """The block as a run, one thing at a time; it leads on by itself when all is counted."""

    way = "run/"

    def begin(self, browser):
        wait_until(browser, f"{SEEN}('.run-step .run-main, .run-zones .pad-good')")
        end = monotonic() + 20
        while not browser.execute_script(f"return Boolean({SEEN}('.run-zones .pad-good'))"):
            assert monotonic() < end, page(browser)
            for words in ("I am ready", "Begin", "Go on"):
                browser.execute_script(PRESS, words)
            sleep(0.05)

    def tell(self, browser):
        wait_until(browser, f"{SEEN}('.effort')")

    def send(self, browser):
        browser.execute_script(PRESS, "No, all fine")
        gone = "!location.pathname.endsWith('/run/')"
        kept_here = f"{SEEN}('.run-step h1')?.innerText === 'Done'"
        wait_until(browser, f"{gone} || {kept_here}", seconds=20)


SEEN = "(css => [...document.querySelectorAll(css)].find(one => one.offsetParent))"
PRESS = (
    "[...document.querySelectorAll('button')].find(one => one.offsetParent"
    " && one.innerText.trim().startsWith(arguments[0]))?.click()"
)
PAGES = (LongPage(), Run())


def tap(browser, marks):
    for mark in marks:
        css = ".pad-good" if mark == "g" else ".pad-miss"
        touch_key(browser, css)


def opened(browser, address, how):
    browser.get(address + how.way)
    ready(browser)
    how.begin(browser)


def before_sending(browser, address, network, fault, marks, how):
    """What goes wrong while it is counted."""
    tap(browser, marks[:2])
    if fault == "mid":
        network.cut = True
    if fault in ("reload", "gone"):
        kept(browser, f'"{marks[:2]}"')
        network.cut = fault == "gone"
        opened(browser, address, how)
    if fault == "back":
        kept(browser, f'"{marks[:2]}"')
        browser.get("about:blank")
        opened(browser, address, how)
    tap(browser, marks[2:])
    if fault == "wrong clock":
        assert "On which day did you do it?" in page(browser)
        choose_day(browser)
    how.tell(browser)


def sent(browser, network, fault, card, how):
    """What goes wrong when it is sent."""
    if fault in ("cut", "late"):
        network.cut = True
    if fault == "lost":
        network.lose = 2
    how.send(browser)
    if fault == "double":
        browser.execute_script("document.getElementById('log')?.requestSubmit()")
    network.cut, network.lose = False, 0
    if fault == "late":
        return  # it waits until the next round opens a page
    browser.get(card)
    ready(browser)
    name_the_day(browser)
    try:
        wait_until(browser, "document.getElementById('unsent').hidden", seconds=30)
    except AssertionError:
        waits = browser.execute_script("return document.getElementById('unsent').innerText")
        told = f"{fault}, {Session.objects.count()} stored, on the page: {waits}"
        raise AssertionError(told) from None


def name_the_day(browser):
    """What waited from the round before is asked about where this round's clock is wrong: today is
    the first day that is offered.
    """
    end = monotonic() + 10
    while monotonic() < end and not browser.execute_script(
        "return document.getElementById('unsent').hidden"
    ):
        browser.execute_script(
            "document.querySelectorAll('[data-refused] li').forEach("
            "(row) => row.innerText.includes('When was it done?')"
            " && row.querySelector('button').click())"
        )
        sleep(0.3)


def arrived(times):
    end = monotonic() + 20
    while Session.objects.count() < times and monotonic() < end:
        sleep(0.1)


def test_nothing_is_lost_and_nothing_doubled(club, browser, card, network, today):
    """Networks, stores and clocks that fail: every block arrives, once, on the day it was done."""
    of = drill(club.club, "Taps", lanes=[], people="solo")
    steps = ladder(
        club.club, of, "Taps", target={"makes": 3, "of": 4}, dose={"sets": 1, "reps": TAPS}
    )
    address = f"{card}{current(put_on(club, ladder=steps, place='home')).pk}/"
    phone(browser)
    chance = random.Random(SEED)
    expected = Counter()
    for number in range(ROUNDS):
        fault = FAULTS[number] if number < len(FAULTS) else chance.choice(FAULTS)
        marks = "".join(chance.choice("gm") for _ in range(TAPS))
        with device_that(browser, DEVICE[fault](chance) if fault in DEVICE else ""):
            how = PAGES[number % 2]
            opened(browser, address, how)
            before_sending(browser, address, network, fault, marks, how)
            sent(browser, network, fault, card, how)
        expected[marks] += 1
    browser.get(card)
    ready(browser)
    arrived(ROUNDS)
    found = Counter(SetRow.objects.values_list("strokes", flat=True))
    lost, doubled = expected - found, found - expected
    astray = Session.objects.exclude(on=today).count()
    said = f"{lost.total()} lost, {doubled.total()} doubled, {astray} on a wrong day"
    print(f"{ROUNDS} rounds, seed {SEED}: {said}")
    assert (lost, doubled, astray) == (Counter(), Counter(), 0)
    assert Session.objects.count() == ROUNDS
