"""`./ladder bench --taps`: from tap to paint on card, run and hall, on a processor four times
slower, beside a bare button on an empty page in the same run (durations of the browser's own
performance events, which it rounds to 8 ms).
"""

from statistics import median, quantiles
from time import sleep

import pytest
from django.utils import timezone
from selenium.common.exceptions import StaleElementReferenceException

from drill_ladder.apps.people.models import Player
from tests.browser.hands import phone, ready
from tests.browser.test_hall import open_hall
from tests.browser.test_run import shown
from tests.make import current, drill, ladder, put_on

TAPS, SLOWER = 40, 4
BETWEEN_S = 0.1  # a finger that taps as fast as it can: eight a second with what the driver takes
WATCH = (
    "window.seen = [];"
    "new PerformanceObserver(list => list.getEntries().forEach(one => {"
    "  if (one.name === 'pointerup' || one.name === 'click') window.seen.push(one.duration);"
    "})).observe({type: 'event', durationThreshold: 16, buffered: false});"
)


def press(browser, css):
    """As a finger does; a tile that is drawn anew in between is found again."""
    for _ in range(5):
        try:
            browser.find_element("css selector", css).click()
        except StaleElementReferenceException:
            continue
        return


def taps(browser, css):
    """Durations in ms; what the browser does not report was under its least, 16 ms."""
    browser.execute_script(WATCH)
    for _ in range(TAPS):
        press(browser, css)
        sleep(BETWEEN_S)
    browser.execute_async_script("setTimeout(arguments[0], 300)")
    seen = browser.execute_script("return window.seen")
    return sorted([8.0] * max(0, 2 * TAPS - len(seen)) + seen)


def parts(browser):
    """Milliseconds that the page has spent in scripts, styles and layout since it was opened."""
    found = browser.execute_cdp_cmd("Performance.getMetrics", {})["metrics"]
    by_name = {one["name"]: one["value"] * 1000 for one in found}
    return [by_name[f"{what}Duration"] for what in ("Script", "RecalcStyle", "Layout")]


def p95(values):
    return quantiles(values, n=20)[-1]


def measure(browser, place, bare, css):
    """One place, opened already: what a tap costs, and how long it takes to paint."""
    browser.execute_cdp_cmd("Performance.enable", {})
    begun = parts(browser)
    for _ in range(TAPS):
        press(browser, css)
    script, style, layout = (
        (now - then) / TAPS for now, then in zip(parts(browser), begun, strict=True)
    )
    seen = taps(browser, css)
    ratios = [ask(seen) / ask(bare) for ask in (median, p95)]
    print(
        f"{place}: tap to paint, processor {SLOWER} times slower: half of the taps within "
        f"{median(seen):.0f} ms, 95 of 100 within {p95(seen):.0f} ms; a bare button "
        f"{median(bare):.0f} and {p95(bare):.0f} ms; ratios {ratios[0]:.2f} and {ratios[1]:.2f}; "
        f"a tap costs {script:.1f} ms of scripts, "
        f"{style:.1f} of styles, {layout:.1f} of layout (what the driver asks included)"
    )


def slow(browser):
    """The processor made slower; how long taps on a bare button take on it."""
    browser.get("data:text/html,<button style='width:200px;height:200px'>x</button>")
    browser.execute_cdp_cmd("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    return taps(browser, "button")


@pytest.fixture
def steps(club):
    """Two hundred attempts, so that none of the taps is the last one."""
    of = drill(club.club, "Taps", lanes=[])
    dose = {"sets": 5, "reps": 40}
    steps = ladder(club.club, of, "Taps", target={"makes": 3, "of": 4}, dose=dose)
    return current(put_on(club, ladder=steps, place="home"))


@pytest.fixture(autouse=True)
def as_fast_as_ever(browser):
    """Whatever is measured, the next one begins on the whole processor."""
    yield
    browser.execute_cdp_cmd("Emulation.setCPUThrottlingRate", {"rate": 1})


@pytest.mark.parametrize("way", ["", "run/"])
def test_the_card(club, browser, live_server, steps, way):
    phone(browser)
    bare = slow(browser)
    browser.get(f"{live_server.url}/card/{club.token}/{steps.pk}/{way}")
    ready(browser)
    if way:
        shown(browser, "I am ready").click()
        shown(browser, "Begin").click()
    measure(
        browser,
        "the run" if way else "the long page",
        bare,
        ".run-do .pad-good" if way else ".pad-good",
    )


def test_the_hall_with_sixteen_tiles(club, browser, live_server):
    names = [f"Player {letter}" for letter in "ABCDEFGHIJKLMNOP"]
    dose = {"sets": 5, "reps": 40}
    club.ladder.rungs.update(dose=dose, target={"makes": 3, "of": 4})
    for name in names:
        one = Player.objects.create(club=club.club, name=name, joined_on=timezone.localdate())
        put_on(club, player=one)
    bare = slow(browser)
    open_hall(browser, live_server, club.coach, names)
    measure(browser, "the hall, 16 tiles", bare, ".hall-tile .tile-good")
