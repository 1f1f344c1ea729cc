"""No screen is cut: every page at the sizes people have, with long names, one written from right to
left, and with letters twice as large. What is measured stands in measure.js: sideways scrolling,
cut or squeezed text, targets over each other or under 24 px (the least of WCAG 2.2, 2.5.8; from
memory), and words that a program left behind. Then axe-core looks at it on the narrowest screen,
and once more in the dark, at contrast alone: that is what the theme decides.
"""

from pathlib import Path
from urllib.parse import quote

import pytest
from django.test import Client

from drill_ladder.apps.people.models import Club, Player, Squad
from tests.browser.driver import close_browser, open_browser, set_size
from tests.browser.hands import axe_at_hand, problems, ready, sign_in
from tests.every_address import paths_of
from tests.make import ladder, member, owner_of, put_on

MEASURE = Path(__file__).with_name("measure.js").read_text()
# two frames after its size is set, a page stands still
SETTLED = f"""const told = arguments[0], measure = () => {{ {MEASURE} }};
requestAnimationFrame(() => requestAnimationFrame(() => told(measure())));"""
# a colour that is on its way to another one would be judged half-way
DARK = """const told = arguments[0], root = document.documentElement;
const still = new CSSStyleSheet();
still.replaceSync("* { transition: none !important }");
document.adoptedStyleSheets = [...document.adoptedStyleSheets, still];
root.dataset.theme = "dark";
requestAnimationFrame(() => requestAnimationFrame(() => told()));"""
SIZES = ((1280, 800), (1024, 768), (768, 1024), (390, 844), (320, 640))
LARGE = ((1280, 800), (768, 1024))  # of 32 px: as many letters a line as on 640 and 384 px
LONG = "Maximiliane-Charlotte Wolkenstein-Trautmannsdorff of the Upper Meadow"
FROM_RIGHT = "\u05e0\u05d5\u05e2\u05d4 \u05d1\u05df-\u05d3\u05d5\u05d3"
SHEETS = ("print", "sheet", "poster", "-html", "paper")  # for printers and mail, measured there


@pytest.fixture(scope="module")
def large_letters():
    """A browser whose reader set letters of 32 px."""
    driver = open_browser(letters=32)
    yield driver
    close_browser(driver)


@pytest.fixture
def pages(club):
    """Address -> name of every page that an owner, or whoever has a link, can read."""
    paths = paths_of(club)
    Player.objects.filter(pk=club.player.pk).update(name=LONG)
    Player.objects.create(club=club.club, name=FROM_RIGHT, joined_on=club.player.joined_on)
    Squad.objects.create(club=club.club, name=f"Squad of {LONG}")
    client = Client()
    client.force_login(owner_of(club.club).user)
    found = {}
    for name, path in paths.items():
        if any(one in name for one in SHEETS) or "logout" in name:
            continue
        answer = client.get(path)
        kind = answer.headers.get("Content-Type", "")
        if (
            answer.status_code == 200
            and kind.startswith("text/html")
            and "<html" in str(answer.content[:400])
        ):
            found[path] = name
    return found


def wrong_on(driver, address, sizes):
    """What is wrong on one page -> at which widths."""
    driver.get(address)
    ready(driver)
    found = {}
    for width, height in sizes:
        set_size(driver, width, height)
        for one in driver.execute_async_script(SETTLED):
            found.setdefault(one, []).append(width)
    return found


def measured(driver, server, pages, sizes, looked=lambda driver: ()):
    """A line for each thing that is wrong somewhere, with its page and widths. looked: what else is
    asked of each page.
    """
    lines = []
    for path, name in pages.items():
        for what, widths in wrong_on(driver, server.url + path, sizes).items():
            lines.append(f"{name} {path} at {', '.join(map(str, widths))}: {what}")
        lines += [f"{name} {path}: {problem}" for problem in looked(driver)]
    return "\n".join(lines)


def in_both_themes(driver):
    """What axe-core finds, in the light and in the dark."""
    yield from problems(driver)
    driver.execute_async_script(DARK)
    yield from (f"dark: {problem}" for problem in problems(driver, ["color-contrast"]))


def test_no_screen_is_cut_at_any_size(pages, club, browser, live_server):
    assert len(pages) > 90
    sign_in(browser, live_server, owner_of(club.club))
    with axe_at_hand(browser):
        assert measured(browser, live_server, pages, SIZES, in_both_themes) == ""


def test_no_screen_is_cut_with_letters_twice_as_large(pages, club, large_letters, live_server):
    sign_in(large_letters, live_server, owner_of(club.club))
    assert measured(large_letters, live_server, pages, LARGE) == ""


EMPTY = (
    "/",
    "/players/",
    "/review/",
    "/floor/",
    "/weeks/",
    "/ladders/",
    "/drills/",
    "/routines/",
    "/insights/",
    "/club/",
    "/club/people/",
    "/limits/",
    "/stations/",
    "/tests/",
)


def test_no_screen_of_an_empty_club_is_cut(transactional_db, browser, live_server):
    nobody = Club.objects.create(name="A club that has nobody yet")
    sign_in(browser, live_server, member(nobody, "Ada", "owner"))
    with axe_at_hand(browser):
        empty = dict.fromkeys(EMPTY, "empty")
        assert measured(browser, live_server, empty, SIZES, problems) == ""


def test_no_screen_of_a_club_of_two_hundred_is_cut(club, browser, live_server):
    """One of them on a ladder of sixty rungs."""
    squad = Squad.objects.create(club=club.club, name="Everybody of every age together")
    names = (f"{name} {LONG if n % 9 == 0 else n}" for n, name in enumerate(["Ann", "Ben"] * 100))
    same = {"club": club.club, "squad": squad, "joined_on": club.player.joined_on}
    Player.objects.bulk_create(Player(name=name[:120], **same) for name in names)
    long = ladder(club.club, club.drill, "Sixty steps", rungs=60)
    placed = put_on(club, ladder=long, rung=58)
    sign_in(browser, live_server, owner_of(club.club))
    pages = ["/players/", "/weeks/", "/floor/", "/insights/", f"/squads/{squad.pk}/progress/"]
    pages += [f"/ladders/{long.pk}/", f"/players/{club.player.pk}/", f"/card/{club.token}/"]
    pages += [f"/players/{club.player.pk}/progress/?ladder={placed.pk}", "/stations/", "/club/"]
    with axe_at_hand(browser):
        assert measured(browser, live_server, dict.fromkeys(pages, "big"), SIZES, problems) == ""


SPOILED = """<main style="margin:0"><p style="width:40px;overflow:hidden;white-space:nowrap">A line
that is cut</p><p>1 times, and None</p>
<a href="/x" style="display:block;width:20px;height:20px">x</a>
<button style="position:absolute;left:200px;top:300px;width:80px;height:40px">One</button>
<button style="position:absolute;left:240px;top:320px;width:80px;height:40px">Two</button>
<p style="width:20px;overflow-wrap:anywhere">Small box, heart beating</p>
<div style="width:3000px">wide</div></main>"""


def test_what_is_measured_finds_each_kind(browser):
    browser.get(f"data:text/html,<!doctype html>{quote(SPOILED)}")
    found = browser.execute_script(MEASURE)
    for kind in ("sideways", "cut: p", "squeezed: p", "small 20", "over each other", "1 times"):
        assert any(kind in one for one in found), kind
