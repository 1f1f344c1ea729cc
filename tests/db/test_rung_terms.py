"""A rung's finer terms, odds while typing, who stands where, timer, coverage, the one cue."""

from datetime import date, timedelta
from itertools import pairwise
from uuid import uuid4

import pytest
from django.forms import model_to_dict
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.library.drills.run import Run, phases
from drill_ladder.apps.library.drills.services import TreatmentInput, set_treatments
from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.library.rules.services import take_rule
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput, record_session
from drill_ladder.apps.prescriptions.dose import block_of
from drill_ladder.apps.prescriptions.services import changes_since
from drill_ladder.apps.progress.player.coverage import coverage
from drill_ladder.core.judging import Evidence, InARow, Rule
from drill_ladder.core.odds import MakesSession, odds
from drill_ladder.formats.documents import RULE
from tests.db.test_library import HTMX, form, row, stored, text
from tests.make import current, drill, ladder, log, put_on

FINE = {
    "reps_high": 20,
    "tempo": "0.5",
    "intent": "pressure",
    "success_low": 20,
    "success_high": 40,
    "form_min": 70,
}


def test_the_finer_terms_of_a_rung(w, coach):
    own = {"school": "window", "passes": 2, "of_last": 4}
    answer = coach.post(
        "/ladders/new/", form([row(w, "Near", **FINE, faults_max=3, s_per_rep=6, **own)])
    )
    assert answer.status_code == 302
    made = Ladder.objects.get(title="New ladder").rungs.get()
    assert (made.reps_high, made.tempo, made.intent, made.success) == (
        20,
        0.5,
        "pressure",
        (0.2, 0.4),
    )
    assert (made.target.form_min, made.target.faults_max, made.dose.s_per_rep) == (0.7, 3, 6)
    assert (made.rule.school.name, made.rule.school.passes, made.rule.school.of) == ("window", 2, 4)
    page = text(coach.get(answer.headers["Location"]))
    for words in (
        "10 to 20 left",
        "under pressure, at half speed",
        "20\u00a0% to 40\u00a0%",
        "two of the last four sessions",
    ):
        assert words in page
    # opened and saved again, nothing of it is lost
    opened = coach.get(f"/ladders/{made.ladder_id}/edit/")
    first = {
        key: value
        for key, value in opened.context["rows"].forms[0].initial.items()
        if value not in (None, False)
    }
    first["each_lane"] = "on"
    before = model_to_dict(made)
    assert (
        coach.post(f"/ladders/{made.ladder_id}/edit/", form([first], revision=1)).status_code == 302
    )
    made.refresh_from_db()
    assert model_to_dict(made) == before


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"reps_high": 5}, "A band runs from fewer to more"),
        ({"success_low": 50}, "A band runs from low to high: give both ends."),
        ({"success_low": 50, "success_high": 40}, "A band runs from low to high"),
        ({"school": "window", "passes": 5, "of_last": 3}, "More passes than sessions looked at."),
        ({"form_min": 170}, "less than or equal to 100"),
    ],
)
def test_finer_terms_that_cannot_be(w, coach, more, words):
    answer = coach.post("/ladders/new/", form([row(w, "Near", **more)]))
    assert answer.status_code == 422
    assert words in text(answer)


def test_evidence_only_where_good_ones_are_counted(w, coach):
    taps = drill(w.club, "Taps", measure={"kind": "streak"}, lanes=[])
    tries = {"drill": taps.pk, "title": "Ten", "sets": 3, "value": 10, "school": "evidence"}
    assert "Evidence is for drills that count good ones." in text(
        coach.post("/ladders/new/", form([tries]))
    )
    steps = ladder(w.club, taps, "Taps", rungs=1, target={"value": 10}, dose={"sets": 3}, floor=3)
    sure = Rule(Evidence(0.9, 3))
    with pytest.raises(Refused, match="rung 1, “Gate 1”"):
        take_rule(member=w.coach, ladder=steps, rule=sure, revision=1)
    steps.refresh_from_db()
    assert steps.rule.school.name == "in_a_row"


def test_a_rungs_own_rule_keeps_the_gates_that_no_form_shows(w, coach):
    rung = w.rungs[0]
    rung.rule = {"school": "one_pass", "min_sessions": 4}
    rung.save()
    rows = [{**r, "school": "one_pass" if i == 0 else ""} for i, r in enumerate(stored(w.ladder))]
    assert (
        coach.post(
            f"/ladders/{w.ladder.pk}/edit/", form(rows, title="Gate", revision=1)
        ).status_code
        == 302
    )
    rung.refresh_from_db()
    assert rung.rule == RULE.read({"school": "one_pass", "min_sessions": 4})


def test_odds_beside_a_row_while_it_is_typed(w, coach):
    """Eight of ten in two lanes, two in a row, on days that differ as they do."""
    session = MakesSession(10, 8, 2, True)
    exact = odds(session, Rule(InARow(2)), [[0.6, 0.6]], 6, w.club.day_spread)[0].climb_by[-1]
    typed = {f"rung-3-{key}": value for key, value in row(w, "").items()}
    page = text(coach.post(f"/ladders/{w.ladder.pk}/look/3/", typed))
    assert (
        f"Within six sessions: {exact * 100:.0f}\u00a0% of those at a true 60\u00a0% are moved up "
        "too soon"
    ) in page
    assert "<svg" in page
    easy = text(
        coach.post("/ladders/look/3/", typed | {"rung-3-makes": 5, "rung-3-school": "one_pass"})
    )
    assert "are moved up too soon, 0\u00a0% of those at 85\u00a0% are kept back" in easy
    assert "Within" not in text(coach.post("/ladders/look/3/", typed | {"rung-3-makes": "many"}))
    speed = text(
        coach.post(
            "/ladders/look/3/",
            typed | {"rung-3-intent": "speed", "rung-3-sets": 3, "rung-3-rest_s": 20},
        )
    )
    assert "Speed work with 20 s rest trains endurance" in speed


RUN = {
    "units": "m",
    "markers": [{"id": "A", "x": 0, "y": 0}, {"id": "B", "x": 0, "y": 20}],
    "legs": [{"from": "A", "to": "B"}],
}


def test_a_time_that_nobody_can_run_is_questioned(w, coach):
    """Twenty metres in two seconds is 10 m/s, over the 9 m/s of a straight: the
    own limit.
    """
    sprint = drill(w.club, "Sprint", measure={"kind": "time"}, lanes=[], plan=RUN)
    typed = {"rung-0-drill": sprint.pk, "rung-0-title": "x", "rung-0-sets": 3, "rung-0-value": 2}
    assert "20\u00a0m in 2\u00a0s is 10\u00a0m/s: nobody is that fast." in text(
        coach.post("/ladders/look/0/", typed)
    )
    assert "nobody" not in text(coach.post("/ladders/look/0/", typed | {"rung-0-value": 4}))
    steps = ladder(
        w.club, sprint, "Run", rungs=1, target={"value": 4}, dose={"sets": 1}, floor=None
    )
    stay = current(put_on(w, ladder=steps))
    sent = {"session_id": str(uuid4()), "e0-seconds": "2", "hurts": "no", "seen_by": "self"}
    asked = coach.post(f"/log/{stay.pk}/", sent)
    assert asked.status_code == 422
    assert "That would be 10.0\u00a0m/s over this floor plan" in text(asked)
    assert stay.sessions.count() == 0
    assert coach.post(f"/log/{stay.pk}/", {**sent, "sure": "on"}).status_code == 302
    assert stay.sessions.get().sets.get().seconds == 2


def test_paces_and_shoes_of_a_players_own(w, coach):
    w.player.stride_m, w.player.shoe_m = 0.8, 0.25
    w.player.save()
    run = drill(w.club, "Run", plan=RUN)
    by_player = text(coach.get(f"/drills/{run.pk}/?units=pace&player={w.player.pk}"))
    assert "25\u00a0paces" in by_player
    assert "80\u00a0shoes" in text(coach.get(f"/drills/{run.pk}/?units=shoe&shoe_cm=25"))
    unknown = text(coach.get(f"/drills/{run.pk}/?units=pace"))
    assert "How long is one?" in unknown
    assert "20\u00a0m" in unknown
    assert coach.get(f"/drills/{run.pk}/?units=furlong&pace_cm=x").status_code == 200


def test_lengths_are_noted_with_the_player(w, coach):
    path = f"/players/{w.player.pk}/edit/"
    sent = {"name": "Ida Marlow", "dominant_side": "right", "stride_cm": "72.5", "shoe_cm": "24"}
    assert coach.post(path, sent).status_code == 302
    w.player.refresh_from_db()
    assert (w.player.stride_m, w.player.shoe_m) == (0.725, 0.24)
    assert 'value="72.5"' in text(coach.get(path))
    assert coach.post(path, {**sent, "stride_cm": "900"}).status_code == 422


def test_who_stands_where_and_goes_on_by_the_new_terms(w, coach):
    p = put_on(w, rung=2)
    rows = stored(w.ladder)
    rows[1] = {**rows[1], "makes": 9, "reps_high": 15}
    answer = coach.post(f"/ladders/{w.ladder.pk}/edit/", form(rows, title="Gate", revision=1))
    where = f"/ladders/{w.ladder.pk}/players/"
    assert answer.headers["Location"] == where
    page = text(coach.get(where))
    assert "target: 8 of 10, both left and right → 9 of 10, both left and right" in page
    assert "10 left, 10 right → 10 to 15 left, 10 to 15 right" in page
    assert "Nobody was chosen" in text(coach.post(where, follow=True))
    old = current(p)
    moved = text(coach.post(where, {"stay": [old.pk]}, follow=True))
    assert "One player goes on by the present terms" in moved
    assert "by the present terms" in moved
    stay = current(p)
    assert (stay.terms.rung.target.makes, stay.terms.rung.reps_high) == (9, 15)
    assert changes_since(stay) == []
    assert changes_since(old) != []


def test_a_copied_ladder_has_rungs_and_rule_of_its_own(w, coach):
    w.ladder.rule = {"school": "window", "passes": 2, "of": 3}
    w.ladder.save()
    page = text(coach.get(f"/ladders/new/?from={w.ladder.pk}"))
    assert 'value="Gate (copy)"' in page
    rows = [{**r, "id": ""} for r in stored(w.ladder)]
    coach.post(f"/ladders/new/?from={w.ladder.pk}", form(rows, title="Gate (copy)"))
    copied = Ladder.objects.get(title="Gate (copy)")
    assert copied.rule.school.name == "window"
    assert copied.rungs.count() == w.ladder.rungs.count() == 3


def test_a_dragged_rung(w, coach):
    path = f"/ladders/{w.ladder.pk}/edit/"
    answer = coach.post(path, form(stored(w.ladder), title="Gate", step="to-0-2"), headers=HTMX)
    assert [f.initial["title"] for f in answer.context["rows"].forms] == [
        "Gate 2",
        "Gate 3",
        "Gate 1",
    ]
    for odd in ("to-9-0", "to-0-x", "to--"):
        assert coach.post(
            path, form(stored(w.ladder), title="Gate", step=odd), headers=HTMX
        ).status_code in (200, 204)


DOSE = {
    "sets": 2,
    "work_s": 20,
    "rest_s": 10,
    "lanes": True,
    "mode": "random",
    "every_s": 2,
    "leave": 25,
    "seed": 7,
}


def test_the_parts_of_a_dose():
    """Two sets of two lanes, one rest between the sets and none after the last; by hand 20 x 4 + 10
    seconds.
    """
    found = phases(Run(**DOSE, names=("red", "blue")), ["left", "right"])
    assert [p.title for p in found] == [
        "Set 1 of 2, left",
        "Set 1 of 2, right",
        "Rest",
        "Set 2 of 2, left",
        "Set 2 of 2, right",
    ]
    assert sum(p.seconds for p in found) == 90
    calls = found[0].calls
    assert all(0 < a.at < b.at < 20 for a, b in pairwise(calls))
    assert {c.cue for c in calls} == {"red", "blue"}
    assert found == phases(Run(**DOSE, names=("red", "blue")), ["left", "right"])
    assert found[2].calls == ()


def test_the_timers_page(w, coach):
    path = f"/drills/{w.drill.pk}/run/"
    assert "left, right" in text(coach.get(path))
    asked = {key: value for key, value in DOSE.items() if value is not True}
    assert "2 parts" not in text(coach.get(path, asked | {"cues": "red, blue"}))
    assert "What is to be called?" in text(coach.get(path, asked | {"cues": ""}))
    assert "A call is named twice." in text(coach.get(path, asked | {"cues": "red, red"}))
    assert "four hours" in text(coach.get(path, asked | {"mode": "", "sets": 50, "work_s": 3600}))


def test_what_is_not_covered_comes_first(w, coach):
    """Four cells by hand: one done well, one weak, one stale, one empty."""
    today = timezone.localdate()
    names = ["n", "e", "s", "w"]
    around = drill(w.club, "Around", lanes=names)
    steps = ladder(w.club, around, "Around", rungs=1, target={"makes": 8, "of": 10}, floor=None)
    p = put_on(w, ladder=steps, on=today - timedelta(days=60))
    for lane, makes, days in (("n", 9, 1), ("e", 2, 2), ("s", 9, 40)):
        on = today - timedelta(days=days)
        sets = [SetInput(uuid4(), lane, {"attempts": 10, "makes": makes})]
        done = SessionInput(id=uuid4(), on=on, observer="coach", sets=sets)
        record_session(stay=current(p), entry=done, today=today, actor=None)
    found = coverage(w.player, today)[0]
    assert [row.cells[0].why for row in found.rows] == ["", "weak", "stale", "empty"]
    assert [(lane, why) for lane, _, why in found.upcoming] == [
        ("w", "empty"),
        ("s", "stale"),
        ("e", "weak"),
    ]
    page = text(coach.get(f"/players/{w.player.pk}/coverage/"))
    assert "not for four weeks" in page
    assert "20\u00a0% of 10" in page


def test_one_cue_a_day_from_the_commonest_fault(w, coach):
    set_treatments(
        w.drill, [TreatmentInput("late", "Stick early"), TreatmentInput("wide", "Finish low")]
    )
    p = put_on(w)
    log(p, date(2026, 3, 2), 6, 6)
    stay = current(p)
    stay.sessions.get().sets.update(faults={"late": 3, "wide": 1})
    card = text(Client().get(f"/card/{w.token}/{stay.pk}/"))
    # the second session of the rung: the second of the two cues in turn
    assert "Finish low" in card
    log(p, date(2026, 3, 4), 3, 3)
    assert "Stick early" in text(Client().get(f"/card/{w.token}/{stay.pk}/"))
    log(p, date(2026, 3, 6), 3, 3)
    review = text(coach.get("/review/"))
    assert "Commonest fault:" in review
    assert "Treat it with “Stick early”" in review


def test_a_rung_that_is_meant_to_be_hard_reads_as_on_course(w):
    rung = w.rungs[0]
    rung.success_low, rung.success_high = 0.2, 0.4
    rung.save()
    p = put_on(w)
    session = log(p, timezone.localdate(), 3, 3)
    page = text(Client().get(f"/card/{w.token}/done/{session.pk}/"))
    assert "On course" in page
    assert "20\u00a0% to 40\u00a0% is what it should look like" in page


def test_a_coachs_own_marks_stay_from_page_to_page(w, coach):
    path = f"/ladders/{w.ladder.pk}/odds/1/"
    first = coach.get(path).context["form"].data
    assert coach.get(path, {**first, "not_ready": 50}).status_code == 200
    assert 'value="50"' not in text(coach.get(path))  # looking stores nothing
    assert (
        coach.post(
            "/ladders/marks/", {**first, "not_ready": 50, "ready": 90, "horizon": 4}
        ).status_code
        == 204
    )
    assert 'value="50"' in text(coach.get(path))
    assert "Within four sessions" in text(coach.get(f"/ladders/{w.ladder.pk}/edit/"))


def test_a_speed_rung_stops_itself_and_says_so(w, coach):
    """Set in the builder, kept when the ladder is edited, told to the card's clock."""
    run = drill(w.club, "Run", measure={"kind": "time"}, lanes=[])
    fast = ladder(w.club, run, "Fast", rungs=1, target={"value": 6}, dose={"sets": 4}, floor=None)
    path = f"/ladders/{fast.pk}/edit/"
    page = coach.get(path)
    first = page.context["rows"].forms[0]
    sent = {f"rung-0-{name}": first[name].value() or "" for name in first.fields}
    sent |= {"title": "Fast", "revision": 1, "rung-TOTAL_FORMS": 1, "rung-INITIAL_FORMS": 1}
    assert coach.post(path, sent | {"rung-0-stop_drop": "5,5"}).status_code == 302
    assert fast.rungs.get().dose.stop_drop == pytest.approx(0.055)
    again = coach.get(path).context["rows"].forms[0]
    assert float(again["stop_drop"].value()) == 5.5
    p = put_on(w, ladder=fast.rungs.get().ladder, place="home")
    card = Client().get(f"/card/{w.token}/{current(p).pk}/")
    assert card.context["instrument"]["stop_drop"] == pytest.approx(0.055)


def test_a_slow_one_first_takes_twice_its_target_and_its_rest(w):
    of = drill(w.club, "Sprint", lanes=[], measure={"kind": "time"})
    sprint = ladder(w.club, of, "Sprint", target={"value": 6.0}, dose={"sets": 2}, floor=None)
    rung = sprint.rungs.get(position=1)
    plain = block_of(rung.core).seconds
    rung.slow_first_s = 20
    assert block_of(rung.core).seconds == plain + 2 * (12 + 20)
