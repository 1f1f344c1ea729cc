"""Every verb on the command line: what it answers, what it refuses, its published schema."""

import json
from copy import deepcopy
from pathlib import Path

import jsonschema
import pytest

from drill_ladder.formats.cli import answer, schema
from drill_ladder.formats.library_file import library_schema
from drill_ladder.formats.mistakes import Mistakes
from drill_ladder.formats.verbs import MODULES
from tests.core.small import KEYS, SMALL

PUBLISHED = Path(__file__).parents[2] / "docs" / "schema"


def ask(verb, doc):
    return answer(verb, json.dumps(doc).encode())


def refused(verb, **change):
    doc = {**deepcopy(SMALL[verb]), **change}
    with pytest.raises(Mistakes) as caught:
        ask(verb, {key: value for key, value in doc.items() if value is not ...})
    return caught.value.lines


@pytest.mark.parametrize("verb", MODULES)
def test_every_verb_answers_with_its_keys(verb):
    found = ask(verb, SMALL[verb])
    assert set(found) == KEYS[verb]
    json.dumps(found, allow_nan=False)


@pytest.mark.parametrize("verb", MODULES)
def test_every_verb_refuses_unknown_keys_and_non_objects(verb):
    assert refused(verb, odd=1) == ["$.odd: is not a known key"]
    for data in (b"null", b"[]", b"3", b'"x"'):
        with pytest.raises(Mistakes):
            answer(verb, data)


@pytest.mark.parametrize("verb", MODULES)
def test_every_required_key_is_missed_by_name(verb):
    for key in schema(verb).get("required", []):
        assert any(
            line.startswith(f"$.{key}: is required") for line in refused(verb, **{key: ...})
        ), key


@pytest.mark.parametrize("verb", MODULES)
def test_the_schema_is_closed_published_and_takes_what_the_reader_takes(verb):
    found = schema(verb)
    assert found["additionalProperties"] is False
    jsonschema.Draft202012Validator.check_schema(found)
    jsonschema.validate(SMALL[verb], found)
    published = json.loads((PUBLISHED / f"{verb}.json").read_text())
    assert published == found, f"run: ./ladder core schema {verb} > docs/schema/{verb}.json"


P = "$.p[0]"
REFUSALS = [
    ("odds", {"k": 11}, "$.k: is more than n"),
    ("odds", {"n": ...}, "$.n: is required"),
    ("odds", {"n": 0}, "$.n: is under 1"),
    ("odds", {"p": [1.2]}, f"{P}: is not a rate from 0 to 1 or a list of them"),
    ("odds", {"p": [[0.5, 0.5]]}, f"{P}: has 2 rates for 1 lanes"),
    ("odds", {"p": []}, "$.p: has too few entries (at least 1)"),
    ("odds", {"floor": 1.5}, "$.floor: is over 1, the most that makes can reach"),
    (
        "odds",
        {"measure": {"kind": "time"}},
        "$.measure: is for makes, streak, to_n, until_lost or earned",
    ),
    ("odds", {"measure": {"kind": "streak"}, "lanes": 2}, "$.lanes: is 1 for streak"),
    (
        "odds",
        {"measure": {"kind": "to_n", "n": 4}},
        "$.n: is not for to_n: measure.n says how many",
    ),
    (
        "odds",
        {
            "measure": {"kind": "streak"},
            "rule": {"school": "evidence", "confidence": 0.8, "half_life": 3},
        },
        "$.rule.school: is evidence, which is for measure makes, not streak",
    ),
    (
        "odds",
        {"rule": {"school": "window", "passes": 3, "of": 2}},
        "$.rule.passes: is more than of",
    ),
    ("odds", {"horizon": 10**9}, "$.horizon: is over 10000"),
    ("find-rule", {"p_not_ready": 0.9}, "$.p_not_ready: is not under p_ready"),
    ("find-rule", {"schools": [{"school": "luck"}]}, "$.schools[0]: has the 'school' 'luck'"),
    ("place", {"rungs": ["a", "a"]}, "$.rungs[1]: is given twice"),
    ("place", {"guess": "z"}, "$.guess: is 'z', which is no rung of the ladder"),
    (
        "place",
        {"probes": [{"rung": "a", "attempts": 0, "makes": 0}]},
        "$.probes[0].attempts: is under 1",
    ),
    (
        "place",
        {"probes": [{"rung": "a", "attempts": 5, "makes": 6}]},
        "$.probes[0].makes: is more than attempts",
    ),
    ("place", {"zone": [0.8, 0.5]}, "$.zone: runs from high to low"),
    ("place", {"zone": [0.8]}, "$.zone: has too few entries (at least 2)"),
    ("trend", {"better": "bigger"}, "$.better: is not one of"),
    (
        "trend",
        {"points": [{"on": "2026-3-1", "score": 1}]},
        "$.points[0].on: is not a date written YYYY-MM-DD",
    ),
    (
        "trend",
        {"points": [{"on": "2026-03-01", "score": 1e13}]},
        "$.points[0].score: is over 1000000000000",
    ),
    ("change", {"typical_error": 0}, "$.typical_error: must be above 0"),
    ("change", {"pairs": [[1, 2]] * 6}, "$.typical_error: cannot stand beside pairs"),
    ("change", {"typical_error": ...}, "$.pairs: is required (or give typical_error)"),
    (
        "change",
        {"typical_error": ..., "pairs": [[1, 2]] * 5},
        "$.pairs: has too few entries (at least 6)",
    ),
    (
        "balance",
        {"lanes": [{"name": "l", "attempts": 1, "makes": 1}]},
        "$.lanes: has too few entries (at least 2)",
    ),
    (
        "balance",
        {"lanes": [{"name": "l", "attempts": 1, "makes": 2}] * 2},
        "$.lanes[1].name: is given twice",
    ),
    ("fatigue", {"sessions": [[2]]}, "$.sessions[0][0]: is over 1"),
    ("fatigue", {"sessions": [[True]]}, "$.sessions[0][0]: is not a whole number"),
    (
        "load",
        {"days": [{"on": "2026-03-01", "effort": 11, "minutes": 1}]},
        "$.days[0].effort: is over 10",
    ),
    ("dose", {"window_s": 30}, "$.window_s: cannot stand beside reps"),
    ("dose", {"reps": ...}, "$.reps: is required (or give window_s)"),
    ("dose", {"s_per_rep": ...}, "$.s_per_rep: is required beside reps"),
    (
        "week",
        {"days": [{"on": "2026-03-01", "minutes": 1, "place": "x"}] * 2},
        "$.days[1].on: is given twice",
    ),
    (
        "week",
        {"wishes": [{"id": "w", "per_week": 0, "minutes": 1, "priority": 1}]},
        "$.wishes[0].per_week: is under 1",
    ),
    (
        "stations",
        {"stations": [{"name": "s", "capacity": 4, "s_per_rep": 1}]},
        "$.players: are too few",
    ),
    (
        "stations",
        {"stations": [{"name": "s", "capacity": 3, "s_per_rep": 1, "roles": ["a", "b"]}]},
        "$.stations[0].capacity: is no multiple of the 2 roles",
    ),
    ("cues", {"cues": ["l", "l"]}, "$.cues[1]: is given twice"),
    ("cues", {"cues": []}, "$.cues: has too few entries (at least 1)"),
    ("layout", {"legs": [{"from": "a", "to": "z"}]}, "$.legs[0].to: is 'z', which is no marker"),
    ("layout", {"units": "pace"}, "$.unit_m: is required for pace: its length in metres"),
    ("layout", {"unit_m": 0.3}, "$.unit_m: is not for ft, which has a length of its own"),
    ("forecast", {"stays": [0]}, "$.stays[0]: is under 1"),
    ("forecast", {"rungs_left": 1.5}, "$.rungs_left: is not a whole number"),
]


@pytest.mark.parametrize(("verb", "change", "line"), REFUSALS)
def test_what_is_refused_and_why(verb, change, line):
    lines = refused(verb, **change)
    assert any(found.startswith(line) for found in lines), lines


def test_the_finder_names_what_was_asked():
    found = ask("find-rule", SMALL["find-rule"])["results"]
    assert [one["rule"] for one in found] == SMALL["find-rule"]["schools"]
    assert found[0]["reason"] is None
    assert found[1]["n"] is None


def test_feet_become_metres():
    found = ask("layout", {**SMALL["layout"], "margin": 1, "space": {"width": 3, "depth": 3}})
    assert found["legs_m"] == pytest.approx([5 * 0.3048])
    assert found["footprint_m"] == pytest.approx([5 * 0.3048, 6 * 0.3048])
    assert (found["fits"], found["scale"]) == (True, 1)


def test_warnings_are_sentences():
    found = ask("dose", {"sets": 4, "reps": 10, "s_per_rep": 4, "rest_s": 20, "intent": "speed"})
    assert found["warnings"] == [
        {
            "code": "speed_rest",
            "text": "Speed work with 20 s rest trains endurance, not speed: rest at least 40 s.",
        }
    ]


def test_solvers_write_nothing_to_standard_output():
    import subprocess
    import sys

    command = [sys.executable, "-m", "drill_ladder.formats.cli", "week"]
    found = subprocess.run(
        command, input=json.dumps(SMALL["week"]), capture_output=True, text=True, check=True
    )
    assert json.loads(found.stdout)["unmet"] == [
        {"id": "w", "wanted": 2, "given": 1, "why": "days"}
    ]


def test_the_schema_of_the_library_file_is_published():
    published = json.loads((PUBLISHED / "library.json").read_text())
    assert published == library_schema(), "run: scripts/schemas"
