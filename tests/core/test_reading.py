"""One reader for what comes from outside: it never raises, and what it lets through can be kept."""

import doctest
import json
import unicodedata
from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from drill_ladder.formats import reading
from drill_ladder.formats.library_file import read_library
from drill_ladder.formats.mistakes import Mistakes
from drill_ladder.formats.node import Node
from tests.hostile import VALUES

ANYTHING = st.one_of(
    st.text(), st.integers(), st.floats(), st.booleans(), st.none(), st.sampled_from(VALUES)
)


def test_the_examples_hold():
    assert doctest.testmod(reading).failed == 0


@given(ANYTHING)
def test_nothing_raises_and_bounds_hold(value):
    number = reading.whole(value, -5, 1000)
    assert number is None or -5 <= number <= 1000
    share = reading.decimal(value, 0, 1)
    assert share is None or 0 <= share <= 1
    on = reading.day(value)
    assert on is None or on + timedelta(weeks=500) > on - timedelta(weeks=500)
    reading.uuid(value)


@given(st.integers(-1000, 1000), st.dates(date(1900, 1, 1), date(2200, 12, 31)), st.uuids())
def test_what_is_right_is_read(number, on, key):
    assert reading.whole(str(number), -1000) == number
    assert reading.day(on.isoformat()) == on
    assert reading.uuid(str(key)) == key == reading.uuid(str(key).upper())
    assert reading.decimal(f"{number},5", -2000, 2000) == float(f"{number}.5")


@given(st.text(), st.booleans())
def test_a_cleaned_text_can_be_kept(text, lines):
    found = reading.clean(text, lines)
    found.encode()  # raises for halves of letters
    assert not reading.unkept(found, lines)
    assert reading.clean(found, lines) == found
    assert all(unicodedata.category(c) != "Cc" or (lines and c == "\n") for c in found)


@given(st.text(), st.integers(2, 50))
def test_a_cut_text_fits(text, most):
    assert len(reading.cut(text, most)) <= most
    if len(reading.clean(text)) <= most:
        assert reading.cut(text, most) == reading.clean(text)


NUMERALS = ["²", "٣", "Ⅷ", "½", "൧", "1²"]  # isdigit() or isnumeric() says yes to each


@pytest.mark.parametrize("text", NUMERALS)
def test_what_only_looks_like_a_number_is_none(text):
    assert reading.whole(text) is None
    assert reading.decimal(text, 0, 100) is None
    assert reading.day(f"202{text}-01-01") is None


def test_documents_are_bounded():
    assert reading.json_value("[" * 31 + "]" * 31) is None
    assert reading.json_value("[" * 30 + "]" * 30) is not None
    assert reading.json_value(json.dumps("x" * 60_000)) is None
    assert reading.json_value('"\\ud800"') is None
    assert reading.json_value("1e999") is None
    assert Node(10**400, []).number is None


LIMITS = {
    "a name too long": (("drills", 0, "title"), "x" * 121, "should have at most 120 characters"),
    "a line break in a name": (("drills", 0, "title"), "a\nb", "holds a line break"),
    "NUL": (("drills", 0, "purpose"), "a\x00b", "cannot be kept"),
    "half a letter": (("drills", 0, "how"), "\ud800", "cannot be kept"),
    "a million sets": (("ladders", 0, "rungs", 0, "dose", "sets"), 10**6, "is more than 50"),
    "too many rows": (("ladders", 0, "rungs", 0, "dose", "reps"), 10**6, "is more than 1000"),
    "a rule of years": (("ladders", 0, "rule", "passes"), 10**6, "is more than 10"),
    "a plan on the moon": (("drills", 0, "plan", "markers", 0, "x"), 4e8, "is farther than 1000"),
    "four hundred digits": (("drills", 0, "plan", "margin"), 10**400, "plan.margin"),
}


@pytest.mark.parametrize("what", LIMITS)
def test_a_file_says_what_is_too_much(what):
    path, value, words = LIMITS[what]
    document = {
        "format": "drill-ladder/1",
        "drills": [
            {
                "title": "Pass",
                "measure": {"kind": "makes"},
                "caution": "home_alone",
                "plan": {
                    "units": "m",
                    "markers": [{"id": "A", "x": 0, "y": 0}],
                    "legs": [],
                    "margin": 1,
                },
            }
        ],
        "ladders": [
            {
                "title": "Passes",
                "rule": {"school": "in_a_row", "passes": 2},
                "rungs": [
                    {
                        "drill": "Pass",
                        "title": "One",
                        "dose": {"sets": 1, "reps": 10},
                        "target": {"makes": 8, "of": 10},
                    }
                ],
            }
        ],
    }
    place = document
    for key in path[:-1]:
        place = place[key]
    read_library(json.dumps(document).encode())
    place[path[-1]] = value
    with pytest.raises(Mistakes) as told:
        read_library(json.dumps(document).encode())
    assert any(words in line for line in told.value.lines), told.value.lines


def test_a_file_nested_without_end_is_told_so():
    with pytest.raises(Mistakes, match="nested too deeply"):
        read_library(b'{"a":' * 1000 + b"1" + b"}" * 1000)


def test_a_file_of_too_many_rungs_is_told_so():
    rung = {"drill": "Pass", "title": "r", "dose": {}, "target": {"makes": 8, "of": 10}}
    ladders = [
        {"title": f"L{i}", "rule": {"school": "one_pass"}, "rungs": [rung] * 60} for i in range(84)
    ]
    drills = [{"title": "Pass", "measure": {"kind": "makes"}, "caution": "home_alone"}]
    document = {"format": "drill-ladder/1", "drills": drills, "ladders": ladders}
    with pytest.raises(Mistakes, match="have 5040 rungs, and at most 5000"):
        read_library(json.dumps(document).encode())
    read_library(json.dumps(document | {"ladders": ladders[:83]}).encode())
