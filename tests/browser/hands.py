"""What a person does with a page."""

import json
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from functools import partial
from pathlib import Path
from typing import Any

from django.conf import settings
from django.test import Client
from selenium.common.exceptions import (
    ElementClickInterceptedException,
    NoSuchElementException,
    StaleElementReferenceException,
)
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.driver import set_size, wait_until
from tests.make import PASSWORD

# seconds: a busy machine has slow spells, and patience costs nothing where all is well
PATIENCE = 20
# drawn anew under the hand, not there yet, or still behind what leaves the page
NOT_YET = (
    StaleElementReferenceException,
    NoSuchElementException,
    ElementClickInterceptedException,
)
AXE = (Path(__file__).parent / "axe.min.js").read_text()


def ready(driver: Any) -> None:
    """Wait until the page and its scripts are there."""
    wait_until(driver, "document.readyState === 'complete' && window.Alpine !== undefined")
    wait_until(
        driver,
        "!document.querySelector('form[data-kept]') "
        "|| document.documentElement.dataset.keptForms === 'ready'",
    )


ALL_WORK = """
const done = arguments[arguments.length - 1];
const opening = indexedDB.open("drill-ladder");
opening.onsuccess = () => {
  const base = opening.result;
  if (![...base.objectStoreNames].includes("work")) { base.close(); done("[]"); return; }
  const all = base.transaction("work").objectStore("work").getAll();
  all.onsuccess = () => { base.close(); done(JSON.stringify(all.result)); };
};
"""


def kept(driver: Any, words: str) -> None:
    """Wait until the device keeps something that says this."""
    end = time.monotonic() + PATIENCE
    while time.monotonic() < end:
        if words in driver.execute_async_script(ALL_WORK):
            return
        time.sleep(0.05)
    raise AssertionError(f"not kept: {words}")


def idle(driver: Any) -> None:
    """Wait until nothing is asked of the server any more: a page that is left with a question open
    complains.
    """
    wait_until(
        driver,
        "document.querySelectorAll('.htmx-request, .htmx-swapping, .htmx-settling').length === 0",
    )


def sign_in(driver: Any, server: Any, member: Any) -> None:
    """With a session of theirs, as the form would give it (test_loop goes through the form), and on
    their first page.
    """
    visitor = Client()
    visitor.force_login(member.user)
    ticket = visitor.cookies[settings.SESSION_COOKIE_NAME]
    cookie = {"name": ticket.key, "value": ticket.value, "url": server.url, "httpOnly": True}
    driver.execute_cdp_cmd("Network.setCookie", cookie)
    driver.get(f"{server.url}/")
    ready(driver)


def sign_in_by_form(driver: Any, server: Any, member: Any) -> None:
    """As a person does."""
    driver.get(f"{server.url}/accounts/login/")
    driver.find_element(By.NAME, "login").send_keys(member.user.email)
    driver.find_element(By.NAME, "password").send_keys(PASSWORD + Keys.ENTER)
    wait_until(driver, "location.pathname === '/'")


def long_page(driver: Any, words: str) -> None:
    """Open the page of a card's block on which everything is typed or counted at once."""
    find = (
        "return [...document.querySelectorAll('a.block-card')]"
        ".find((one) => one.innerText.includes(arguments[0]))?.dataset.url"
    )
    wait_until(driver, f"document.body.innerText.includes({json.dumps(words)})")
    path = driver.execute_script(find, words)
    driver.get("/".join(driver.current_url.split("/")[:3]) + path)
    ready(driver)


def touch(find: Callable[[], Any]) -> None:
    """Touch what this finds, as soon as it is there and can be seen: a page may draw it anew
    between finding and touching, as under no finger.
    """
    end = time.monotonic() + PATIENCE
    while True:
        try:
            return find().click()
        except (*NOT_YET, StopIteration):
            if time.monotonic() > end:
                raise
        time.sleep(0.05)


def touch_key(driver: Any, css: str, times: int = 1) -> None:
    """Touch the first such key that can be seen."""
    for _ in range(times):
        keys = partial(driver.find_elements, By.CSS_SELECTOR, css)
        touch(lambda keys=keys: next(key for key in keys() if key.is_displayed()))


def click(driver: Any, words: str) -> None:
    """Click on the link or button that says this (the words alone, or among others), as soon as it
    is there.
    """
    path = (
        "//*[self::a or self::button or self::summary][contains(normalize-space(.), "
        f"{json.dumps(words)})]"
    )
    end = time.monotonic() + PATIENCE
    while time.monotonic() < end:
        try:
            found = next(
                (one for one in driver.find_elements(By.XPATH, path) if one.is_displayed()), None
            )
            if found is not None:
                driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", found)
                found.click()
                return
        except StaleElementReferenceException:
            pass  # the page changed under the hand: look again
        time.sleep(0.05)
    raise AssertionError(f"nothing to click on says {words!r}; the page says: {page(driver)[:600]}")


def page(driver: Any) -> str:
    """The text of the page."""
    return str(driver.find_element(By.TAG_NAME, "body").text)


def expect(driver: Any, words: str) -> None:
    """Wait until the page says this; if it never does, tell what it says instead."""
    try:
        wait_until(driver, f"document.body.innerText.includes({json.dumps(words)})")
    except AssertionError as error:
        raise AssertionError(
            f"{error}\nthe page at {driver.current_url} says: {page(driver)[:1500]}"
        ) from None


def choose_day(driver: Any) -> None:
    """The page's own day, where the page asks since this machine's clock says another one."""
    driver.execute_script(
        "const form = document.getElementById('log');"
        "const on = form?.elements.on;"
        "if (on?.options && !on.value) { on.value = form.dataset.day;"
        " on.dispatchEvent(new Event('change', { bubbles: true })); }"
    )


def choose(driver: Any, name: str, value: str) -> None:
    """Choose a radio button by its label."""
    found = driver.find_element(By.CSS_SELECTOR, f"input[name='{name}'][value='{value}']")
    driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", found)
    found.find_element(By.XPATH, "./..").click()


def strokes(driver: Any, marks: str) -> None:
    """Tap: g good, m miss, a letter of a fault's number is a digit."""
    ready(driver)
    good = driver.find_element(By.CSS_SELECTOR, ".pad-good")
    driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", good)
    for mark in marks:
        if mark == "g":
            good.click()
        elif mark == "m":
            driver.find_element(By.CSS_SELECTOR, ".pad-miss").click()
        else:
            driver.find_elements(By.CSS_SELECTOR, ".pad-faults .button")[int(mark)].click()


def phone(driver: Any) -> None:
    """390 x 844, touch."""
    set_size(driver, 390, 844, phone=True)


def sideways(driver: Any) -> int:
    """How many pixels the page can be scrolled sideways."""
    return int(
        driver.execute_script(
            "return document.documentElement.scrollWidth - document.documentElement.clientWidth"
        )
    )


@contextmanager
def axe_at_hand(driver: Any) -> Iterator[None]:
    """Every page that is opened meanwhile has axe-core: cheaper than to bring it to each."""
    add, remove = (f"Page.{act}ScriptToEvaluateOnNewDocument" for act in ("add", "remove"))
    known = driver.execute_cdp_cmd(add, {"source": AXE})
    try:
        yield
    finally:
        driver.execute_cdp_cmd(remove, known)


def problems(driver: Any, rules: Sequence[str] = ()) -> list[str]:
    """What axe-core finds wrong with the page. rules: these alone."""
    if driver.execute_script("return typeof axe") == "undefined":
        driver.execute_script(AXE)
    script = "axe.run(document, arguments[0]).then(r => arguments[1](r.violations))"
    # our pages have nothing to load beforehand, and what is right is not told
    only_wrong: dict[str, Any] = {"resultTypes": ["violations"], "preload": False}
    if rules:
        only_wrong["runOnly"] = {"type": "rule", "values": list(rules)}
    found = driver.execute_async_script(script, only_wrong)
    return [f"{v['id']}: {v['help']}: {[n['html'][:120] for n in v['nodes'][:3]]}" for v in found]
