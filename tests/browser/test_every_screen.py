"""No screen is cut: every page at the sizes people have, with long names, one written from right to
left, and with letters twice as large. What is measured stands in measure.js: sideways scrolling,
cut text, targets over each other or under 24 px (the least of WCAG 2.2, 2.5.8; from memory), and
words that a program left behind.
"""

from pathlib import Path

import pytest
from django.test import Client

from drill_ladder.apps.people.models import Player, Squad
from tests.browser.driver import close_browser, open_browser, set_size
from tests.browser.hands import ready, sign_in
from tests.every_address import paths_of
from tests.make import owner_of

MEASURE = Path(__file__).with_name("measure.js").read_text()
SIZES = ((1280, 800), (1024, 768), (768, 1024), (390, 844), (320, 640))
LARGE = ((1280, 800), (1024, 768), (768, 1024), (390, 844))
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
    Player.objects.create(club=club.club, name=FROM_RIGHT)
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
        driver.execute_async_script(
            "requestAnimationFrame(() => requestAnimationFrame(arguments[0]))"
        )
        for one in driver.execute_script(MEASURE):
            found.setdefault(one, []).append(width)
    return found


def measured(driver, server, pages, sizes):
    wrong = {}
    for path, name in pages.items():
        found = wrong_on(driver, server.url + path, sizes)
        if found:
            wrong[f"{name} {path}"] = found
    return wrong


def test_no_screen_is_cut_at_any_size(pages, club, browser, live_server):
    assert len(pages) > 90
    sign_in(browser, live_server, owner_of(club.club))
    assert measured(browser, live_server, pages, SIZES) == {}


def test_no_screen_is_cut_with_letters_twice_as_large(pages, club, large_letters, live_server):
    sign_in(large_letters, live_server, owner_of(club.club))
    assert measured(large_letters, live_server, pages, LARGE) == {}
