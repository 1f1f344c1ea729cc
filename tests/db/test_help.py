"""Help where the question arises: pages, words with pictures, methods, and why the rule says so."""

import re
from datetime import timedelta
from pathlib import Path

import pytest
from django.urls import get_resolver

from drill_ladder.apps.help.methods import methods_page
from drill_ladder.apps.help.pages import LIKE, PAGES, help_of
from drill_ladder.apps.help.trade_words import trade_words
from drill_ladder.apps.help.why import STEP, why_of
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import Kind
from tests.doors import TABLE
from tests.make import current, log, put_on, text

HTMX = {"HX-Request": "true"}
STATIC = Path(__file__).parents[2] / "drill_ladder" / "ui" / "static" / "css"


def stay_of(p):
    return Stay.objects.with_all().prefetch_related("judged").get(pk=current(p).pk)


def test_every_page_and_word_that_help_names_is_there():
    known = {word.name for word in trade_words()}
    assert set(PAGES) | set(LIKE) <= set(TABLE) | {"help:why"}
    assert set(LIKE.values()) <= set(PAGES)
    assert {word for one in PAGES.values() for word in one.words} <= known
    assert all(word.svg.startswith("<svg") for word in trade_words())
    assert len({word.svg for word in trade_words()}) >= 26  # each its own picture, nearly
    assert get_resolver()


def test_no_page_goes_without_help(coach):
    for name in (*PAGES, "no:such"):
        page = text(coach.get(f"/help/?of={name}", headers=HTMX))
        assert help_of(name).what in page
        assert "<kbd>?</kbd>" in page
        assert "<html" not in page
    assert "<html" in text(coach.get("/help/?of=%00x"))


def test_each_coachs_page_offers_it(coach, w):
    page = text(coach.get("/"))
    assert 'aria-keyshortcuts="?"' in page
    assert 'data-of="progress:desk"' in page
    assert "circle-help" in page


def test_words_and_methods_are_pages(coach):
    words = text(coach.get("/help/words/"))
    assert all(f'id="{word.anchor}"' in words for word in trade_words())
    methods = text(coach.get("/help/methods/"))
    html, sections = methods_page()
    assert len(sections) > 30
    assert all(f'href="#{anchor}"' in methods for anchor, _ in sections)
    assert "What screens promise, and what was found" in methods
    assert '<table tabindex="0">' in html
    assert "style=" not in html  # the content security policy refuses it
    assert "&lt;!--" not in html
    for anchor in ("4-decision-retention-own-calls", "36-where-days-differ"):
        assert f'id="{anchor}"' in html  # why.html leads there


def test_why_it_holds_is_told_with_the_players_numbers(w, coach, today):
    p = put_on(w, on=today - timedelta(days=20))
    log(p, today - timedelta(days=4), 8, 8)
    found = why_of(stay_of(p), today)
    assert found.decision.kind is Kind.HOLD
    assert [step.state for step in found.steps] == ["no"] * 7 + ["yes"]
    met = found.steps[4].answer
    assert met.startswith("Missing: 1 more pass (1 of 2)")
    page = text(coach.get(f"/stays/{current(p).pk}/why/"))
    assert "Why hold?" in page
    assert met in page
    assert "Last time 4 days ago" in page or "asks for no check after time away" in page
    rung = current(p).terms.rung
    assert f"Of {rung.default_attempts} attempts that is at least" in page
    assert "The next session completes the climb" in page


def test_each_kind_of_decision_has_its_step(w, coach, today):
    assert set(STEP) == set(Kind)
    p = put_on(w, on=today - timedelta(days=20))
    assert why_of(stay_of(p), today).decision.kind is Kind.WAIT
    waiting = text(coach.get(f"/stays/{current(p).pk}/why/"))
    assert "No session on this rung yet." in waiting
    log(p, today - timedelta(days=4), 9, 9)
    log(p, today - timedelta(days=2), 9, 9)
    climbs = why_of(stay_of(p), today)
    assert climbs.decision.kind is Kind.CLIMB
    assert [s.state for s in climbs.steps] == ["no"] * 4 + ["yes"] + ["later"] * 3
    open_stop(player=w.player, what="knee", on=today, actor=None)
    rests = why_of(stay_of(p), today)
    assert rests.steps[0].state == "yes"
    assert text(coach.get(f"/stays/{current(p).pk}/why/")).count("Not asked any more.") == 7


def test_review_and_player_lead_there(w, coach, today):
    p = put_on(w, on=today - timedelta(days=20))
    log(p, today - timedelta(days=4), 9, 9)
    log(p, today - timedelta(days=2), 9, 9)
    link = f"/stays/{current(p).pk}/why/"
    assert link in text(coach.get("/review/"))
    assert link in text(coach.get(f"/players/{w.player.pk}/"))


@pytest.mark.parametrize("path", ["/help/", "/help/words/", "/help/methods/"])
def test_strangers_are_led_to_the_door(client, w, path):
    assert client.get(path).status_code == 302


def test_the_readers_own_text_size_is_respected():
    """The root is a share of it, never so many pixels."""
    for name in ("app", "card", "print"):
        for file in STATIC.glob(f"{name}*.css"):
            roots = re.findall(r"html\{[^}]*font-size:([^;}]+)", file.read_text())
            assert all(size.endswith("%") for size in roots), (file, roots)
    assert re.search(r"html\{[^}]*font-size:106\.25%", (STATIC / "app.css").read_text())
