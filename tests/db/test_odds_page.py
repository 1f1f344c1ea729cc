"""What a rule does, on its page: tried, compared, found, taken."""

import pytest
from django.test import Client

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.library.rules.forms import first_values
from drill_ladder.core.judging import Dose
from drill_ladder.core.judging.ladders import InARow, Rule, Window
from drill_ladder.core.odds.chain import odds
from drill_ladder.core.odds.session_chances import MakesSession
from drill_ladder.formats.documents import RULE
from tests.make import current, drill, ladder, put_on, text

HTMX = {"hx-request": "true"}


@pytest.fixture
def path(w):
    return f"/ladders/{w.ladder.pk}/odds/1/"


def typed(w, **change):
    return first_values(w.ladder.rule, w.ladder.revision) | change


def test_the_page_opens_with_the_rule_in_force(coach, path):
    page = text(coach.get(path))
    assert "Climbs after two passing sessions in a row." in page
    assert "<html" in page
    for school in ("One pass", "In a row", "Window", "Evidence", "Volume"):
        assert school in page


def test_the_figures_are_the_cores(w, coach, path):
    """The table's risks of the rule in force, against the exact chain at the coach's marks."""
    session = MakesSession(10, 8, 2, True, 0.4)
    marks = odds(session, Rule(InARow(2)), [[0.7, 0.7], [0.9, 0.9]], 6, w.club.day_spread)
    alike = odds(session, Rule(InARow(2)), [[0.7, 0.7], [0.9, 0.9]], 6)
    answer = coach.get(path, typed(w, not_ready=70, ready=90), headers=HTMX)
    context = answer.context
    row = next(r for r in context["rows"] if r.own)
    assert row.soon == pytest.approx(100 * marks[0].climb_by[-1], abs=1)
    assert row.back == pytest.approx(100 * (1 - marks[1].climb_by[-1]), abs=1)
    assert row.sessions == pytest.approx(marks[1].expected_sessions)
    assert context["alike"][0] == pytest.approx(100 * alike[0].climb_by[-1], abs=1)
    assert "days that differ, as they usually do" in text(answer)
    assert "<html" not in text(answer)


@pytest.mark.parametrize(
    ("change", "sentence"),
    [
        ({"school": "one_pass"}, "Climbs after one passing session."),
        (
            {"school": "window", "passes": 3, "of": 5},
            "Climbs when three of the last five sessions pass.",
        ),
        ({"school": "evidence", "confidence": 80}, "Climbs when it is 80\u00a0% sure"),
        (
            {"school": "volume", "sessions": 5},
            "Climbs after 5 sessions here, the last session not low",
        ),
    ],
)
def test_every_school_can_be_tried(w, coach, path, change, sentence):
    assert sentence in text(coach.get(path, typed(w, **change), headers=HTMX))


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"not_ready": 90}, "has to be a lower rate"),
        ({"horizon": 0}, "At least 1."),
        ({"school": "window", "passes": 4, "of": 3}, "More passes than sessions looked at."),
        ({"confidence": ""}, "A number, please."),
    ],
)
def test_what_cannot_be_is_said(w, coach, path, change, words):
    answer = coach.get(path, typed(w, **change), headers=HTMX)
    assert answer.status_code == 422
    assert words in text(answer)


def test_taking_a_rule_leaves_results_alone(w, coach, path):
    stay = current(put_on(w))
    answer = coach.post(path, typed(w, school="window", passes=2, of=3, min_sessions=2))
    assert answer.status_code == 302
    w.ladder.refresh_from_db()
    assert w.ladder.revision == 2
    assert w.ladder.rule.school.name == "window"
    assert w.ladder.rule.min_sessions == 2
    stay.refresh_from_db()
    assert stay.terms.rule == RULE.read({"school": "in_a_row", "passes": 2})
    assert (
        RULE.read(Event.objects.get(verb="changed the rule").details["before"]) == stay.terms.rule
    )


def test_two_coaches_notice_each_other(w, coach, path):
    mine = typed(w, school="one_pass")
    coach.post(path, typed(w, school="volume", sessions=9))
    answer = coach.post(path, mine)
    page = text(answer)
    assert answer.status_code == 422
    assert "Ruth (changed the rule) changed this while you had it open" in page
    w.ladder.refresh_from_db()
    assert w.ladder.rule.school.name == "volume"


def test_other_measures_have_no_odds(w, coach):
    tapping = drill(w.club, "Taps", measure={"kind": "streak"}, lanes=[])
    taps = ladder(w.club, tapping, "Taps", target={"value": 9}, floor=None)
    assert "Odds are for rungs that count good ones" in text(
        coach.get(f"/ladders/{taps.pk}/odds/1/")
    )
    assert coach.get(f"/ladders/{taps.pk}/odds/9/").status_code == 404


@pytest.mark.parametrize(
    "document",
    [
        {"school": "one_pass"},
        {"school": "in_a_row", "passes": 3, "trust": "observed_only"},
        {"school": "window", "passes": 2, "of": 4, "skip_at": None},
        {"school": "evidence", "confidence": 0.9, "half_life": 2.5},
        {"school": "volume", "reps": 200, "stall_after": None},
    ],
)
def test_a_rule_is_written_as_it_is_read(document):
    rule = RULE.read(document)
    assert RULE.read(RULE.write(rule)) == rule


def test_what_was_only_simulated_is_not_called_never(w, coach, path):
    """Some simulated players have not climbed 60 sessions after the horizon: that is all that is
    known.
    """
    page = text(coach.get(path, typed(w, not_ready=40, ready=60), headers=HTMX))
    assert "not all within 66" in page


def test_the_ladders_page_has_the_odds_of_every_rung_and_follows_the_rule(w, coach):
    page = text(coach.get(f"/ladders/{w.ladder.pk}/"))
    assert page.count('class="rung-risks"') == 3
    look = f"/ladders/{w.ladder.pk}/rule/"
    answer = coach.get(look, typed(w, school="one_pass", not_ready=50), headers=HTMX)
    session, spread = MakesSession(10, 8, 2, True, 0.4), w.club.day_spread
    exact = odds(session, Rule(InARow(1)), [[0.5, 0.5]], 6, spread)[0].climb_by[-1]
    assert answer.context["rungs"][0].risks.soon == pytest.approx(exact)
    assert "Use this rule" in text(answer)
    assert "Use this rule" not in text(coach.get(look, typed(w), headers=HTMX))
    assert "At most 10." in text(coach.get(look, typed(w, passes=99), headers=HTMX))


def test_a_rung_of_its_own_rule_keeps_its_odds_whatever_is_tried(w, coach):
    w.ladder.rungs.filter(position=2).update(rule={"school": "one_pass"})
    look = f"/ladders/{w.ladder.pk}/rule/"
    tried = [coach.get(look, typed(w, passes=n), headers=HTMX).context["rungs"] for n in (2, 3)]
    assert tried[0][1].risks == tried[1][1].risks
    assert tried[0][0].risks != tried[1][0].risks


def test_taking_what_the_finder_found(w, coach, path):
    """The rung asks for the mark in each lane; the school differs from the ladder's, so it gets its
    own rule.
    """
    page = coach.get(path, typed(w), headers=HTMX)
    row = next(one for one in page.context["finder"] if one.key == "window")
    answer = coach.post(path, typed(w, found="window"))
    assert answer.status_code == 302
    first, second = w.ladder.rungs.all()[:2]
    assert (first.target.makes, first.target.of) == (row.found.k, row.found.n)
    assert first.dose == Dose(sets=1, reps=row.found.n)
    assert first.target.each_lane
    assert first.rule.school.name == "window"
    assert second.target.makes == 8
    w.ladder.refresh_from_db()
    assert (w.ladder.rule.school.name, w.ladder.revision) == ("in_a_row", 2)
    session = MakesSession(row.found.n, row.found.k, 2, True)
    climbs = odds(session, Rule(Window(2, 3)), [[0.6, 0.6], [0.85, 0.85]], 6)
    assert climbs[0].climb_by[-1] <= 0.1
    assert climbs[1].climb_by[-1] >= 0.9


def test_a_mark_that_lanes_share_is_found_over_all_of_them(w, coach):
    shared = ladder(
        w.club, w.drill, "Both together", target={"makes": 16, "of": 20, "each_lane": False}
    )
    path, first = f"/ladders/{shared.pk}/odds/1/", first_values(shared.rule, shared.revision)
    row = next(
        one
        for one in coach.get(path, first, headers=HTMX).context["finder"]
        if one.key == "in_a_row"
    )
    coach.post(path, first | {"found": "in_a_row"})
    rung = shared.rungs.first()
    assert rung.dose.sets * rung.dose.reps * 2 == row.found.n
    assert rung.target.of == row.found.n
    assert rung.rule is None


def test_no_mark_found_is_no_mark_taken(w, coach, path):
    answer = coach.post(path, typed(w, found="evidence"))
    assert answer.status_code == 422
    assert "No mark was found for that school. Nothing was changed." in text(answer)
    overtaken = coach.post(path, typed(w, found="window", revision=9))
    assert "changed this while you had it open" in text(overtaken)


def test_a_rule_that_came_too_late_is_told_on_a_ladder_without_odds(w, coach):
    taps = ladder(
        w.club,
        drill(w.club, "Taps", measure={"kind": "streak"}, lanes=[]),
        "Taps",
        target={"value": 9},
        floor=None,
    )
    late = first_values(taps.rule, 7) | {"school": "one_pass"}
    answer = coach.post(f"/ladders/{taps.pk}/odds/1/", late)
    assert answer.status_code == 422
    assert "changed this while you had it open" in text(answer)
    assert 'class="rung-risks"' not in text(coach.get(f"/ladders/{taps.pk}/"))


def test_a_coachs_own_marks_stay_with_them(w, other, coach, path):
    coach.post("/ladders/marks/", typed(w, not_ready=50, ready=90, horizon=8), headers=HTMX)
    coach.post(
        "/ladders/marks/", typed(w, not_ready=95, ready=90, horizon=8), headers=HTMX
    )  # cannot be: not kept
    coach.logout()
    again = Client()
    again.force_login(w.coach.user)
    assert again.get(f"/ladders/{w.ladder.pk}/").context["marks"].not_ready == 0.5
    assert again.get(path).context["form"]["horizon"].value() == 8
    stranger = Client()
    stranger.force_login(other.coach.user)
    assert stranger.get(f"/ladders/{other.ladder.pk}/").context["marks"].not_ready == 0.6
