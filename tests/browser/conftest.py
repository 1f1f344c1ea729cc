"""A live server as in production, and one browser for all journeys."""

from unittest import mock

import pytest

from tests import make
from tests.browser.driver import close_browser, open_browser, set_size, wait_until
from tests.browser.hands import phone, ready
from tests.browser.proxy import Relay
from tests.fixtures import (
    _emptied_between_tests,
    _small_practice_club,
    _static_files_once,
    coach,
    mark_days,
    other,
    season,
    today,
    w,
)

__all__ = [
    "_emptied_between_tests",
    "_small_practice_club",
    "_static_files_once",
    "coach",
    "other",
    "season",
    "today",
    "w",
]


def pytest_collection_modifyitems(items):
    """Those that depend on the day are known by what they ask."""
    mark_days([item for item in items if "/tests/browser/" in str(item.path)])


@pytest.fixture(scope="session")
def live_server(request):
    """pytest-django's live server without its static handler: whitenoise serves the hashed files,
    as in production.
    """
    from pytest_django.live_server_helper import LiveServer

    with mock.patch("django.contrib.staticfiles.handlers.StaticFilesHandler", lambda app: app):
        server = LiveServer("127.0.0.1")
    yield server
    server.stop()


@pytest.fixture(scope="session")
def _browser():
    driver = open_browser()
    yield driver
    close_browser(driver)


@pytest.fixture
def browser(_browser):
    """1280 x 800 and clean; every message on the console is a failure."""
    _browser.get_log("browser")
    set_size(_browser)
    yield _browser
    noise = [entry for entry in _browser.get_log("browser") if not _expected(entry["message"])]
    if _browser.current_url.startswith("http"):
        origin = "/".join(_browser.current_url.split("/")[:3])
        _browser.execute_cdp_cmd(
            "Storage.clearDataForOrigin", {"origin": origin, "storageTypes": "all"}
        )
    _browser.delete_all_cookies()
    _browser.get("about:blank")
    assert noise == []


def _expected(message: str) -> bool:
    """A refused form is told as a failed request by the browser: that is how it should be. So is a
    question that was given up because the next key asked it anew (a request that really failed says
    sendError besides).
    """
    # the icon of a page that was left while the browser fetched it
    known = ("status of 422", "htmx:sendAbort", "htmx:afterRequest", "icon from the Manifest")
    return any(words in message for words in known)


@pytest.fixture
def club(transactional_db):
    """A club that the live server sees too."""
    return make.world()


@pytest.fixture
def network(live_server):
    """The way to the server, which can be cut."""
    relay = Relay(live_server.thread.host, live_server.thread.port)
    yield relay
    relay.close()


@pytest.fixture
def card(club, browser, network):
    """The card, opened once on this phone and kept there."""
    make.put_on(club, place="home")
    phone(browser)
    address = f"http://127.0.0.1:{network.port}/card/{club.token}/"
    browser.get(address)
    ready(browser)
    wait_until(browser, "document.documentElement.dataset.kept === 'yes'")
    yield address
    network.cut = False
    browser.execute_script(
        "return navigator.serviceWorker.getRegistrations()"
        ".then(all => Promise.all(all.map(one => one.unregister())))"
    )
    noise = [entry["message"] for entry in browser.get_log("browser")]
    assert [one for one in noise if "Failed to load resource" not in one] == []
