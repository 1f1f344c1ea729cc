"""Pictures of the main views from the running demo, into docs/screenshots (or a folder of your
own).

Usage: .venv/bin/python scripts/shots.py http://127.0.0.1:8000 [FOLDER] [NAME ...]
"""

import sys
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tests.browser.driver import close_browser, open_browser, set_size, wait_until

COACH, PASSWORD = "coach@tern-harbour.example", "tern-harbour-demo"
CARD = "the card of Ida"
OF_CARD = {CARD: "Ida Marlow"}


def sign_in(driver: Any, base: str) -> None:
    """As the demo coach."""
    driver.get(f"{base}/accounts/login/")
    driver.find_element("name", "login").send_keys(COACH)
    driver.find_element("name", "password").send_keys(PASSWORD)
    driver.find_element("css selector", "button.main").click()
    wait_until(driver, "location.pathname === '/'")


def card_of(driver: Any, base: str, name: str) -> str:
    """The path of a player's card: its secret stands on their page."""
    sign_in(driver, base)
    driver.get(f"{base}/players/")
    follow(driver, name)
    follow(driver, "Family")
    link = driver.find_element("id", "card-link").get_attribute("value")
    driver.delete_all_cookies()
    return str(link).removeprefix(base)


def tab(driver: Any, path: str) -> None:
    """One of a player's pages."""
    driver.find_element("css selector", f".tabs a[href*='{path}']").click()


def follow(driver: Any, text: str) -> None:
    """Click on a link."""
    link = driver.find_element("partial link text", text)
    driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", link)
    link.click()


def block(driver: Any, ladder: str) -> None:
    """Open a block of the card by its ladder, whichever comes first on the day of the pictures."""
    driver.find_element(
        "xpath", f"//a[contains(@class, 'block-card')][contains(., '{ladder}')]"
    ).click()


def place(driver: Any) -> None:
    """Two short sets of the player who is new today."""
    for words in ("Leila", "Prescribe", "Push", "Find the starting"):
        follow(driver, words)
    for counts in ((4, 4), (2, 3)):
        for lane, n in enumerate(counts):
            driver.execute_script(
                f"document.querySelector('[name=good-{lane}][value=\"{n}\"]').click()"
            )
        driver.execute_script("window.before = true")
        driver.find_element("css selector", "[name=probe]").click()
        wait_until(driver, "!window.before && document.readyState === 'complete'")


def stations(driver: Any) -> None:
    """What several of those here share, by the clock and in its roles."""
    hall(driver)
    driver.execute_script("document.getElementById('tab-together').click()")
    driver.execute_script(
        "const keys = [...document.querySelectorAll('#hall-together button')];"
        "keys.find((one) => one.textContent.startsWith('By the clock')).click();"
    )
    wait_until(driver, "document.querySelector('.station-card')")


def hall(driver: Any) -> None:
    """Six players are here, one of them half way through."""
    wait_until(driver, "document.documentElement.dataset.hall === 'open'")
    driver.execute_script(
        "const say = (id) => document.getElementById(id).click();"
        "say('hall-drawer');"
        "for (const b of document.querySelectorAll('#hall-squads button')) b.click();"
        "say('hall-shut');"
    )
    wait_until(driver, "document.querySelectorAll('.hall-tile').length > 6")
    for n, word in enumerate("gggmggmggg"):
        look = ".tile-good" if word == "g" else ".tile-miss"
        driver.execute_script(
            "const all = document.querySelectorAll(arguments[0]); all[arguments[1] % 5].click()",
            look,
            n,
        )
    wait_until(driver, "document.documentElement.dataset.sent === 'yes'")


def run(driver: Any) -> None:
    """Seven strokes into a block."""
    block(driver, "Push pass")
    wait_until(driver, "document.documentElement.dataset.keptForms === 'ready'")
    press = (
        "[...document.querySelectorAll('button')]"
        ".find((b) => b.offsetParent && b.innerText.startsWith(arguments[0]))?.click()"
    )
    driver.execute_script(press, "I am ready")
    driver.execute_script("document.querySelector('[name=adult]')?.click()")
    for words in ("Begin", *["Good"] * 4, "Miss", "Good", "Miss"):
        wait_until(driver, "document.readyState === 'complete'")
        driver.execute_script(press, words)
    wait_until(driver, "document.querySelector('.pad-stroke.miss')")


# name: (path, phone, what to do there, dark)
VIEWS: dict[str, tuple[str, bool, Any, bool]] = {
    "desk": ("/", False, None, False),
    "week": ("/players/", False, lambda d: (follow(d, "Ida Marlow"), tab(d, "/week/")), False),
    "place": ("/players/", False, place, False),
    "hall": ("/floor/", False, hall, False),
    "test-day": ("/tests/", False, lambda d: follow(d, "Half term"), False),
    "club": ("/club/", False, None, False),
    "outbox": ("/club/outbox/", False, None, False),
    "history": ("/club/history/", False, None, False),
    "stations": ("/floor/", False, stations, False),
    "review": ("/review/", False, None, False),
    "squad": ("/players/", False, lambda d: follow(d, "Badminton juniors"), False),
    "progress-dark": (
        "/players/",
        False,
        lambda d: (follow(d, "Ida Marlow"), follow(d, "Progress")),
        True,
    ),
    "report": (
        "/players/",
        False,
        lambda d: (follow(d, "Ida Marlow"), follow(d, "Progress"), follow(d, "Write the")),
        False,
    ),
    "player": ("/players/", False, lambda d: follow(d, "Ida Marlow"), False),
    "ladder": ("/ladders/", False, lambda d: follow(d, "Push pass"), False),
    "builder": (
        "/ladders/",
        False,
        lambda d: (follow(d, "Push pass"), follow(d, "Edit the rungs")),
        False,
    ),
    "card-phone": (CARD, True, None, False),
    "block-phone": (CARD, True, run, False),
    "drill": ("/drills/", False, lambda d: follow(d, "Six-corner"), False),
}


def main(base: str, folder: str = "docs/screenshots", *names: str) -> None:
    """Take them all, or those named."""
    driver = open_browser()
    Path(folder).mkdir(parents=True, exist_ok=True)
    try:
        for name, (path, phone, act, dark) in VIEWS.items():
            if names and name not in names:
                continue
            driver.delete_all_cookies()
            set_size(
                driver,
                *((390, 844) if phone else (1280, 800)),
                phone=phone,
                scale=2 if phone else 1,
            )
            if path in OF_CARD:
                path = card_of(driver, base, OF_CARD[path])
            else:
                sign_in(driver, base)
            driver.execute_script(f"localStorage.setItem('theme', '{'dark' if dark else 'light'}')")
            driver.get(base + path)
            if act:
                act(driver)
            wait_until(
                driver, "document.readyState === 'complete' && document.fonts.status === 'loaded'"
            )
            driver.save_screenshot(f"{folder}/{name}.png")
            print(
                name,
                [
                    entry["message"]
                    for entry in driver.get_log("browser")
                    if entry["level"] == "SEVERE"
                ],
            )
    finally:
        close_browser(driver)


if __name__ == "__main__":
    main(*sys.argv[1:])
