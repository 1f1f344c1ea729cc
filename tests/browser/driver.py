"""Headless Chromium from Debian's packages: nothing is looked up on the net."""

import os
import shutil
import tempfile
import time
from collections.abc import Sequence
from typing import Any

from selenium import webdriver
from selenium.webdriver.chrome.service import Service

FLAGS = [
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-default-apps",
    "--window-size=1280,800",
    "--force-device-scale-factor=1",
    "--hide-scrollbars",
    "--lang=en-GB",
    "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1, EXCLUDE localhost",
]


MEMORY, ROOM = "/dev/shm", 1_000_000_000  # noqa: S108


def _in_memory() -> bool:
    """Whether there is room in memory for what a browser writes: a disk is slow at it."""
    try:
        return os.access(MEMORY, os.W_OK) and shutil.disk_usage(MEMORY).free > ROOM
    except OSError:
        return False


def open_browser(profile: str = "", letters: int = 0, flags: Sequence[str] = ()) -> Any:
    """A browser with a profile of its own (removed by close_browser), or with one that another
    left behind. letters: px that its reader set as the usual size of letters; 0: the browser's own;
    flags: more of the browser's own.
    """
    memory = _in_memory()
    profile = profile or tempfile.mkdtemp(prefix="chrome-", dir=MEMORY if memory else None)
    options = webdriver.ChromeOptions()
    options.binary_location = os.environ.get("CHROME", "/usr/bin/chromium")
    own = [f"--user-data-dir={profile}", *([] if memory else ["--disable-dev-shm-usage"])]
    for flag in [*FLAGS, *own, *flags]:
        options.add_argument(flag)
    if letters:
        options.add_experimental_option("prefs", {"webkit.webprefs.default_font_size": letters})
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = webdriver.Chrome(
        options=options, service=Service(os.environ.get("CHROMEDRIVER", "/usr/bin/chromedriver"))
    )
    driver.set_page_load_timeout(30)
    driver.set_script_timeout(30)
    driver.profile = profile
    return driver


def close_browser(driver: Any) -> None:
    """End the browser and remove its profile."""
    driver.quit()
    shutil.rmtree(driver.profile, ignore_errors=True)


def set_size(
    driver: Any, width: int = 1280, height: int = 800, phone: bool = False, scale: int = 1
) -> None:
    """The size of the page itself, not of the window around it. scale: pixels a pixel, for pictures
    of a phone's screen.
    """
    size = {"width": width, "height": height, "deviceScaleFactor": scale, "mobile": phone}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    if getattr(driver, "touches", None) == phone:
        return
    driver.touches = phone
    touch = {"enabled": phone, "maxTouchPoints": 5 if phone else 1}
    driver.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", touch)


def wait_until(driver: Any, script: str, seconds: float = 20) -> Any:
    """Wait until a script's expression is true, and return its value."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        value = driver.execute_script(f"return {script}")
        if value:
            return value
        time.sleep(0.03)
    raise AssertionError(f"never true: {script}\nlog: {driver.get_log('browser')}")
