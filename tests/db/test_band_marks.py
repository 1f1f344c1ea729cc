"""Odds and warnings follow what a rung expects; the sixth school is chosen where the five are."""

from drill_ladder.apps.library.ladders.lines import rung_lines
from drill_ladder.apps.library.ladders.rung_notes import _unreachable
from drill_ladder.apps.library.rules.odds import Marks, choices, marks_at, risks
from drill_ladder.core.judging import ByCoach, InARow, Rule
from tests.make import text

USUAL = Marks(0.6, 0.85, 6)


def test_a_hard_rung_is_looked_at_by_its_own_band(w):
    rung = w.rungs[0]
    rung.target = {"makes": 3, "of": 10, "each_lane": True}
    rung.success_low, rung.success_high = 0.2, 0.4
    hard = rung.core
    assert marks_at(hard, USUAL) == Marks(0.2, 0.4, 6)
    assert marks_at(w.rungs[1].core, USUAL) == USUAL
    own, usual = risks(hard, Rule(InARow(1)), USUAL), risks(w.rungs[1].core, Rule(InARow(1)), USUAL)
    assert own is not None
    assert usual is not None
    assert own.back > 0.05  # at 60/85 nobody would be kept back here
    assert rung_lines(rung, Rule(InARow(1)), USUAL).risks.soon == own.soon


def test_a_target_is_called_unreachable_by_what_is_expected(w):
    rung = w.rungs[0]
    rung.target = {"makes": 9, "of": 10, "each_lane": False}
    rung.success_low, rung.success_high = 0.2, 0.4
    assert "at a true 40\u00a0%" in _unreachable(rung.core)[0]
    rung.target = {"makes": 3, "of": 10}
    assert _unreachable(rung.core) == []


def test_the_coachs_word_is_chosen_where_the_five_are(w, coach):
    assert "by_coach" in dict(choices())
    assert risks(w.rungs[0].core, Rule(ByCoach()), USUAL) is None
    page = text(coach.get(f"/ladders/{w.ladder.pk}/"))
    assert 'value="by_coach"' in page
    odds = f"/ladders/{w.ladder.pk}/odds/1/"
    form = {"school": "by_coach", "passes": 2, "of": 3, "confidence": 90, "half_life": 3}
    form |= {"sessions": 4, "min_sessions": 1, "min_days_between": 1, "trust": "any"}
    form |= {"not_ready": 60, "ready": 85, "horizon": 6, "alpha": 10, "beta": 10}
    form["revision"] = w.ladder.revision
    assert coach.post(odds, form).status_code == 302
    w.ladder.refresh_from_db()
    assert w.ladder.rule.school == ByCoach()
    assert "nobody can say how often" in text(coach.get(odds))
