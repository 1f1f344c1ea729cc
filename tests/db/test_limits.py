"""Limits beside the form's own: what a preview calls fine is stored, and nothing small
costs much.
"""

import json
import tracemalloc
from itertools import count

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from drill_ladder.apps.card.paper.pages import MOST_ROWS as ON_PAPER
from drill_ladder.apps.card.paper.pages import home_card, tallies
from drill_ladder.apps.library.files.exchange import import_library, preview
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.work.building import work_of
from drill_ladder.apps.practice.work.entries import MOST_ROWS
from drill_ladder.formats.library_file import read_library
from tests.make import current, drill, ladder, put_on, text


def library(n, **more):
    one = {
        "measure": {"kind": "makes"},
        "lanes": ["left", "right"],
        "caution": "home_alone",
        "skill": "Passing",
    }
    return json.dumps(
        {"format": "drill-ladder/1", "drills": [{**one, "title": f"D{i}"} | more for i in range(n)]}
    ).encode()


def test_three_hundred_drills_are_a_handful_of_questions(w):
    """New, and changed: the number of questions does not grow with the number of drills."""
    asked = {}
    for n, purpose in ((30, "a"), (300, "b"), (300, "c")):
        document = read_library(library(n, purpose=purpose))
        with CaptureQueriesContext(
            connection,
        ) as found:
            import_library(member=w.coach, library=document)
        asked[purpose] = len(found)
    assert Drill.objects.filter(purpose="c").count() == 300
    assert max(asked.values()) <= 40, asked


def test_two_thousand_players_are_a_handful_of_questions(w, coach):
    rows = "".join(f"P {i},Under 12,2014-05,yes,G {i}\r\n" for i in range(300))
    table = f"name,squad,birth_month,home_wall,guardian_name\r\n{rows}"
    for sent in (table, table.replace(",yes,", ",no,")):
        with CaptureQueriesContext(connection) as found:
            assert coach.post("/roster/in/", {"text": sent, "sure": "yes"}).status_code == 302
        assert len(found) <= 45, len(found)
    assert Player.objects.filter(home_wall=False, squad__name="Under 12").count() == 300


FINE = {
    "the longest names": {
        "title": "x" * 120,
        "purpose": "y" * 300,
        "caution_note": "z" * 300,
        "skill": "s" * 80,
    },
    "signs of all kinds": {"title": "Änderung 👍🏽 'q' <b>", "how": "one\ntwo"},
    "many lanes": {"lanes": [f"lane {i}" for i in range(60)]},
    "many cues": {"cues": ["c" * 300] * 3, "faults": [f"f{i}" for i in range(60)]},
}


@pytest.mark.parametrize("what", FINE)
def test_what_the_preview_calls_fine_is_stored(w, coach, what):
    data = library(1, **FINE[what]).decode()
    assert coach.post("/library/in/", {"text": data}).status_code == 200
    assert coach.post("/library/in/", {"text": data, "sure": "yes"}).status_code == 302
    assert {c.what for c in preview(w.club, read_library(data.encode()))} == {"same"}


def test_a_fault_of_one_drill_stores_none(w, coach):
    document = json.loads(library(3))
    document["drills"][2]["title"] = "x" * 121
    answer = coach.post("/library/in/", {"text": json.dumps(document), "sure": "yes"})
    assert answer.status_code == 422
    assert "$.drills[2].title" in text(answer)
    assert Drill.objects.filter(title__startswith="D").count() == 0


def test_the_largest_file_stays_small_in_memory(w, coach):
    """Just under two megabytes of drills: looked at with less than 300 MB."""
    data = library(2000, how="x" * 700)
    tracemalloc.start()
    assert (
        coach.post("/library/in/", {"file": SimpleUploadedFile("a.json", data)}).status_code == 200
    )
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert peak < 300_000_000


def test_a_card_page_has_at_most_two_hundred_rows(w):
    wide = drill(w.club, "Wide", lanes=[f"lane {i}" for i in range(40)])
    stay = current(
        put_on(
            w, ladder=ladder(w.club, wide, "Wide ones", dose={"sets": 50, "reps": 10}), place="home"
        )
    )
    page = text(Client().get(f"/card/{w.token}/{stay.pk}/"))
    assert page.count('<fieldset class="entry"') == MOST_ROWS
    assert "for the other 1800" in page


def test_a_paper_week_holds_what_a_page_holds(w, monkeypatch):
    """However much is prescribed, the rows to tick are as many as fit: laying them out takes
    seconds, not minutes.
    """
    numbers = count(1)
    for _ in range(20):
        wide = drill(
            w.club, f"D{next(numbers)}", lanes=[f"lane {i}" for i in range(8)], how="word " * 3000
        )
        put_on(
            w, ladder=ladder(w.club, wide, wide.title, dose={"sets": 50, "reps": 20}), place="home"
        )
    w.player.prescriptions.update(per_week=7)
    seen = {}
    monkeypatch.setattr(
        "drill_ladder.apps.card.paper.pages.pdf",
        lambda template, context, sizes: seen.update(context) or b"",
    )
    home_card(w.player, timezone.localdate(), "x")
    rows = sum(len(block.rows) * len(block.times) for block in seen["blocks"])
    assert rows <= ON_PAPER + 10 * 7
    assert all(len(block.how) <= 400 for block in seen["blocks"])


def test_rows_left_off_the_paper_are_said(w):
    stay = current(put_on(w, ladder=ladder(w.club, w.drill, "Long", dose={"sets": 5, "reps": 10})))
    told = tallies(work_of(stay, stay.arrived), 4)
    assert [row.name for row in told] == [
        "left, set 1",
        "right, set 1",
        "left, set 2",
        "and 7 more",
    ]


def test_a_rung_without_a_name_and_with_terms_that_cannot_be(w, coach):
    """Found by ten thousand spoiled inputs: the notes beside a row looked at terms that the form
    had not read yet.
    """
    sent = {
        "rung-0-drill": w.drill.pk,
        "rung-0-title": "",
        "rung-0-sets": 1,
        "rung-0-makes": 8,
        "rung-0-of": 10,
    }
    for wrong in (
        {"rung-0-floor": "500"},
        {"rung-0-makes": "11"},
        {"rung-0-plan": '{"units": "m"}'},
    ):
        assert coach.post("/ladders/look/0/", sent | wrong).status_code == 200
    management = {
        "rung-TOTAL_FORMS": 1,
        "rung-INITIAL_FORMS": 0,
        "revision": 0,
        "title": "",
        "step": "copy-0",
    }
    assert coach.post("/ladders/new/", sent | management | {"rung-0-floor": "500"}).status_code in (
        200,
        422,
    )
