"""Floor plans: drawn to scale, read strictly, made from general shapes."""

from dataclasses import replace
from math import dist, hypot
from xml.etree import ElementTree

import pytest

from drill_ladder.charts.labels import Box, Sheet
from drill_ladder.charts.plan import Path, common_way, floor_plan, scale_of
from drill_ladder.core.errors import CoreError
from drill_ladder.core.plans.layout import Leg, Plan, leg_lengths, turns
from drill_ladder.core.plans.plan import FloorPlan, Marker, Wall
from drill_ladder.core.plans.plan_templates import SHAPES
from drill_ladder.core.plans.units import Unit
from drill_ladder.formats.documents import PLAN

SVG = "{http://www.w3.org/2000/svg}"
TEE = Plan(
    {"A": (0, 0), "B": (0, 10), "<C>": (-5, 10)},
    [Leg("A", "B", "sprint"), Leg("B", "<C>"), Leg("B", "B")],
    [[(-1, -1), (1, -1), (1, 0)]],
)


def drawn(plan, *paths):
    return ElementTree.fromstring(floor_plan(plan, paths, lambda m: f"{m:g} m", "A plan"))


def centres(root):
    return {
        g.get("data-marker"): (float(g[0].get("cx")), float(g[0].get("cy")))
        for g in root.iter(f"{SVG}g")
        if g.get("class") == "plan-marker"
    }


def test_the_drawing_is_to_scale_and_ahead_is_up():
    at = centres(drawn(TEE))
    assert dist(at["A"], at["B"]) / dist(at["B"], at["<C>"]) == pytest.approx(2, abs=0.01)
    assert at["B"][1] < at["A"][1]
    assert at["<C>"][0] < at["B"][0]
    scale = scale_of(TEE)
    assert at["B"] == pytest.approx(scale.place((0, 10)), abs=0.01)


def test_the_scale_bar_is_as_long_as_it_says():
    root = drawn(TEE)
    bar = max(
        (e for e in root.iter(f"{SVG}line") if e.get("class") == "plan-bar"),
        key=lambda e: abs(float(e.get("x2")) - float(e.get("x1"))),
    )
    pixels = float(bar.get("x2")) - float(bar.get("x1"))
    metres = float([t.text for t in root.iter(f"{SVG}text")][-1].split()[0])
    assert pixels / metres == pytest.approx(scale_of(TEE).pixels, rel=0.001)


def test_legs_are_numbered_with_their_lengths():
    said = [t.text for t in drawn(TEE).iter(f"{SVG}text")]
    assert "10 m sprint" in said
    assert "5 m" in said
    assert said.count("1") == said.count("2") == 1
    assert "3" not in said


def test_paths_are_drawn_by_kind_and_zones_as_areas():
    root = drawn(TEE, Path("A", "B", "ball"), Path("B", "A", "feed"), Path("A", "A", "ball"))
    kinds = [e.get("class") for e in root.iter(f"{SVG}line")]
    assert (kinds.count("plan-ball"), kinds.count("plan-feed")) == (1, 1)
    assert "plan-zone" in [e.get("class") for e in root.iter(f"{SVG}polygon")]


def boxes(root):
    """What is written and drawn on top: (what, x, y, half width, half height), by the type's
    average letter.
    """
    for circle in root.iter(f"{SVG}circle"):
        r = float(circle.get("r"))
        yield (
            circle.get("class") or "marker",
            float(circle.get("cx")),
            float(circle.get("cy")),
            r * 0.8,
            r * 0.8,
        )
    for text in root.iter(f"{SVG}text"):
        if text.get("class") == "plan-length":
            yield (
                text.text,
                float(text.get("x")),
                float(text.get("y")) - 4.8,
                3.4 * len(text.text),
                6,
            )


def overlapping(root):
    found = list(boxes(root))
    return [
        (a[0], b[0])
        for i, a in enumerate(found)
        for b in found[:i]
        if abs(a[1] - b[1]) < a[3] + b[3] and abs(a[2] - b[2]) < a[4] + b[4]
    ]


@pytest.mark.parametrize(
    "name", ["shuttle", "tee", "square", "box", "star", "arc", "slalom", "wall"]
)
def test_no_word_lies_on_another(name):
    assert overlapping(drawn(made(name))) == []


def test_there_and_back_is_told_once_and_a_way_all_share_not_at_all():
    eight = made("star", points=8, radius=3)
    carried = Plan(eight.markers, [Leg(leg.start, leg.end, "carry") for leg in eight.legs])
    root = drawn(carried)
    said = [t.text for t in root.iter(f"{SVG}text") if t.get("class") == "plan-length"]
    assert [round(float(words.split()[0]), 2) for words in said] == [3.0] * 8
    assert common_way(carried) == "carry"
    assert common_way(TEE) == ""
    assert overlapping(root) == []


def test_a_ball_and_its_way_back_stand_beside_each_other():
    root = drawn(TEE, Path("A", "B", "ball"), Path("B", "A", "feed"))
    at = {e.get("class"): float(e.get("x1")) for e in root.iter(f"{SVG}line")}
    assert abs(at["plan-ball"] - at["plan-feed"]) > 10


def test_a_word_that_finds_no_place_is_left_to_the_list():
    sheet = Sheet(100, 100, boxes=[Box(50, 50, 50, 50)])
    assert sheet.put([Box(50, 50, 10, 10)], 0.2) is None
    assert sheet.put([Box(50, 50, 10, 10), Box(20, 20, 5, 5)]) == Box(20, 20, 5, 5)


def test_a_word_leaves_a_line_and_stays_on_the_sheet():
    sheet = Sheet(100, 100, [((0, 50), (100, 50))])
    assert sheet.put([Box(50, 52, 10, 5), Box(98, 20, 10, 5), Box(50, 70, 10, 5)]) == Box(
        50, 70, 10, 5
    )


def test_a_zone_that_a_marker_would_hide_has_its_edge_on_top():
    gate = [(-0.25, 7.8), (0.25, 7.8), (0.25, 8.2), (-0.25, 8.2)]
    narrow = drawn(Plan({"A": (0, 0), "B": (0, 8)}, [], [gate]))
    order = [e.get("class") for e in narrow if e.get("class") in ("plan-marker", "plan-zone-edge")]
    assert order == ["plan-marker", "plan-marker", "plan-zone-edge"]
    wide = drawn(Plan({"A": (0, 0), "B": (0, 4)}, [], [[(-2, 0), (2, 0), (2, 4), (-2, 4)]]))
    assert "plan-zone-edge" not in [e.get("class") for e in wide]


def test_a_single_marker_is_a_plan_too():
    assert centres(drawn(Plan({"A": (3, 3)}, [])))["A"]


GOOD = {
    "units": "yd",
    "markers": [{"id": "A", "x": 0, "y": 0}, {"id": "B", "x": 0, "y": 5}],
    "legs": [{"from": "A", "to": "B"}],
    "paths": [{"from": "B", "to": "A", "kind": "feed"}],
}


def test_a_plan_is_read_into_metres():
    plan = PLAN.read(GOOD)
    assert leg_lengths(plan.metres) == [pytest.approx(4.572)]
    assert plan.ways[0].kind == "feed"
    assert plan.margin == 0


@pytest.mark.parametrize(
    ("change", "fault"),
    [
        ({"paths": [{"from": "A", "to": "Z"}]}, "$.paths[0].to: is 'Z', which is no marker"),
        ({"legs": [{"from": "A", "to": "Z"}]}, "$.legs[0].to: is 'Z', which is no marker"),
        ({"markers": []}, "$.markers: has too few entries (at least 1)"),
        ({"units": "shoe"}, "$.unit_m: is required for shoe: its length in metres"),
        ({"colour": "red"}, "$.colour: is not a known key"),
    ],
)
def test_what_is_wrong_with_a_plan(change, fault):
    assert fault in PLAN.faults({**GOOD, **change})
    with pytest.raises(CoreError):
        PLAN.read({**GOOD, **change})


def made(name, **numbers):
    shape = SHAPES[name]
    markers, legs = shape.make(**{**shape.numbers, **numbers})
    return Plan(markers, [Leg(a, b) for a, b in legs])


def test_shapes_by_their_geometry():
    assert leg_lengths(made("shuttle", length=8)) == [8, 8]
    assert leg_lengths(made("tee")) == [10, 5, 10, 5, 10]
    assert turns(made("square")).right == 3
    assert leg_lengths(made("box", side=6)) == pytest.approx([18**0.5] * 8)
    assert leg_lengths(made("star", points=8, radius=3)) == pytest.approx([3] * 16, abs=0.01)
    assert leg_lengths(made("arc", points=5, radius=4)) == pytest.approx([4] * 5, abs=0.01)
    assert len(made("grid", rows=3, columns=4).markers) == 12
    assert leg_lengths(made("slalom", cones=6, spacing=1.5)) == [1.5] * 5
    assert leg_lengths(made("wall", distance=3, width=2)) == pytest.approx([hypot(1, 3)] * 2)


@pytest.mark.parametrize("name", SHAPES)
def test_every_shape_is_a_plan_that_reads(name):
    shape = SHAPES[name]
    markers, legs = shape.make(**shape.numbers)
    document = {
        "units": "m",
        "markers": [{"id": key, "x": x, "y": y} for key, (x, y) in markers.items()],
        "legs": [{"from": a, "to": b} for a, b in legs],
    }
    assert PLAN.faults(document) == []


def test_one_place_by_itself_is_no_drawing():
    alone = FloorPlan(Unit.M, (Marker("A", 0, 0),))
    assert not alone.tells_something
    assert replace(alone, walls=(Wall((0, 0), (0, 2)),)).tells_something
    assert replace(alone, markers=(Marker("A", 0, 0), Marker("B", 1, 0))).tells_something
