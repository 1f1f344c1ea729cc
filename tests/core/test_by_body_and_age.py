"""What a child's body and age ask for: settings of tools, limits of their size, steps by age."""

import pytest

from drill_ladder.core.judging import ByAge
from drill_ladder.core.planning import (
    KitWindow,
    SizeLimit,
    of_age,
    only_of,
    over_limits,
    set_to,
)
from drill_ladder.formats.age_words import BadAges, ages_text, at_age, read_ages
from drill_ladder.formats.kit_words import (
    BadSize,
    over_words,
    read_windows,
    set_words,
    windows_text,
)

TEE = KitWindow("tee", 0.3, 0.55, "knee to navel")
UNDER_12 = SizeLimit("Sticks", most=91, under=12, whose="Regional union, 1 September 2026")


def words(height, sizes=(), limits=(), window=TEE):
    return [set_words(one) for one in set_to([window], height, dict(sizes), limits)]


def test_a_tool_is_set_by_the_height_of_this_child():
    assert words(136) == ["Tee: 41 to 75\u00a0cm, knee to navel"]
    assert words(136, window=KitWindow("tee", 0.3, 0.55)) == ["Tee: 41 to 75\u00a0cm"]


def test_without_a_height_it_is_said_how_it_is_found():
    assert words(None) == ["Tee: knee to navel"]
    bare = KitWindow("tee", 0.305, 0.55)
    assert words(None, window=bare) == ["Tee: 30.5 to 55\u00a0% of the height"]


def test_a_tool_whose_size_is_noted_is_not_set():
    assert words(136, {"Tees": 50}) == []


@pytest.mark.parametrize(
    ("limit", "said"),
    [
        (SizeLimit("tee", most=60, whose="Union"), "41 to 60"),
        (SizeLimit("tee", least=50, whose="Union"), "50 to 75"),
        (SizeLimit("tee", most=30, whose="Union"), "41 to 41"),  # nothing is left: the least
    ],
)
def test_a_limit_narrows_what_a_tool_is_set_to(limit, said):
    assert words(136, limits=[limit]) == [f"Tee: {said}\u00a0cm, knee to navel (limit: Union)"]


def test_limits_of_others_and_of_other_tools_narrow_nothing():
    wide = [SizeLimit("tee", most=90), SizeLimit("stick", most=1)]
    assert words(136, limits=wide) == words(136)


def test_a_limit_by_age_holds_under_it_and_of_no_age_not():
    old = SizeLimit("stick", most=105)
    assert of_age([UNDER_12, old], 11) == [UNDER_12, old]
    assert of_age([UNDER_12, old], 12) == [old]
    assert of_age([UNDER_12, old], None) == [old]


def test_an_own_tool_beyond_a_limit_is_said():
    over = over_limits([UNDER_12], {"stick": 91.5, "racket": 300})
    assert [over_words(one) for one in over] == [
        "Stick of 91.5\u00a0cm: at most 91\u00a0cm is allowed under 12 "
        "(Regional union, 1 September 2026)."
    ]
    assert over_limits([UNDER_12], {"stick": 91}) == []
    least = SizeLimit("bar", least=40, whose="Union")
    assert [over_words(one) for one in over_limits([least], {"bar": 39})] == [
        "Bar of 39\u00a0cm: at least 40\u00a0cm is allowed (Union)."
    ]


def test_only_tools_of_the_drill_are_looked_at():
    assert only_of(["2 sticks", "balls"], {"stick": 88, "racket": 66}) == {"stick": 88}


def test_windows_are_typed_with_how_they_are_found():
    text = "tee 30 to 55 %, knee to navel\nstick 50 to 60 %"
    assert read_windows(text) == (TEE, KitWindow("stick", 0.5, 0.6))
    assert windows_text(read_windows(text)) == text
    with pytest.raises(BadSize, match="at most 80 letters"):
        read_windows(f"tee 30 to 55 %, {'x' * 81}")


STEPS = (ByAge(8, "3 m"), ByAge(10, "4,5 m"), ByAge(None, "6 m"))


def test_ages_are_typed_as_they_are_said():
    assert read_ages("to 8: 3 m, up to 10 4,5 m; older: 6 m") == STEPS
    assert read_ages(ages_text(STEPS)) == STEPS
    assert read_ages(" ") == ()


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("8", "is no age"),
        ("to 8: 3 m, to 8: 4 m", "from young to old"),
        ("older: 3 m, to 8: 4 m", "from young to old"),
        ("to 2: 3 m", "ages run from 3 to 99"),
        ("to 99999999999999999999: 3 m", "ages run from 3 to 99"),
        (f"to 8: {'x' * 61}", "is no age"),
        (", ".join(f"to {age}: 1 m" for age in range(5, 14)), "At most 8"),
    ],
)
def test_what_is_no_age_is_said(text, why):
    with pytest.raises(BadAges, match=why):
        read_ages(text)


@pytest.mark.parametrize(
    ("age", "own"),
    [
        (6, "3 m (age 6)"),
        (8, "3 m (age 8)"),
        (9, "4,5 m (age 9)"),
        (40, "6 m (age 40)"),
        (None, "to 8: 3 m, to 10: 4,5 m, older: 6 m"),
    ],
)
def test_everybody_gets_what_is_of_their_age(age, own):
    assert at_age(STEPS, age) == own


def test_of_an_age_that_no_step_names_nothing_is_said():
    assert at_age(STEPS[:2], 11) == ""
    assert at_age((), 11) == at_age((), None) == ""
