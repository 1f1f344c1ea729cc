"""A player's pages: the present, and beside it what has an address of its own."""

from datetime import timedelta

import pytest
from django.test import Client

from drill_ladder.apps.history.models import Event
from tests.make import log, put_on, text

TABS = ("", "sessions/", "week/", "progress/", "coverage/", "report/", "decisions/", "family/")


def test_each_tab_is_a_page_and_says_which_it_is(w, coach):
    put_on(w)
    page = text(coach.get(f"/players/{w.player.pk}/"))
    bar = page.split('class="tabs"')[1].split("</nav>")[0]
    hrefs = [part.split('"')[0] for part in bar.split('href="')[1:]]
    assert len(hrefs) == len(set(hrefs)) == 9
    for href in hrefs:
        there = text(coach.get(href))
        marked = there.split('class="tabs"')[1].split("</nav>")[0]
        assert marked.count('aria-current="page"') == 1
        assert f'href="{href}"' in marked.split('aria-current="page"')[0].rsplit("<a", 1)[1]


def test_who_decides_nothing_is_offered_nothing_else(w):
    helper = Client()
    helper.force_login(w.assistant.user)
    page = text(helper.get(f"/players/{w.player.pk}/"))
    bar = page.split('class="tabs"')[1].split("</nav>")[0]
    for part in bar.split('href="')[1:]:
        assert helper.get(part.split('"')[0]).status_code == 200
    assert "Records" not in bar
    assert "/card/" not in text(helper.get(f"/players/{w.player.pk}/family/"))


def test_the_family_has_the_card_and_the_present_has_not(w, coach):
    address = f"/card/{w.token}/"
    assert address not in text(coach.get(f"/players/{w.player.pk}/"))
    family = text(coach.get(f"/players/{w.player.pk}/family/"))
    assert address in family
    assert "Marlow family" in family
    assert coach.get("/players/999999/family/").status_code == 404
    assert Event.objects.filter(verb__startswith="looked").count() <= 1


@pytest.mark.parametrize("pages", [1, 2])
def test_decisions_a_page_at_a_time(w, coach, today, pages):
    p = put_on(w, on=today - timedelta(days=9))
    log(p, today - timedelta(days=2), 8, 8)
    log(p, today - timedelta(days=1), 8, 8)
    path = f"/players/{w.player.pk}/decisions/"
    assert "Nothing decided yet" in text(coach.get(path))
    proposal = p.stays.get().proposals.latest("pk")
    coach.post(f"/review/{proposal.pk}/decide/", {"action": "confirm"})
    assert "Nothing decided yet" not in text(coach.get(f"{path}?page={pages}"))
