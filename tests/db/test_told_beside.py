"""What an instrument tells beside its counts: easier or not, good ones with a fault, bad feeds,
tempo, and how calls were answered.
"""

from datetime import timedelta

import pytest
from django.test import Client

from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.library.plans.letters import letter_words
from drill_ladder.apps.practice.judged.days import days_of
from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.practice.words import read_lines
from drill_ladder.apps.practice.work.building import work_of
from drill_ladder.apps.practice.work.calling import arrows, caller_of, seed_of
from drill_ladder.apps.practice.work.entries import entries_for
from drill_ladder.apps.practice.work.tempos import beside_of, sets_at_tempo, tempo_now
from drill_ladder.core.coaching import Answers
from drill_ladder.core.judging import Caller, Cue, Makes, Mode, Rung, Target, Verdict, Way
from drill_ladder.core.judging import Dose as CoreDose
from drill_ladder.core.plans import Leg, Plan
from drill_ladder.formats.documents import PLAN
from drill_ladder.formats.words import caller_words
from tests.db.test_library import form, row
from tests.make import current, drill, ladder, put_on, text


@pytest.fixture
def pads(w, today):
    """One ladder of a drill without lanes, which somebody feeds."""
    made = drill(w.club, "Fed", lanes=[], people="feeder")
    p = put_on(
        w,
        ladder=ladder(
            w.club, made, "Fed", target={"makes": 8, "of": 10}, dose={"sets": 1, "reps": 10}
        ),
        on=today,
        place="home",
    )
    return p


def send(w, p, today, **fields):
    """A session from the card; fields of the first row."""
    given = {f"e0-{name}": value for name, value in fields.items()}
    return Client().post(
        f"/card/{w.token}/{current(p).pk}/",
        {"on": f"{today}", "hurts": "no", "seen_by": "self", **given},
    )


def sets(p):
    """What was stored, in order."""
    return list(SetRow.objects.filter(session__stay__prescription=p).order_by("order"))


def test_a_set_made_easier_on_the_way_is_two_and_judged_by_what_was_asked(w, pads, today):
    strokes = "gggg0zggg1gm"
    send(w, pads, today, makes=8, attempts=11, strokes=strokes, faults="wide:1;late:1", eased="no")
    full, easier = sets(pads)
    assert (full.attempts, full.makes, full.eased, full.faults) == (5, 4, False, {"wide": 1})
    assert (easier.attempts, easier.makes, easier.eased, easier.faults) == (
        6,
        4,
        True,
        {"late": 1},
    )
    day = days_of(current(pads))[0]
    assert day.verdict is Verdict.SHORT  # five of ten attempts were done as asked
    assert (day.score, day.day.eased) == (0.8, False)


def test_a_set_done_easier_from_its_first_stroke_stays_one(w, pads, today):
    send(w, pads, today, makes=9, attempts=10, strokes="zgggggggggm", eased="no")
    (one,) = sets(pads)
    assert (one.eased, days_of(current(pads))[0].verdict) == (True, Verdict.NEAR)


def test_numbers_that_do_not_agree_with_their_strokes_stay_as_they_are(w, pads, today):
    send(w, pads, today, makes=3, attempts=10, strokes="gzg")
    (one,) = sets(pads)
    assert (one.attempts, one.makes) == (10, 3)


def test_faults_on_good_ones_and_bad_feeds(w, pads, today):
    send(w, pads, today, makes=2, attempts=3, strokes="gAvm", faults="wide:1")
    (one,) = sets(pads)
    assert (one.faults, one.voids, one.strokes) == ({"wide": 1}, 1, "gAvm")


def test_taps_of_an_instrument_without_fault_keys_count_no_faults(w, today):
    made = drill(w.club, "Runs", lanes=[], measure={"kind": "streak"})
    p = put_on(
        w,
        ladder=ladder(w.club, made, "Runs", target={"value": 5}, dose={"sets": 1}, floor=None),
        on=today,
        place="home",
    )
    send(w, p, today, best_run=2, strokes="ggm")
    assert sets(p)[0].faults is None


@pytest.mark.parametrize(
    ("tempo", "kept"), [("75", 0.75), ("0", None), ("101", None), ("fast", None), ("", None)]
)
def test_a_tempo_goes_with_its_set(w, pads, today, tempo, kept):
    send(w, pads, today, makes=9, attempts=10, tempo=tempo)
    assert sets(pads)[0].tempo == kept


@pytest.mark.parametrize(
    ("rested", "kept"),
    [("45", 45), ("0", 0), ("3601", None), ("-1", None), ("a", None), ("", None)],
)
def test_the_real_rest_goes_with_its_set(w, pads, coach, today, rested, kept):
    """Kept, shown, put right with it, in the table out and back in."""
    send(w, pads, today, makes=9, attempts=10, rested=rested)
    row = sets(pads)[0]
    assert row.rested_s == kept
    line = "" if kept is None else f"after {kept}\u00a0s of rest"
    assert line in text(coach.get(f"/players/{w.player.pk}/sessions/"))
    form = text(coach.get(f"/sessions/{row.session_id}/"))
    assert ('value="45"' in form) == (kept == 45)
    table = coach.get("/results.csv").content.decode()
    assert table.splitlines()[0].endswith(",rested_s,feed")
    assert table.splitlines()[1].endswith(",," if kept is None else f",{kept},")


def test_the_tempo_of_the_day_rises_while_it_is_clean_and_falls_when_it_is_not(w, pads, today):
    stay = current(pads)
    rung = Rung("r", Makes(), CoreDose(2, 10), Target(8, 10), tempo=0.5, tempo_high=0.75)
    now = lambda: tempo_now(rung, sets_at_tempo([stay])[stay.pk])
    assert now() == (0.5, "")
    send(w, pads, today, makes=20, attempts=20, strokes="", tempo="50", faults="late:1")
    assert now() == (0.75, "It was clean: a little faster today.")
    told = beside_of(work_of(stay, today, rung=rung))
    assert [words for _, words in told.tempos] == ["half speed", "three quarters"]
    assert (told.tempo, told.asked) == ("75", "50")
    send(w, pads, today, makes=20, attempts=20, tempo="75", faults="late:9")
    assert now()[0] == 0.5


def test_answers_to_calls_are_kept_and_told(w, pads, today):
    send(w, pads, today, makes=9, attempts=10, reads="9,1,2,8,0,0,0")
    assert sets(pads)[0].reads == Answers(9, 1, 2, 8)
    session = Session.objects.get(stay__prescription=pads)
    page = text(Client().get(f"/card/{w.token}/done/{session.pk}/"))
    assert "You went for 9 of 10 calls" in page
    assert "You left 8 of 10 that were to be left" in page
    assert "Telling the calls apart is mostly right" in page  # d′ 1.9, in a child's words


@pytest.mark.parametrize(
    "text_", ["1,2", "a,b,c,d,e,f,g", "0,0,0,0,1,2,2", "1,1,1,1,1,1,1,1,1", "3,0,0,0,0,0,0,1"]
)
def test_answers_that_cannot_be_are_left_out_and_the_rest_is_stored(w, pads, today, text_):
    send(w, pads, today, makes=9, attempts=10, reads=text_)
    assert (sets(pads)[0].makes, sets(pads)[0].reads) == (9, None)


def test_late_ones_are_misses_that_only_came_late(w, pads, today):
    send(w, pads, today, makes=7, attempts=10, reads="7,3,0,0,0,0,0,2")
    assert sets(pads)[0].reads == Answers(hits=7, misses=3, late=2)
    session = Session.objects.get(stay__prescription=pads)
    assert "2 came late" in text(Client().get(f"/card/{w.token}/done/{session.pk}/"))


def test_reads_in_words():
    assert read_lines(Answers()) == []
    assert read_lines(Answers(hits=7, misses=3, late=2)) == ["7 of 10 calls answered, 2 late"]
    assert read_lines(Answers(right=4, choices=5, carried_out=3)) == [
        "4 of 5 situations read rightly, 3 of these carried out"
    ]


CALLS = Caller((Cue("1"), Cue("2", "go round")), Mode.SERIAL, leave=0.2, spread=0, way=Way.ARROW)


def test_a_caller_calls_as_many_as_are_asked_and_the_same_all_day(today):
    rung = Rung("r", Makes(), CoreDose(1, 8), Target(8, 10), caller=CALLS)
    plan = Plan(markers={"M": (0, 0), "1": (0, 2), "2": (2, 0)}, legs=())
    given = caller_of(rung, entries_for(rung), plan, seed_of(3, today))
    (calls,) = given["calls"]
    assert [call["cue"] for call in calls] == ["1", "2"] * 5
    assert sum(call["leave"] for call in calls) == 2
    assert {call["wait"] for call in calls} == {4.0}
    assert [calls[0]["turn"], calls[1]["turn"], calls[1]["action"]] == [0, 90, "go round"]
    assert given == caller_of(rung, entries_for(rung), plan, seed_of(3, today))
    assert given != caller_of(rung, entries_for(rung), plan, seed_of(3, today + timedelta(1)))
    assert arrows(CALLS, None) == {}


@pytest.mark.parametrize(
    ("marker", "speed", "seconds"),
    [("C", 2.0, 3.5), ("D", 2.0, 2.5), ("A", 2.0, 0), ("Z", 2.0, None), ("C", None, None)],
)
def test_a_late_call_comes_when_its_marker_is_reached(today, marker, speed, seconds):
    """Along the legs where they lead there (4 m and 3 m), straight (5 m) where they do not."""
    places = {"A": (0, 0), "B": (0, 4), "C": (3, 4), "D": (-3, 4)}
    plan = Plan(markers=places, legs=(Leg("A", "B"), Leg("B", "C")))
    late = Caller((Cue("left"),), late_at=marker, late_speed=speed)
    rung = Rung("r", Makes(), CoreDose(1, 8), Target(8, 10), caller=late)
    assert caller_of(rung, entries_for(rung), plan, 3)["reached"] == seconds
    assert caller_of(rung, entries_for(rung), None, 3)["reached"] is None


COLOURED = tuple(Cue(name) for name in ("Red", "blue", "green", "turn"))


@pytest.mark.parametrize("clash", [True, False])
def test_a_word_never_stands_on_its_own_colour(clash):
    """On purpose on another one that is called, else on none; a word of no colour as ever."""
    caller = Caller(COLOURED, way=Way.WORD, clash=clash)
    rung = Rung("r", Makes(), CoreDose(1, 60), Target(8, 10), caller=caller)
    (called,) = caller_of(rung, entries_for(rung), None, 3)["calls"]
    colours = {"red", "blue", "green"} if clash else {"plain"}
    for call in called:
        assert call["on"] != call["cue"].lower()
        assert call["on"] in (colours if call["cue"] != "turn" else {""})
    assert {call["on"] for call in called} == colours | {""}
    assert ("each word on another colour" in caller_words(caller)) == clash


CALLED = {"call_mode": "random", "calls": "left, high ball = step back", "call_every": 5}


def test_a_caller_is_written_in_the_builder_told_and_kept(w, coach):
    more = {"call_leave": 20, "call_late": "0.5", "call_way": "word", "call_spread": ""}
    answer = coach.post(
        "/ladders/new/", form([row(w, "Near", tempo="0.5", tempo_high="1.0", **CALLED, **more)])
    )
    assert answer.status_code == 302
    made = Ladder.objects.get(title="New ladder").rungs.get()
    caller = made.caller
    assert (caller.cues, caller.leave, caller.late_s) == (
        (Cue("left"), Cue("high ball", "step back")),
        0.2,
        0.5,
    )
    page = text(coach.get(answer.headers["Location"]))
    assert "alled at random: left, high ball, 20\u00a0% of them to be left, late by 0.5\u00a0s" in (
        page
    )
    assert "at half speed, up to full speed while clean" in page
    opened = coach.get(f"/ladders/{made.ladder_id}/edit/").context["rows"][0]
    assert opened["calls"].value() == "left, high ball = step back"


def test_the_speed_at_which_a_marker_is_reached_is_written_and_told(w, coach):
    colours = {"calls": "red, blue", "call_way": "word", "call_clash": "on"}
    late = CALLED | {"call_at": "A", "call_speed": "2.5"} | colours
    answer = coach.post("/ladders/new/", form([row(w, "Near", **late)]))
    assert answer.status_code == 302
    made = Ladder.objects.get(title="New ladder").rungs.get()
    assert (made.caller.late_at, made.caller.late_speed) == ("A", 2.5)
    told = "late, at A (2.5\u00a0m/s), each word on another colour"
    assert told in text(coach.get(answer.headers["Location"]))
    opened = coach.get(f"/ladders/{made.ladder_id}/edit/").context["rows"][0]
    assert (opened["call_speed"].value(), opened["call_clash"].value()) == (2.5, True)


@pytest.mark.parametrize(
    ("given", "told"),
    [
        ({"call_mode": "random", "calls": ""}, "What is to be called?"),
        ({"call_mode": "random", "calls": "left, LEFT"}, "named twice"),
        (CALLED | {"call_late": 1, "call_at": "A"}, "one of the two"),
        (CALLED | {"call_speed": 3}, "Which marker is reached?"),
        (CALLED | {"call_clash": "on"}, "of two colours and more"),
        (CALLED | {"calls": ", ".join(map(str, range(30)))}, "At most 24"),
        ({"tempo": "1.0", "tempo_high": "0.5"}, "upwards"),
        ({"tempo": "", "tempo_high": "0.5"}, "upwards"),
    ],
)
def test_a_caller_that_cannot_be_comes_back_with_the_reason(w, coach, given, told):
    answer = coach.post("/ladders/new/", form([row(w, "Near", **given)]))
    assert (answer.status_code, told in text(answer)) == (422, True)


def test_the_letters_of_a_plan_are_told_in_the_words_of_the_lanes():
    given = {"units": "m", "legs": [], "zones": [{"id": "L", "points": [[0, 0], [1, 0], [1, 1]]}]}
    markers = [{"id": "A", "x": 0, "y": 0}, {"id": "R", "x": 1, "y": 4}]
    plan = PLAN.read(given | {"markers": markers})
    assert letter_words(plan, ("left", "right")) == (
        "Circles: markers. Begin at A. Coloured: where the ball goes. L is left, R is right."
    )
    assert letter_words(plan, ()).endswith("where the ball goes.")
    assert letter_words(None, ("left",)) == ""
