"""The command line's contract: exact answers, every fault named, nothing else."""

import json
import subprocess
import sys
from copy import deepcopy
from typing import Any

import jsonschema
import pytest

from drill_ladder.formats.cli import answer, schema
from drill_ladder.formats.mistakes import Mistakes

RUNG = {
    "id": "r1",
    "measure": {"kind": "makes"},
    "lanes": ["left", "right"],
    "dose": {"reps": 10},
    "target": {"makes": 8, "of": 10, "each_lane": True},
}
DOC: dict[str, Any] = {
    "ladder": {"rungs": [RUNG, {**RUNG, "id": "r2"}], "rule": {"school": "in_a_row", "passes": 2}},
    "at": "r1",
    "arrived": "2026-03-01",
    "today": "2026-03-10",
    "sessions": [
        {
            "on": "2026-03-02",
            "observer": "coach",
            "sets": [
                {"lane": "left", "attempts": 10, "makes": 6},
                {"lane": "right", "attempts": 10, "makes": 9},
            ],
        }
    ],
}


def put(path: str, value: Any) -> bytes:
    """The document with one value changed; path like sessions.0.on."""
    doc = deepcopy(DOC)
    *way, last = path.split(".")
    at: Any = doc
    for step in way:
        at = at[int(step) if step.isdigit() else step]
    at[int(last) if last.isdigit() else last] = value
    return json.dumps(doc).encode()


def faults(data: bytes) -> list[str]:
    with pytest.raises(Mistakes) as caught:
        answer("decide", data)
    return caught.value.lines


def test_a_whole_answer():
    found = answer("decide", json.dumps(DOC).encode())
    assert found["decision"] == "hold"
    assert found["to"] is None
    assert found["verdicts"] == [
        {"on": "2026-03-02", "verdict": "near", "score": 0.75, "lanes": {"left": 0.6, "right": 0.9}}
    ]
    assert found["missing"] == [
        {"code": "passes", "have": 0, "need": 2},
        {"code": "lane", "lane": "left", "have": 6, "need": 8},
    ]
    assert found["reasons"][0]["code"] == "hold"
    assert "left 6, needs 8" in found["reasons"][0]["text"]
    assert found["odds_next"] == 0


@pytest.mark.parametrize(
    ("path", "value", "line"),
    [
        ("sessions.0.sets.0.makes", 11, "$.sessions[0].sets[0].makes: is more than attempts"),
        ("sessions.0.sets.0.makes", -1, "$.sessions[0].sets[0].makes: is under 0"),
        ("sessions.0.sets.0.makes", 6.0, "$.sessions[0].sets[0].makes: is not a whole number"),
        ("sessions.0.sets.0.makes", "6", "$.sessions[0].sets[0].makes: is not a whole number"),
        ("sessions.0.sets.0.makes", True, "$.sessions[0].sets[0].makes: is not a whole number"),
        (
            "sessions.0.sets.0.lane",
            "up",
            "$.sessions[0].sets[0].lane: is 'up', a lane that the rung does not have",
        ),
        (
            "sessions.0.sets.0.lane",
            None,
            "$.sessions[0].sets[0].lane: is required: the target asks for each lane",
        ),
        ("sessions.0.on", "20260302", "$.sessions[0].on: is not a date written YYYY-MM-DD"),
        ("sessions.0.on", "2026-W10-1", "$.sessions[0].on: is not a date written YYYY-MM-DD"),
        ("sessions.0.on", "2026-02-30", "$.sessions[0].on: is not a day of the calendar"),
        ("sessions.0.on", "2026-03-11", "$.sessions[0].on: is after today"),
        ("sessions.0.on", "2026-02-28", "$.sessions[0].on: is before arrived"),
        ("arrived", "2026-03-11", "$.arrived: is after today"),
        ("last_on", "2026-03-11", "$.last_on: is after today"),
        ("at", "r9", "$.at: is 'r9', which is no rung of the ladder"),
        ("ladder.rungs.1.id", "r1", "$.ladder.rungs[1].id: is given twice"),
        ("ladder.rungs.1.target.makes", 11, "$.ladder.rungs[1].target.makes: is more than of"),
        ("ladder.rule.extra", 1, "$.ladder.rule.extra: is not a known key"),
        ("ladder.rule.school", "luck", "$.ladder.rule: has the 'school' 'luck'"),
        ("stop", 1, "$.stop: is neither true nor false"),
        ("today", None, "$.today: is not text"),
    ],
)
def test_each_fault_has_its_place_and_words(path, value, line):
    assert any(found.startswith(line) for found in faults(put(path, value)))


def test_all_faults_are_told_not_only_the_first():
    doc = deepcopy(DOC)
    doc["sessions"][0]["sets"][0]["makes"] = 11
    doc["sessions"][0]["sets"][1]["attempts"] = -2
    doc["at"] = "r9"
    doc["odd"] = 1
    assert len(faults(json.dumps(doc).encode())) >= 4


@pytest.mark.parametrize(
    ("old", "new", "line"),
    [
        (
            b'"makes": 6',
            b'"makes": NaN',
            "$.sessions[0].sets[0].makes: is NaN, which is no number in JSON",
        ),
        (
            b'"makes": 6',
            b'"makes": 1e999',
            "$.sessions[0].sets[0].makes: is 1e999, which is too large",
        ),
        (b'"at": "r1"', b'"at": "r1", "at": "r2"', "$.at: is given twice"),
        (b'{"ladder"', b"[", "$: is not JSON"),
        (b'"left"', b'"l\xff"', "$: is not UTF-8 text"),
    ],
)
def test_json_is_read_strictly(old, new, line):
    data = json.dumps(DOC).encode()
    assert old in data
    assert any(found.startswith(line) for found in faults(data.replace(old, new, 1)))


@pytest.mark.parametrize(
    ("measure", "rule", "place"),
    [
        (
            {"kind": "streak"},
            {"school": "evidence", "confidence": 0.8, "half_life": 3},
            "$.ladder.rule.school",
        ),
        ({"kind": "makes"}, {"school": "window", "passes": 4, "of": 3}, "$.ladder.rule.passes"),
        ({"kind": "makes"}, {"school": "volume"}, "$.ladder.rule.reps"),
        (
            {"kind": "makes"},
            {"school": "volume", "reps": 5, "sessions": 2},
            "$.ladder.rule.sessions",
        ),
    ],
)
def test_rules_that_cannot_be_are_refused(measure, rule, place):
    doc = deepcopy(DOC)
    target = {"makes": 8, "of": 10} if measure["kind"] == "makes" else {"value": 5}
    doc["ladder"] = {"rungs": [{**RUNG, "measure": measure, "target": target}], "rule": rule}
    doc["sessions"] = []
    assert any(found.startswith(place) for found in faults(json.dumps(doc).encode()))


@pytest.mark.parametrize(
    ("measure", "one", "place"),
    [
        ({"kind": "points", "max": 3}, {"attempts": 2, "points": 7}, "points"),
        ({"kind": "checklist", "items": ["a", "b"]}, {"ticks": 3}, "ticks"),
        ({"kind": "to_n", "n": 4}, {"attempts": 3, "makes": 4}, "makes"),
        ({"kind": "to_n", "n": 4}, {"attempts": 3}, "attempts"),
        ({"kind": "done"}, {"share": 1.2}, "share"),
        ({"kind": "streak"}, {"best_run": 1.5}, "best_run"),
    ],
)
def test_sets_that_cannot_be_are_refused(measure, one, place):
    rung = {"id": "r1", "measure": measure, "dose": {}, "target": {"value": 1}}
    doc = {**DOC, "ladder": {"rungs": [rung], "rule": {"school": "one_pass"}}}
    doc["sessions"] = [{"on": "2026-03-02", "observer": "self", "sets": [one]}]
    assert any(
        f.startswith(f"$.sessions[0].sets[0].{place}:") for f in faults(json.dumps(doc).encode())
    )


def run(*arguments: str, data: bytes = b"") -> subprocess.CompletedProcess:
    command = [sys.executable, "-m", "drill_ladder.formats.cli", *arguments]
    return subprocess.run(command, input=data, capture_output=True, check=False)


def test_the_process_itself():
    good = run("decide", data=json.dumps(DOC).encode())
    assert (good.returncode, good.stderr) == (0, b"")
    assert json.loads(good.stdout)["decision"] == "hold"
    bad = run("decide", data=put("at", "r9"))
    assert (bad.returncode, bad.stdout) == (2, b"")
    assert bad.stderr.decode().splitlines() == ["$.at: is 'r9', which is no rung of the ladder"]
    for odd in (("dance",), (), ("schema", "dance"), ("decide", "twice")):
        assert run(*odd).returncode == 2


def test_deep_or_empty_input_is_no_traceback():
    for data in (b"", b"[" * 100_000, b"null", b'"text"', b"9" * 5000):
        found = run("decide", data=data)
        assert (found.returncode, found.stdout) == (2, b"")
        assert b"Traceback" not in found.stderr


def test_the_schema_is_closed_and_takes_what_the_reader_takes():
    found = schema("decide")
    assert found["additionalProperties"] is False
    assert set(found["required"]) == {"ladder", "at", "arrived", "sessions", "today"}
    jsonschema.validate(DOC, found)
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate({**DOC, "odd": 1}, found)


def test_decide_loads_neither_numpy_nor_django():
    code = (
        "import sys, json; from drill_ladder.formats.cli import answer;"
        f"answer('decide', {json.dumps(DOC).encode()!r});"
        "print([m for m in ('numpy', 'scipy', 'django', 'pydantic.main') if m in sys.modules])"
    )
    found = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert found.stdout.strip() == "[]"
