"""What the charts draw and how terms read."""

from datetime import date
from xml.etree import ElementTree

import pytest

from drill_ladder.charts import climb
from drill_ladder.charts.ladder import CARD, glyph
from drill_ladder.charts.odds import Curve, at, odds_chart, small_chart
from drill_ladder.charts.tally import tally
from drill_ladder.core.judging.ladders import Evidence, InARow, Rule, Target, Trust, Volume, Window
from drill_ladder.core.judging.measures import Count, Dose, Time
from drill_ladder.core.judging.rows import Streak, ToN
from drill_ladder.formats.rung_words import dose_words, easing_sentence, target_words
from drill_ladder.formats.words import rule_sentence
from tests.core.build import rung

SVG = "{http://www.w3.org/2000/svg}"


def parsed(svg):
    root = ElementTree.fromstring(svg)
    assert root.get("role") == "img"
    return root


def classes(root, name):
    return [e.get("class") for e in root.iter(f"{SVG}{name}")]


def test_the_glyph_has_rails_rungs_and_one_marker():
    root = parsed(glyph(6, 3))
    assert classes(root, "rect") == ["rail", "rail"]
    assert classes(root, "line") == ["rung-done"] * 2 + ["rung-ahead"] * 3
    assert classes(root, "polygon") == ["marker"]
    assert root.find(f"{SVG}title").text == "On rung 3 of 6"


def test_the_glyph_counts_from_the_bottom():
    root = parsed(glyph(4, 1, CARD))
    heights = {t.text: float(t.get("y")) for t in root.iter(f"{SVG}text")}
    assert heights["1"] > heights["2"] > heights["4"]


def test_a_finished_ladder_has_no_marker_and_a_stopped_one_says_so():
    assert classes(parsed(glyph(5, 5, finished=True)), "line") == ["rung-done"] * 5
    assert "stopped" in parsed(glyph(5, 2, stopped=True)).get("class")


def test_the_tally_tells_marks_by_shape_and_in_words():
    root = parsed(tally(["pass", "near", "low", "short", "pass", "pass"], "Sessions"))
    assert classes(root, "line") == [
        "stroke-good",
        "stroke-near",
        "stroke-low",
        "stroke-good",
        "stroke-good",
    ]
    assert classes(root, "circle") == ["stroke-short"]
    assert root.find(f"{SVG}title").text == "Sessions: 3 passed, 1 near, 1 low, 1 short"
    assert "nothing yet" in tally([])


def test_fives_stand_apart():
    xs = [
        float(e.get("x1")) + float(e.get("x2"))
        for e in parsed(tally(["good"] * 6)).iter(f"{SVG}line")
    ]
    assert xs[5] - xs[4] > (xs[4] - xs[3]) * 1.4


def test_the_climb_goes_up_with_the_rungs():
    stays = [
        climb.Stay(1, date(2026, 3, 2), date(2026, 3, 16), "placed"),
        climb.Stay(2, date(2026, 3, 16), None, "climb"),
    ]
    marks = [climb.Mark(date(2026, 3, 9), 1, "near"), climb.Mark(date(2026, 3, 16), 1, "pass")]
    root = parsed(climb.climb(5, stays, marks, date(2026, 3, 30)))
    points = [
        tuple(map(float, p.split(","))) for p in root.find(f"{SVG}polyline").get("points").split()
    ]
    assert [p[0] for p in points] == sorted(p[0] for p in points)
    assert points[0][1] == points[1][1] > points[2][1] == points[3][1]
    assert classes(root, "circle") == ["marker"]
    assert "stroke-good" in classes(root, "line")
    assert root.find(f"{SVG}title").text == "From rung 1 to rung 2 of 5, 2 sessions"


def test_the_odds_are_drawn_where_they_are():
    rates = [i / 10 for i in range(11)]
    svg = odds_chart(
        rates, Curve("Rule", [r**2 for r in rates]), [Curve("Other", rates)], 0.6, 0.9, 6
    )
    root = parsed(svg)
    assert classes(root, "polygon") == ["odds-soon", "odds-back"]
    main = next(e for e in root.iter(f"{SVG}polyline") if e.get("class") == "odds-main")
    ys = [float(p.split(",")[1]) for p in main.get("points").split()]
    assert ys == sorted(ys, reverse=True)
    middle = (ys[0] + ys[-1]) / 2
    assert ys[5] == pytest.approx(ys[0] + 0.25 * (ys[-1] - ys[0]), abs=0.01)
    assert ys[5] > middle
    assert at(rates, Curve("x", [r**2 for r in rates]), 0.65) == pytest.approx((0.36 + 0.49) / 2)
    assert (
        "with a chance of 36\u00a0%, one at 90\u00a0% with 81\u00a0%"
        in root.find(f"{SVG}title").text
    )


def test_text_in_a_drawing_is_escaped():
    assert "<b>" not in tally(["good"], "<b>")


@pytest.mark.parametrize(
    ("at", "dose", "target"),
    [
        (rung(), "10 attempts", "8 of 10"),
        (
            rung(lanes=("left", "right"), each=True),
            "10 left, 10 right",
            "8 of 10, both left and right",
        ),
        (
            rung(lanes=("a", "b", "c"), each=True, dose=Dose(2, 10, 30)),
            "2 sets of 10, each a, b and c, 30\u00a0s rest",
            "8 of 10, a, b and c",
        ),
        (
            rung(measure=Count(30), dose=Dose(3), target=Target(value=40)),
            "3 windows of 30\u00a0s",
            "40 in 30\u00a0s",
        ),
        (rung(measure=Streak(), dose=Dose(1), target=Target(value=12)), "1 try", "12 in a row"),
        (
            rung(measure=Time(), dose=Dose(1, 3), target=Target(value=5.2)),
            "3 timed trials",
            "5.2\u00a0s or faster",
        ),
        (
            rung(measure=ToN(4), dose=Dose(2), target=Target(value=6)),
            "2 sets until 4 good ones",
            "4 good ones within 6 attempts",
        ),
    ],
)
def test_dose_and_target_in_words(at, dose, target):
    assert (dose_words(at), target_words(at)) == (dose, target)


@pytest.mark.parametrize(
    ("rule", "sentence"),
    [
        (Rule(InARow(1)), "Climbs after one passing session."),
        (
            Rule(InARow(2), min_days_between=2, trust=Trust.LAST_PASS_OBSERVED),
            "Climbs after two passing sessions in a row, at least 2 days apart, the last pass seen "
            "by a coach.",
        ),
        (Rule(Window(2, 3)), "Climbs when two of the last three sessions pass."),
        (
            Rule(Evidence(0.9, 3)),
            "Climbs when it is 90\u00a0% sure that the true rate reaches the target.",
        ),
        (Rule(Volume(reps=200)), "Climbs after 200 repetitions here, the last session not low."),
    ],
)
def test_a_rule_is_one_sentence(rule, sentence):
    assert rule_sentence(rule) == sentence


def test_easing_in_words():
    at = rung(floor=0.4, ease="bigger gate")
    assert (
        easing_sentence(Rule(InARow(1)), at)
        == "Two low sessions in a row (under 40\u00a0%) ease it (bigger gate)."
    )
    alone = easing_sentence(Rule(InARow(1), low_in_a_row=1), rung(floor=0.4))
    assert alone == "One low session (under 40\u00a0%) leads back one rung."
    assert easing_sentence(Rule(InARow(1)), rung()) == ""


def test_a_small_curve_names_its_marks_unless_they_lie_too_near():
    chances = Curve("", [0.0, 0.5, 1.0])
    far = small_chart([0.0, 0.5, 1.0], chances, 0.6, 0.85)
    assert far.count("odds-small-word") == 2
    assert "60\u00a0%" in far
    assert "odds-small-word" not in small_chart([0.0, 0.5, 1.0], chances, 0.8, 0.85)
