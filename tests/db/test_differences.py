"""Two coaches change one rung at once: whatever one of them changed is named, value by value."""

from dataclasses import fields, is_dataclass, replace
from enum import Enum

import pytest

from drill_ladder.apps.library.ladders.differences import told_ladder
from drill_ladder.apps.library.ladders.services import LadderHead, RungInput
from drill_ladder.apps.library.models import Drill
from drill_ladder.core.judging import (
    ByAge,
    Caller,
    Dose,
    Evidence,
    InARow,
    Intent,
    Makes,
    Rule,
    Rung,
    Target,
    Trust,
    Volume,
    Window,
)
from drill_ladder.core.judging.calling import Cue
from drill_ladder.core.plans.plan import FloorPlan, Leg, Marker, Wall, Way, Zone
from drill_ladder.core.plans.units import Unit
from drill_ladder.formats.rung_fields import TOLD
from drill_ladder.ui.differences import differences

FULL = Rung(
    id="1",
    measure=Makes(),
    dose=Dose(2, 10, 30.0, 4.0, 0.1),
    target=Target(8, 10, 0.5, form_min=0.8, faults_max=2),
    title="Wide gate",
    lanes=("left", "right"),
    floor=0.4,
    ease="wider",
    axis=("space",),
    rule=Rule(Evidence(0.9, 3.0)),
    tempo=0.5,
    reps_high=15,
    sets_high=3,
    minutes=4,
    success=(0.6, 0.8),
    tempo_high=0.75,
    caller=Caller((Cue("red", "go left"),), late_s=0.5, late_at="A", late_speed=2.0, clash=True),
    turns=("left", "right"),
    rest_each_s=20.0,
    slow_first_s=15.0,
    ease_faults=3,
    by_age=(ByAge(8, "3 m"), ByAge(None, "5 m")),
    feeds=("rolled", "hit"),
    finish_good=4,
)
PLAN = FloorPlan(
    Unit.M,
    (Marker("A", 0, 0), Marker("B", 1, 2)),
    (Leg("A", "B", "run", "turn"),),
    (Zone("goal", ((0, 0), (1, 1))),),
    (Way("A", "B"),),
    1.0,
    1.0,
    (Wall((0, 0), (0, 2)),),
)


def other(value):
    """Another value of that kind."""
    if isinstance(value, bool):
        return not value
    if isinstance(value, Enum):
        return next(one for one in type(value) if one is not value)
    if isinstance(value, int | float):
        return value + 0.25 if isinstance(value, float) else value + 1
    if isinstance(value, tuple):
        return (*value[:-1], other(value[-1]))
    if is_dataclass(value):
        first = fields(value)[0].name
        return replace(value, **{first: other(getattr(value, first))})
    return f"{value} too"


def changed(value, path=""):
    """(its way, the value with this one part changed), for every part that is a value."""
    for field in fields(value):
        part, way = getattr(value, field.name), f"{path}{field.name}"
        if is_dataclass(part) and way != "rule.school":
            for inner, whole in changed(part, f"{way}."):
                yield inner, replace(value, **{field.name: whole})
        else:
            yield way, replace(value, **{field.name: other(part)})


CHANGES = [
    (way, rung, PLAN) for way, rung in changed(FULL) if way not in {"id", "lanes", "measure.kind"}
]
CHANGES += [(way, FULL, plan) for way, plan in changed(PLAN, "plan.")]
CHANGES += [
    ("rule.school", replace(FULL, rule=Rule(school)), PLAN)
    for school in (
        Evidence(0.9, 4.0),
        Evidence(0.904, 3.0),
        InARow(2),
        Window(2, 3),
        Volume(reps=9),
    )
]


def told(rung, plan=PLAN):
    head = LadderHead("Gate", "", "")
    return told_ladder(head, [RungInput(1, Drill(title="Push pass"), "", rung, plan)])


@pytest.mark.parametrize(("way", "rung", "plan"), CHANGES, ids=[way for way, *_ in CHANGES])
def test_every_value_of_a_rung_that_differs_is_named(way, rung, plan):
    found = differences(told(FULL), told(rung, plan))
    assert [one.place for one in found] == [f"Rung 1, {TOLD[way]}"]
    assert found[0].stored != found[0].typed


def test_every_name_is_of_a_value_that_there_is():
    ways = {way for way, *_ in CHANGES} | {"rule", "plan", "caller"}
    assert set(TOLD) == ways


@pytest.mark.parametrize("field", ["rule", "caller", "success", "floor", "minutes"])
def test_what_is_not_there_is_another_value_than_any(field):
    assert differences(told(FULL), told(replace(FULL, **{field: None})))


def test_schools_and_gates_are_read_in_words():
    rule = Rule(InARow(2), trust=Trust.OBSERVED_ONLY)
    lines = told(replace(FULL, rule=rule, intent=Intent.ENDURANCE))
    assert "two passing sessions in a row" in lines["Rung 1, climbs"]
    assert lines["Rung 1, what it is for"] == Intent.ENDURANCE.value
