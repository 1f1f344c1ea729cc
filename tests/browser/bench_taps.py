"""`./ladder bench --taps`: from tap to paint on the card, on a processor four times slower, beside
a bare button on an empty page in the same run (durations of the browser's own performance events,
which it rounds to 8 ms).
"""

from statistics import quantiles

from tests.browser.hands import phone, ready
from tests.make import current, drill, ladder, put_on

TAPS, SLOWER = 40, 4
WATCH = (
    "window.seen = [];"
    "new PerformanceObserver(list => list.getEntries().forEach(one => {"
    "  if (one.name === 'pointerup' || one.name === 'click') window.seen.push(one.duration);"
    "})).observe({type: 'event', durationThreshold: 16, buffered: false});"
)


def taps(browser, css):
    """Durations in ms; what the browser does not report was under its least, 16 ms."""
    browser.execute_script(WATCH)
    for _ in range(TAPS):
        browser.find_element("css selector", css).click()
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


def test_from_tap_to_paint(club, browser, live_server):
    of = drill(club.club, "Taps", lanes=[])
    steps = ladder(
        club.club, of, "Taps", target={"makes": 3, "of": 4}, dose={"sets": 5, "reps": 20}
    )
    p = put_on(club, ladder=steps, place="home")
    phone(browser)
    browser.get(f"{live_server.url}/static/icons/icon.svg")
    browser.get("data:text/html,<button style='width:200px;height:200px'>x</button>")
    browser.execute_cdp_cmd("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    bare = p95(taps(browser, "button"))
    browser.get(f"{live_server.url}/card/{club.token}/{current(p).pk}/")
    ready(browser)
    browser.execute_cdp_cmd("Performance.enable", {})
    begun = parts(browser)
    for _ in range(TAPS):
        browser.find_element("css selector", ".pad-good").click()
    spent = [(now - then) / TAPS for now, then in zip(parts(browser), begun, strict=True)]
    browser.refresh()
    ready(browser)
    card = p95(taps(browser, ".pad-good"))
    browser.execute_cdp_cmd("Emulation.setCPUThrottlingRate", {"rate": 1})
    script, style, layout = spent
    print(
        f"\na tap costs {script:.1f} ms of scripts, {style:.1f} of styles, {layout:.1f} of layout "
        "(what the driver asks included)"
    )
    print(
        f"tap to paint, p95, processor {SLOWER} times slower: card {card:.0f} ms, bare button "
        f"{bare:.0f} ms, ratio {card / bare:.2f} (a frame is 16.7 ms)"
    )
