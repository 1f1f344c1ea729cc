"""A coach raises the caution of a drill: every card it concerns follows, and the coach is told whom
it concerns.
"""

from datetime import timedelta

from django.utils import timezone
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import Select

from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.publishing import publish
from tests.browser.driver import set_size
from tests.browser.hands import click, expect, page, phone, problems, sideways, sign_in
from tests.make import put_on


def test_from_the_drills_form_to_card_desk_and_one_answer(club, browser, live_server):
    today = timezone.localdate()
    monday = today - timedelta(days=today.weekday())
    days = [{"weekday": n, "minutes": 20, "place": "home"} for n in range(7)]
    save_player(member=club.coach, player=club.player, days=days)
    put_on(club, on=today, place="home")
    for week in (monday, monday + timedelta(days=7)):
        weeks.solve(member=club.coach, player=club.player, monday=week)
        publish(member=club.coach, player=club.player, monday=week, at=timezone.now())
    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/")
    expect(browser, "Gate 1")

    set_size(browser)
    sign_in(browser, live_server, club.coach)
    browser.get(f"{live_server.url}/drills/{club.drill.pk}/edit/")
    Select(browser.find_element(By.NAME, "caution")).select_by_value("coached_only")
    click(browser, "Save")
    expect(browser, "is saved")
    browser.get(f"{live_server.url}/")
    expect(browser, "Not at home any more")
    assert "taken off cards and calendars" in page(browser)
    assert problems(browser) == []

    phone(browser)
    browser.get(f"{live_server.url}/card/{club.token}/")
    expect(browser, "Not at home any more: Gate")
    assert "Gate 1" not in page(browser)
    assert sideways(browser) == 0
    assert problems(browser) == []

    set_size(browser)
    browser.get(f"{live_server.url}/")
    click(browser, "Do it at the club")
    expect(browser, "at the club now")
    assert "Not at home any more" not in page(browser)
    assert Prescription.objects.get().place == "coached"
