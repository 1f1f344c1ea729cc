"""A squad at one look: how many lines of a list a coach sees, and how much the head takes."""

import pytest
from django.utils import timezone
from selenium.webdriver.common.by import By

from drill_ladder.apps.people.models import Player, Squad
from tests.browser.driver import set_size, wait_until
from tests.browser.hands import ready, sign_in
from tests.make import drill, ladder, put_on

LINES = """
const box = (one) => one.getBoundingClientRect();
const lines = [...document.querySelectorAll(".lines > li, .weeks tbody tr")];
const seen = lines.filter((one) => box(one).bottom <= innerHeight);
return [seen.length, box(document.querySelector(".page-head")).height];
"""
HEAD_PX, LEAST = 150, 12


@pytest.fixture
def crowded(club, browser, live_server):
    """Twenty players of one squad, twenty ladders."""
    squad = Squad.objects.create(club=club.club, name="Under 12")
    for n in range(20):
        one = Player.objects.create(
            club=club.club, name=f"Player {n}", joined_on=timezone.localdate(), squad=squad
        )
        put_on(club, player=one)
        ladder(club.club, drill(club.club, f"Drill {n}"), f"Ladder {n}")
    set_size(browser, 1280, 800)
    sign_in(browser, live_server, club.coach)


@pytest.mark.parametrize("where", ["/players/", "/ladders/", "/drills/", "/weeks/"])
def test_twelve_lines_at_one_look(crowded, browser, live_server, where):
    browser.get(f"{live_server.url}{where}")
    ready(browser)
    lines, head = browser.execute_script(LINES)
    assert lines >= LEAST
    assert head <= HEAD_PX


def test_who_likes_it_larger_has_it_larger_everywhere(crowded, club, browser, live_server):
    browser.get(f"{live_server.url}/players/")
    close = browser.find_element(By.CSS_SELECTOR, ".lines > li").size["height"]
    browser.get(f"{live_server.url}/account/")
    browser.find_element(By.CSS_SELECTOR, "[name=density] [value=comfortable]").click()
    browser.find_element(By.CSS_SELECTOR, "form.form button.main").click()
    wait_until(browser, "document.querySelector('.toasts')?.innerText.trim()")
    club.coach.user.refresh_from_db()
    assert club.coach.user.density == "comfortable"
    browser.get(f"{live_server.url}/players/")
    apart = browser.find_element(By.CSS_SELECTOR, ".lines > li").size["height"]
    assert close < apart
