"""A rung's fields are described once: the table has all of them, and everything else reads it."""

import subprocess
from dataclasses import fields, replace
from pathlib import Path

import pytest

from drill_ladder.core.judging import (
    ByAge,
    Dose,
    InARow,
    Intent,
    Makes,
    Rule,
    Rung,
    Target,
    Terms,
    Time,
)
from drill_ladder.formats.documents import TERMS
from drill_ladder.formats.rung_fields import FIELDS, PARTS, TOLD, in_unit, said_of
from drill_ladder.formats.rung_words import dose_words

ROOT = Path(__file__).parents[2]
OTHERS = {"id", "measure", "lanes"}  # a row's own number, and what is the drill's
MAKES = Rung("a", Makes(), Dose(2, 10), Target(8, 10), lanes=("left", "right"))
RULE = Rule(InARow(2))
TIMED = Rung("a", Time(), Dose(3), Target(value=9.5))
GIVEN = {
    "dose.sets": 3,
    "dose.reps": 12,
    "dose.rest_s": 45.0,
    "target.makes": 7,
    "target.of": 12,
    "target.value": 8.5,
    "floor": 0.4,
    "target.each_lane": True,
    "reps_high": 15,
    "sets_high": 4,
    "minutes": 6,
    "dose.s_per_rep": 5.5,
    "dose.stop_drop": 0.05,
    "intent": Intent.SPEED,
    "tempo": 0.75,
    "tempo_high": 1.0,
    "target.form_min": 0.7,
    "target.faults_max": 2,
    "success": (0.2, 0.4),
    "hits_a_second": 2.5,
    "silence_s": 1.5,
    "turns": ("right", "left", "left"),
    "rest_each_s": 20.0,
    "ease_faults": 3,
    "rest_ready": True,
    "slow_first_s": 20.0,
    "by_age": (ByAge(8, "3 m"), ByAge(None, "5 m")),
    "feeds": ("rolled", "hit"),
    "finish_good": 4,
}


def with_value(rung, path, value):
    """The rung with one field changed."""
    part, _, key = path.rpartition(".")
    if not part:
        return replace(rung, **{key: value})
    return replace(rung, **{part: replace(getattr(rung, part), **{key: value})})


def place_in(document, field):
    """Where its value stands in stored terms."""
    if field.part:
        return document["rung"][field.part]
    return document["rung"] if field.key in document["rung"] else document["more"]


def begin(field):
    """A rung on which the field can stand."""
    rung = TIMED if field.only == "value" or field.path == "dose.stop_drop" else MAKES
    return replace(rung, tempo=0.5) if field.path == "tempo_high" else rung


def test_every_value_of_a_rung_is_in_the_table_once():
    paths = set()
    for one in fields(Rung):
        inner = {"dose": Dose, "target": Target}.get(one.name)
        paths |= {f"{one.name}.{f.name}" for f in fields(inner)} if inner else {one.name}
    assert paths - OTHERS == {key for key in TOLD if key in paths}
    assert {field.path for field in FIELDS}.isdisjoint(PARTS)
    assert len({field.path for field in FIELDS}) == len(FIELDS)


@pytest.mark.parametrize("field", FIELDS, ids=lambda field: field.path)
def test_a_field_comes_back_from_its_document(field):
    rung = with_value(begin(field), field.path, GIVEN[field.path])
    assert field.of(rung) == GIVEN[field.path]
    document = TERMS.write(Terms(rung, RULE))
    assert TERMS.read(document) == Terms(rung, RULE)
    assert field.key in place_in(document, field)


@pytest.mark.parametrize("field", FIELDS, ids=lambda field: field.path)
def test_what_no_field_may_hold_is_refused_by_name(field):
    document = TERMS.write(Terms(begin(field), RULE))
    place_in(document, field)[field.key] = [3, ["no", "such", "thing"]]
    assert any(field.key in fault for fault in TERMS.faults(document))


def test_what_a_field_says_stands_beside_the_dose():
    """The dose is said on card, run, log, routine, hall, paper, sheet, told week and API alike."""
    fast = replace(MAKES, intent=Intent.SPEED, tempo=0.75)
    assert dose_words(fast).endswith(", for speed, at three quarters of full speed")
    assert said_of(replace(MAKES, success=(0.2, 0.4)), for_player=False) == [
        "expected here: 20\u00a0% to 40\u00a0%"
    ]
    assert dose_words(replace(MAKES, success=(0.2, 0.4))) == dose_words(MAKES)


def test_a_number_in_its_unit():
    assert in_unit("{} m of run-up")(12.0, MAKES) == "12\u00a0m of run-up"


def test_a_plain_field_is_named_in_four_product_files():
    """The table, the core's rung, the column, and whoever reckons with it: `tempo_high` rises and
    falls with the sets of the day.
    """
    found = subprocess.run(
        ["grep", "-rlw", "tempo_high", "drill_ladder", "--include=*.py", "--include=*.html"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=True,
    )
    others = ("/migrations/", "/starter/")  # a ladder that says it describes no field
    named = {line for line in found.stdout.split() if not any(one in line for one in others)}
    assert named <= {
        "drill_ladder/formats/rung_fields.py",
        "drill_ladder/core/judging/ladders.py",
        "drill_ladder/apps/library/models.py",
        "drill_ladder/apps/practice/work/tempos.py",
        "drill_ladder/formats/ladder_checks.py",
        "drill_ladder/apps/library/ladders/rung_form.py",
    }
