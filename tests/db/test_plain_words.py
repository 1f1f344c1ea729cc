"""What a child or a family reads is as easy as a ten-year-old needs it: every sentence of the
templates of card, run and report, and everything that is composed for them.
"""

from datetime import timedelta
from pathlib import Path

import pytest

from drill_ladder.apps.messages import letters
from drill_ladder.apps.practice.models import Session, Why
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.apps.practice.words import (
    EXPECTED,
    HEADLINES,
    outcome,
    read_lines_for_player,
)
from drill_ladder.apps.progress.report.writing import sections_of
from drill_ladder.core.coaching import Answers
from drill_ladder.core.judging import Ahead, Kind, Lacking, Missing
from tests.make import log, text
from tests.readability import grade, of_html, of_template, sentences, syllables, worst

APPS = Path(__file__).parents[2] / "drill_ladder" / "apps"
SHARED = ("_how_lines", "_pad", "_instrument", "_instrument_keys", "_hurt_form", "_stopped")
SHARED += ("_unreachable", "_worn", "_caller", "_beside_count", "_technique", "_at_end")
COACHS = {"paper_in.html", "print_sheet.html", "sheet_of_all.html"}  # read by coaches alone
HARDEST = 8.0  # one sentence; a long word in a short one already makes 6
ALL = 4.0  # all of them together: a child of nine or ten


def test_the_measure_is_the_published_one():
    """Two sentences whose words and syllables are counted by hand."""
    # 6 words, 6 syllables: 0.39 * 6 + 11.8 - 15.59
    assert grade("The cat sat on the mat.") == pytest.approx(-1.45)
    # 13 words, 24 syllables, one sentence (by places to break: of-fi-cers 3, pre-pared 2)
    assert syllables("ladder") == 2
    assert grade("Comprehensive documentation necessitates interdisciplinary collaboration.") > 20


@pytest.fixture(scope="module")
def templates():
    own = [one for one in APPS.glob("card/templates/card/*.html") if one.name not in COACHS]
    shared = [APPS / "practice/templates/practice" / f"{name}.html" for name in SHARED]
    return {one.name: list(of_template(one)) for one in [*own, *shared]}


def too_hard(found):
    return [one for one in worst(found) if one.grade > HARDEST]


def all_of(found):
    return grade(" ".join(one for rows in found.values() for one in rows))


def test_templates_of_card_run_and_report(templates):
    assert sum(map(len, templates.values())) > 100
    assert too_hard(templates) == []
    assert all_of(templates) <= ALL


def missing(code):
    return Missing(
        code,
        {"have": 1, "need": 2, "lane": "left", "next_on": "3 March", "allowed": 1, "of": 3},
    )


def composed(season, rung):
    """What is said of sessions, for every verdict and everything that can come next."""
    ends = [[missing(code)] for code in Lacking]
    aheads = [Ahead(kind, None, tuple(one)) for kind in Kind for one in ends]
    judged = season.judged
    said = {outcome(judged, one, rung.core, rung).upcoming for one in aheads}
    answers = Answers(hits=5, misses=2, false_alarms=1, correct_leaves=3, right=4, choices=5)
    return {
        "headlines": [comment for _, comment in HEADLINES.values()],
        "expected": [comment.format(band="20 % to 40 %") for _, comment in EXPECTED.values()],
        "what comes next": sorted(said),
        "calls": [f"{line}." for line in read_lines_for_player(answers)],
        "left out": [f"Left out today: {words}." for words in Why.labels],
    }


def judged_whole(found):
    found = {place: [s for one in rows for s in sentences(one)] for place, rows in found.items()}
    assert too_hard(found) == []
    assert all_of(found) <= ALL


def test_what_is_said_after_a_session(w, season, today):
    from drill_ladder.apps.practice.judged.days import days_of

    stay = Session.objects.latest("on").stay
    season.judged = days_of(stay, False)[-1]
    judged_whole(composed(season, stay.rung))


def test_letters_to_a_family(w, season, today):
    stop = open_stop(player=w.player, what="my knee", on=today, actor=None)
    begun = letters.hurt(stop, "my knee", 1, to_coach=False)
    again = letters.hurt(stop, "my knee", 3, to_coach=False, since=3)
    end_stop(member=w.coach, stop=stop, cleared_by="the physio", on=today)
    stop.refresh_from_db()
    all_ = [
        begun,
        again,
        letters.cleared(stop, to_coach=False),
        letters.card_link(w.player, "x", "1"),
        letters.reminder(w.player, ["Gate"], f"{today}", "x"),
    ]
    judged_whole({one.key: list(one.lines) for one in all_})


def test_reports(w, season, today):
    sections = sections_of(w.player, today, today - timedelta(weeks=12))
    assert sections
    judged_whole({one.title: list(one.lines) for one in sections})


def test_the_pages_themselves(w, season, today, coach):
    session = log(Session.objects.latest("on").stay.prescription, today, 7, 8)
    card = f"/card/{w.token}/"
    pages = (card, f"{card}climb/", f"{card}done/{session.pk}/", f"{card}{session.stay_id}/run/")
    found = {}
    for page in pages:
        answer = coach.get(page)
        assert answer.status_code == 200, page
        assert text(answer)
        found[page] = of_html(answer.content.decode())
    judged_whole(found)
