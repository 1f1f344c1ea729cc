"""Each measure is described once: its object at the edge fits its class in the core."""

from dataclasses import fields

import pytest

from drill_ladder.core.judging import Dose, Makes, Measure, SetResult, Streak, ToN, measures, rows
from drill_ladder.formats.documents import MEASURE
from drill_ladder.formats.measures import (
    MEASURES,
    MeasureForm,
    change_words,
    form_of,
    goal_words,
    measure_words,
    score_words,
    to_measure,
)

NUMBERS = {
    "max": 5,
    "window_s": 30,
    "n": 8,
    "items": ["low", "head up"],
    "cap": 6,
    "lost": 3,
    "earn": 2,
}
forms = pytest.mark.parametrize("form", MEASURES, ids=lambda form: form.kind.kind)


def example(form: MeasureForm) -> Measure:
    """A measure of the kind, of the numbers that it needs."""
    needed = {key: NUMBERS[key] for key in form.numbers if key in NUMBERS}
    return to_measure(plain_document(form) | needed)


def plain_document(form: MeasureForm) -> dict[str, object]:
    return {"kind": form.kind.kind, **({"score_by": "mean"} if "score_by" in form.numbers else {})}


def test_every_class_of_the_core_has_one_form():
    kinds = [
        one
        for one in [*vars(measures).values(), *vars(rows).values()]
        if isinstance(one, type) and issubclass(one, Measure) and "kind" in vars(one)
    ]
    assert {one for one in kinds if not one.__abstractmethods__} == {form.kind for form in MEASURES}


@forms
def test_its_numbers_are_those_of_the_class(form):
    assert set(form.numbers) == {one.name for one in fields(form.kind)}
    assert set(form.typed) <= set(form.numbers)


@forms
def test_what_is_typed_is_a_result_of_a_set(form):
    known = {one.name for one in fields(SetResult)}
    assert form.fields
    assert {name for name, _ in form.fields} <= known


@forms
def test_out_and_in_is_the_same_measure(form):
    measure = example(form)
    assert MEASURE.read(MEASURE.write(measure)) == measure


@forms
def test_it_can_be_said(form):
    measure = example(form)
    first = form.first(measure)
    goal = first.makes_needed(10) / 10 if first.makes else first.value or 0
    assert all((measure_words(measure), score_words(measure, goal), goal_words(measure, first)))
    assert (change_words(measure)[0] == 100) == measure.is_share


@forms
def test_a_first_target_can_be_met(form):
    """What a part of a plain drill asks is within what the measure can reach."""
    measure = example(form)
    value = form.first(measure).value
    assert measure.most is None or value is None or 0 < value <= measure.most


@forms
def test_a_gain_has_a_unit_unless_the_score_has_an_end(form):
    assert bool(form.learnt) == (example(form).most is None)


@forms
def test_work_takes_time(form):
    assert example(form).work_s(Dose(sets=2, reps=10), 10, None, 6) > 0


def test_rows_end_by_what_they_are():
    turn, race = Streak(cap=5), ToN(n=3)
    assert [turn.over(n, made, None) for n, made in ((2, 2), (3, 2), (5, 5))] == [0, 1, 1]
    assert [race.over(n, made, None) for n, made in ((5, 2), (6, 3))] == [0, 1]
    assert [Makes().over(n, 0, 10) for n in (9, 10)] == [0, 1]


def test_a_measure_that_nobody_knows_is_refused_by_its_name():
    assert MEASURE.faults({"kind": "goals"})
    assert form_of(Makes()).kind is Makes
