"""Results out and in: one row a set, in two steps, and the same file twice changes nothing."""

from csv import DictReader
from datetime import timedelta
from io import BytesIO
from uuid import uuid4

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from openpyxl import load_workbook

from drill_ladder.apps.exchange.cells import value_of
from drill_ladder.apps.exchange.columns import COLUMNS
from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput, record_session
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.prescriptions.dose.dosing import minutes_of
from drill_ladder.apps.review.models import Proposal
from drill_ladder.core.coaching import Answers
from drill_ladder.formats.tables import read_table, write_xlsx
from tests.make import drill, ladder, log, put_on, text

HEAD = "on,player,ladder,rung,lane,set,attempts,makes,faults,observer,effort,note"


@pytest.fixture
def placed(w, today):
    return put_on(w, on=today - timedelta(days=20))


def table(*rows):
    return "\n".join([HEAD, *rows])


def row(on, lane, number, makes, more="late:1,coach,6,good"):
    return f"{on},Ida Marlow,Gate,1,{lane},{number},10,{makes},{more}"


def pair(on, makes=8, more="late:1,coach,6,good"):
    return [row(on, "left", 1, makes, more), row(on, "right", 1, makes, more)]


def look(coach, rows, **more):
    return coach.post("/results/in/", {"text": rows, **more})


def test_first_a_preview_then_all_of_it_and_the_same_again_changes_nothing(coach, placed, today):
    rows = table(*pair(today - timedelta(days=2)), *pair(today - timedelta(days=1)))
    page = look(coach, rows)
    assert (page.context["found"].count("new"), Session.objects.count()) == (2, 0)
    look(coach, rows, sure="yes")
    one = Session.objects.earliest("on")
    assert (one.effort, one.word, one.observer) == (6, "good", "coach")
    assert [(s.lane, s.makes, s.faults) for s in one.sets.all()] == [
        ("left", 8, {"late": 1}),
        ("right", 8, {"late": 1}),
    ]
    assert Proposal.objects.awaiting_review().get().kind == "climb"  # two passes in a row
    again = look(coach, rows)
    assert again.context["found"].count("same") == 2
    look(coach, rows, sure="yes")
    assert Session.objects.count() == 2


def test_what_goes_out_comes_in_as_the_same(coach, w, placed, today):
    log(placed, today, 7, 9)
    log(placed, today, 6, 6)
    runs = drill(w.club, "Runs", lanes=[], measure={"kind": "checklist", "items": ["a", "b"]})
    steps = ladder(
        w.club, runs, "Runs", target={"value": 0.5}, dose={"sets": 1}, floor=None, rungs=1
    )
    p = put_on(w, ladder=steps, on=today)
    coach.post(f"/log/{p.stays.get().pk}/", {"on": f"{today}", "hurts": "no", "e0-ticks": 1})
    out = coach.get("/results.csv").content.decode("utf-8-sig")
    assert out.splitlines()[0] == ",".join(COLUMNS)
    assert len(out.splitlines()) == 1 + 5
    page = look(coach, out)
    assert page.context["found"].problems == []
    assert [one.what for one in page.context["found"].sessions] == ["same"] * 3


def test_a_stranger_can_tell_how_each_set_was_done(coach, w, placed, today):
    """Stay, order, strokes, way, eased, tired, extra: out, and in again as it was."""
    stay = placed.stays.get()
    sets = [
        SetInput(uuid4(), "left", {"attempts": 2, "makes": 1, "strokes": "gm", "eased": True}),
        SetInput(uuid4(), "right", {"attempts": 2, "makes": 2, "strokes": "gg", "eased": None}),
    ]
    entry = SessionInput(uuid4(), today, "coach", sets, way="Against the wall", tired=True)
    record_session(stay=stay, entry=entry, today=today, actor=w.coach.user)
    out = coach.get("/results.csv").content.decode("utf-8-sig")
    rows = list(DictReader(out.splitlines()))
    assert [(r["stay"], r["order"], r["strokes"], r["eased"]) for r in rows] == [
        ("1", "1", "gm", "yes"),
        ("1", "2", "gg", ""),
    ]
    assert {(r["way"], r["tired"], r["extra"], r["recheck"]) for r in rows} == {
        ("Against the wall", "yes", "", "")
    }
    assert int(rows[0]["minutes"]) == minutes_of(stay.terms.rung)
    Session.objects.all().delete()
    look(coach, out, sure="yes")
    again = Session.objects.get()
    assert (again.way, again.tired) == ("Against the wall", True)
    assert [(s.strokes, s.eased) for s in again.sets.all()] == [("gm", True), ("gg", None)]
    assert coach.get("/results.csv").content.decode("utf-8-sig") == out


def test_each_column_is_explained(coach):
    lines = list(
        DictReader(coach.get("/results/columns.csv").content.decode("utf-8-sig").splitlines())
    )
    assert [line["column"] for line in lines] == COLUMNS
    assert all(line["meaning"].endswith(".") for line in lines)


@pytest.mark.parametrize(
    ("column", "cell", "why"),
    [
        ("eased", "perhaps", "write yes"),
        ("strokes", "g m", "no strokes"),
        ("way", "x" * 121, "longer than 120"),
        ("order", "first", "no whole number"),
    ],
)
def test_how_it_was_done_is_read_with_care(coach, placed, today, column, cell, why):
    rows = f"{HEAD},{column}\n{row(today, 'left', 1, 8)},{cell}\n{row(today, 'right', 1, 8)},"
    problems = look(coach, rows).context["found"].problems
    assert [(one.column, why in one.why) for one in problems] == [(column, True)]


def test_as_a_spreadsheet_numbers_are_numbers(coach, placed, today):
    log(placed, today, 7, 9)
    data = coach.get("/results.xlsx").content
    sheet = load_workbook(BytesIO(data)).active
    assert [cell.value for cell in sheet[2]][:8] == [
        f"{today}",
        "Ida Marlow",
        "Gate",
        1,
        "left",
        1,
        10,
        7,
    ]
    sent = SimpleUploadedFile("results.xlsx", data)
    page = coach.post("/results/in/", {"file": sent})
    assert [one.what for one in page.context["found"].sessions] == ["same"]


def test_of_one_player_or_one_squad(coach, w, placed, today):
    log(placed, today, 7, 9)
    assert len(coach.get(f"/results.csv?player={w.player.pk}").content.splitlines()) == 3
    assert len(coach.get("/results.csv?squad=9999").content.splitlines()) == 1
    assert coach.get("/results.csv?player=9999").status_code == 404
    assert coach.get("/results.txt").status_code == 404


@pytest.mark.parametrize(
    ("changed", "column", "why"),
    [
        (("Ida Marlow", "Nobody"), "player", "is no player"),
        (("Gate,1", "Gates,1"), "ladder", "never was on it"),
        (("Gate,1", "Gate,9"), "rung", "not on it on that day"),
        (("left", "up"), "lane", "no lane"),
        (("left", ""), "lane", "each lane is asked"),
        ((",10,8", ",10,11"), "makes", "as many attempts"),
        ((",10,8", ",ten,8"), "attempts", "no whole number"),
        (("late:1", "late"), "faults", "late:2;wide:1"),
        (("coach", "parent"), "observer", "coach, device, helper, ear or self"),
        ((",6,", ",11,"), "effort", "0 to 10"),
        (("20", "19"), "rung", "not on it on that day"),
    ],
)
def test_every_cell_that_cannot_be_is_named_and_nothing_stored(
    coach, placed, today, changed, column, why
):
    line = row(today, "left", 1, 8).replace(*changed, 1)
    page = look(coach, table(line), sure="yes")
    found = page.context["found"].problems
    assert (page.status_code, Session.objects.count()) == (422, 0)
    assert [(p.row, p.column) for p in found][:1] == [(2, column)]
    assert why in found[0].why


def test_columns_that_lack_or_have_no_place_are_told(coach, placed, today):
    page = look(coach, "on,player\n2026-01-01,Ida")
    assert {p.column for p in page.context["found"].problems} == {"ladder", "rung"}
    page = look(coach, f"{HEAD},weather\n{row(today, 'left', 1, 8)},sun")
    assert page.context["found"].aside == ["weather"]


def test_a_set_number_that_comes_again_is_another_session(coach, placed, today):
    page = look(coach, table(*pair(today), *pair(today)), sure="yes")
    assert page.status_code == 302
    assert (Session.objects.count(), SetRow.objects.count()) == (2, 4)
    assert [s.extra for s in Session.objects.order_by("recorded_at")] == [False, True]


def test_what_nobody_counted_stays_unknown_and_none_is_clean(coach, placed, today):
    look(coach, table(*pair(today, more=",self,,"), *pair(today, more="none,coach,,")), sure="yes")
    told = {s.session.observer: s.faults for s in SetRow.objects.all()}
    assert told == {"self": None, "coach": {}}


def test_while_a_player_rests_only_what_was_done_before_comes_in(coach, w, placed, today):
    open_stop(player=w.player, what="knee", on=today - timedelta(days=3), actor=None)
    page = look(coach, table(*pair(today)), sure="yes")
    assert "A stop is open" in text(page)
    look(coach, table(*pair(today - timedelta(days=5))), sure="yes")
    assert Session.objects.count() == 1


def test_a_cell_is_never_run_by_a_spreadsheet():
    sheet = read_table(write_xlsx(["a", "b"], [["=1+1", 2.5]]), "x")
    assert sheet.rows == [(2, ["'=1+1", "2.5"])]


def test_tempo_feeds_and_calls_go_out_and_come_in_again(coach, w, placed, today):
    stay, reads = placed.stays.get(), Answers(5, 2, 1, 4, 6, 8, 5)
    values = {"attempts": 8, "makes": 6, "tempo": 0.75, "voids": 2, "feeder": "Ben", "reads": reads}
    entry = SessionInput(uuid4(), today, "coach", [SetInput(uuid4(), "left", values)])
    record_session(stay=stay, entry=entry, today=today, actor=w.coach.user)
    out = coach.get("/results.csv").content.decode("utf-8-sig")
    [row] = DictReader(out.splitlines())
    assert (row["tempo"], row["voids"], row["feeder"]) == ("0.75", "2", "Ben")
    assert row["reads"].startswith("hits:5;misses:2;")
    Session.objects.all().delete()
    look(coach, out, sure="yes")
    again = SetRow.objects.get()
    assert (again.tempo, again.voids, again.feeder, again.reads) == (0.75, 2, "Ben", reads)


@pytest.mark.parametrize(
    ("column", "cell", "why"),
    [
        ("tempo", "0", "above 0"),
        ("tempo", "1.5", "at most 1"),
        ("reads", "hits:-1", "write hits:4"),
        ("reads", "seen:2", "write hits:4"),
        ("reads", "choices:2;right:3", "more right than choices"),
        ("feeder", "x" * 61, "longer than 60"),
        ("voids", "many", "no whole number"),
    ],
)
def test_a_cell_beside_the_numbers_says_what_is_wrong_with_it(today, column, cell, why):
    with pytest.raises(ValueError, match=why):
        value_of(column, cell, today)
