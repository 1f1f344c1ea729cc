"""Counted by ear: who may, what is kept, how far it is trusted, and where it is told apart."""

import io
import json
from csv import DictReader
from datetime import timedelta
from uuid import uuid4

import pytest
from django.test import Client

from drill_ladder.apps.exchange.columns import COLUMNS
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.agreements import agree
from drill_ladder.apps.people.models import Club
from drill_ladder.apps.practice.judged.days import rejudge
from drill_ladder.apps.practice.models import JudgedDay, Session, SetRow
from drill_ladder.apps.practice.sessions.corrections import bring_back, take_away
from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput, record_session
from drill_ladder.apps.practice.work.building import work_of
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.progress.panels.one_player import better
from drill_ladder.apps.progress.player import record_of
from drill_ladder.core.judging import Observer
from drill_ladder.core.work import Place
from tests.db.test_drill_parts import parts
from tests.db.test_hall import Device
from tests.make import current, drill, ladder, owner_of, put_on, text

COUNT = {"kind": "count", "window_s": 30}
TERMS = {"target": {"value": 12}, "dose": {"sets": 1}, "floor": None}


@pytest.fixture
def windows(w, today):
    """Bounces in half a minute, which a phone can count by ear."""
    made = drill(w.club, "Bounces", lanes=[], measure=COUNT, heard="bounce")
    return put_on(
        w,
        ladder=ladder(w.club, made, "Bounces", **TERMS),
        on=today - timedelta(days=30),
        place="home",
    )


def send(w, p, today, **fields):
    """A session from the card."""
    sent = {f"e0-{name}": value for name, value in fields.items()}
    address = f"/card/{w.token}/{current(p).pk}/"
    return Client().post(address, {"on": f"{today}", "hurts": "no", "seen_by": "self", **sent})


def hearing(p, today):
    """How the phone counts the work, or None."""
    return work_of(current(p), today, Place.HOME).conduct.heard


def test_it_is_offered_where_the_author_ticked_it_and_it_can_be(w, windows, today):
    heard = hearing(windows, today)
    assert (heard.sound, heard.most, heard.silence_s) == ("bounce", 0.8, 2.0)
    page = text(Client().get(f"/card/{w.token}/{current(windows).pk}/run/"))
    assert "Let the phone count each bounce" in page
    assert "js/ear" in page


def test_the_rung_says_how_fast_and_what_silence_ends_it(w, today):
    made = drill(w.club, "Rally", lanes=[], measure={"kind": "streak"}, heard="hit")
    of = ladder(w.club, made, "Rally", **TERMS, hits_a_second=1.5, silence_s=4)
    heard = hearing(put_on(w, ladder=of, on=today, place="home"), today)
    assert (heard.sound, heard.most, heard.silence_s) == ("hit", 1.5, 4.0)


@pytest.mark.parametrize("change", [{"heard": ""}, {"measure": {"kind": "done"}}])
def test_it_is_not_offered_where_it_cannot_be(w, today, change):
    made = drill(w.club, "Other", lanes=[], **({"measure": COUNT, "heard": "hit"} | change))
    terms = TERMS | ({"target": {"value": 0.5}} if made.measure.kind == "done" else {})
    p = put_on(w, ladder=ladder(w.club, made, "Other", **terms), on=today, place="home")
    assert hearing(p, today) is None
    assert "phone count" not in text(Client().get(f"/card/{w.token}/{current(p).pk}/run/"))


def test_a_caller_speaks_so_nobody_listens(w, today):
    made = drill(w.club, "Called", lanes=[], measure=COUNT, heard="hit")
    called = TERMS | {"caller": {"cues": [{"name": "near"}, {"name": "far"}]}}
    p = put_on(w, ladder=ladder(w.club, made, "Called", **called), on=today, place="home")
    assert hearing(p, today) is None


def test_what_was_heard_is_kept_beside_what_the_player_says(w, windows, today):
    assert send(w, windows, today, count="13", strokes="g" * 13, heard="12;74;y").status_code == 302
    row = SetRow.objects.get()
    assert (row.count, row.heard, row.heard_pace, row.heard_steady) == (13, 12, 74, True)
    session = Session.objects.get()
    assert (session.observer, session.get_observer_display()) == ("ear", "By ear")
    day = JudgedDay.objects.get()
    assert (day.observer, day.heard, day.verdict) == ("ear", True, "pass")


@pytest.mark.parametrize("text_of", ["", "many", "-3", "1.5", "12;x;q"])
def test_what_cannot_be_read_is_no_hearing_and_loses_nothing(w, windows, today, text_of):
    send(w, windows, today, count="13", strokes="g" * 13, heard=text_of)
    row, expected = SetRow.objects.get(), 12 if text_of.startswith("12") else None
    assert (row.count, row.heard, row.heard_pace) == (13, expected, None)


def test_one_set_by_hand_and_it_is_the_players_own_count(w, today):
    made = drill(w.club, "Two", lanes=[], measure=COUNT, heard="hit")
    p = put_on(
        w,
        ladder=ladder(w.club, made, "Two", **TERMS | {"dose": {"sets": 2}}),
        on=today,
        place="home",
    )
    send(w, p, today, count="13", heard="13")
    assert Session.objects.get().observer == "ear"
    sent = {"e0-count": "13", "e0-heard": "13", "e1-count": "11"}
    address = f"/card/{w.token}/{current(p).pk}/"
    Client().post(address, {"on": f"{today}", "hurts": "no", "seen_by": "self", **sent})
    assert set(Session.objects.values_list("observer", flat=True)) == {"ear", "self"}


def test_somebody_else_who_counted_counts_as_before(w, windows, today):
    sent = {"e0-count": "13", "e0-heard": "13", "seen_by": "helper"}
    Client().post(
        f"/card/{w.token}/{current(windows).pk}/", {"on": f"{today}", "hurts": "no", **sent}
    )
    assert Session.objects.get().observer == "helper"


@pytest.mark.parametrize(("trusts", "seen"), [(False, "ear"), (True, "device")])
def test_how_far_it_is_trusted_is_the_clubs_word(w, windows, today, trusts, seen):
    Club.objects.filter(pk=w.club.pk).update(trusts_ear=trusts)
    send(w, windows, today, count="13", heard="13")
    assert Session.objects.get().observer == seen
    assert JudgedDay.objects.get().heard


def test_by_itself_it_is_no_seen_pass(w, today):
    """Where the last pass has to be seen, the ear's is the player's own word: a coach looks."""
    made = drill(w.club, "Seen", lanes=[], measure=COUNT, heard="hit")
    of = ladder(w.club, made, "Seen", **TERMS)
    of.rule = {"school": "in_a_row", "passes": 1, "trust": "last_pass_observed"}
    of.save()
    p = put_on(w, ladder=of, on=today - timedelta(days=3), place="home")
    send(w, p, today, count="14", heard="14")
    assert Session.objects.get().ahead.kind == "check"


def test_where_the_club_wants_it_a_guardian_agrees_first(w, windows, today):
    Club.objects.filter(pk=w.club.pk).update(ear_asks=True)
    assert hearing(windows, today) is None
    agree(member=w.coach, player=w.player, what="ear", by="Marlow family", on=today)
    assert hearing(windows, today) is not None


def test_the_owner_sets_both_and_nobody_else(w, coach):
    page = text(coach.get("/club/"))
    assert "counts by ear" not in page  # a coach does not look after the club
    owner = Client()
    owner.force_login(owner_of(w.club).user)
    sent = {"name": "Tern Harbour", "time_zone": "Europe/London", "unit": "m"}
    owner.post("/club/", sent | {"ear_asks": "on", "trusts_ear": "on"})
    w.club.refresh_from_db()
    assert (w.club.ear_asks, w.club.trusts_ear) == (True, True)


def heard_day(p, on, count, heard):
    """A day, by ear or by hand."""
    values = {"count": count, **({"heard": count} if heard else {})}
    entry = SessionInput(uuid4(), on, Observer.SELF, [SetInput(uuid4(), "", values)])
    return record_session(stay=current(p), entry=entry, today=on, actor=None)[0]


def test_by_ear_and_by_hand_are_lines_of_their_own(w, windows, today):
    for n in range(12):
        heard_day(windows, today - timedelta(days=26 - 2 * n), 5 + n % 2, n % 2 == 0)
    panel = better(record_of(w.player, today, today - timedelta(days=40), None), current(windows))
    assert panel.lines[0].startswith("By hand: ")
    assert any(line.startswith("By ear: ") for line in panel.lines)
    assert (panel.svg.count("<rect"), panel.svg.count("<circle")) == (6, 6)
    assert sum(", by ear" in row[2] for row in panel.rows) == 6


def test_one_kind_alone_is_one_line(w, windows, today):
    for n in range(6):
        heard_day(windows, today - timedelta(days=12 - 2 * n), 5, True)
    panel = better(record_of(w.player, today, today - timedelta(days=40), None), current(windows))
    assert not any("By ear" in line or "By hand" in line for line in panel.lines)


def test_put_right_it_was_heard_all_the_same(w, coach, windows, today):
    """A correction of the number keeps what the phone heard, and what else an instrument told."""
    send(
        w,
        windows,
        today,
        count="13",
        heard="12;74;n",
        tempo="75",
        reads="1,2,0,0,0,0,0",
        eased="no",
    )
    session = Session.objects.get()
    page = coach.get(f"/sessions/{session.pk}/")
    form = page.context["form"]
    values = {field.html_name: field.value() for field in form if field.value() not in (None, "")}
    coach.post(f"/sessions/{session.pk}/", values | {"e0-count": "11"})
    row = SetRow.objects.get()
    assert (row.count, row.heard, row.heard_pace, row.heard_steady) == (11, 12, 74, False)
    assert (row.tempo, row.reads.misses, row.eased) == (0.75, 2, False)
    assert "11 in 30\u00a0s (by ear, 12 heard, 74 a minute, not steady)" in text(
        coach.get(f"/players/{w.player.pk}/sessions/")
    )


def test_taken_away_and_brought_back_it_was_heard(w, windows, today):
    send(w, windows, today, count="13", heard="12")
    event = take_away(session=Session.objects.get(), actor=w.coach.user, today=today)
    bring_back(event=event, stay=current(windows), actor=w.coach.user, today=today)
    assert SetRow.objects.get().heard == 12
    assert JudgedDay.objects.get().heard


def test_judged_anew_it_is_still_told_apart(w, windows, today):
    send(w, windows, today, count="13", heard="12")
    list(rejudge(w.club))
    assert JudgedDay.objects.get().heard


def test_the_file_of_results_takes_it_out(w, coach, windows, today):
    send(w, windows, today, count="13", heard="12")
    answer = coach.get("/results.csv")
    rows = list(DictReader(io.StringIO(text(answer).lstrip("\ufeff"))))
    assert (rows[0]["heard"], rows[0]["observer"]) == ("12", "ear")
    assert COLUMNS[-3:] == ["heard", "rested_s", "feed"]  # new columns come last


def test_in_the_hall_it_is_an_entry_that_says_so(w, windows, today):
    Prescription.objects.update(place="both")
    stay, tablet = current(windows), Device(w.coach.user)
    tablet.send(tablet.tap(stay, "result", numbers={"count": 14, "heard": 13}))
    row = SetRow.objects.get()
    assert (row.count, row.heard, row.session.observer) == (14, 13, "coach")
    assert JudgedDay.objects.get().heard


def test_in_the_hall_a_number_of_heard_alone_is_no_entry(w, windows, today):
    tablet = Device(w.coach.user)
    told = tablet.send(tablet.tap(current(windows), "result", numbers={"heard": 13}))
    assert "no number" in json.dumps(told)
    assert Session.objects.count() == 0


def test_the_drills_form_keeps_it_only_for_what_can_be_heard(w, coach):
    coach.post("/drills/new/", parts(w, title="Wall", kind="count", window_s="30", heard="hit"))
    assert Drill.objects.get(title="Wall").heard == "hit"
    coach.post("/drills/new/", parts(w, title="Pass", kind="makes", heard="hit"))
    assert Drill.objects.get(title="Pass").heard == ""
