"""The scale beside a player's scores: plain numbers inside what is drawn, room for their words."""

import re
from datetime import date

import pytest

from drill_ladder.charts.scores import Point, scores


def drawn(low, high, said=lambda value: f"{value:g}"):
    points = [Point(date(2026, 1, 1), low), Point(date(2026, 1, 9), high, heard=True)]
    return scores(points, None, None, said, "Better?")


@pytest.mark.parametrize(
    ("low", "high", "steps"),
    [
        (17, 20, [17, 18, 19, 20]),
        (0.4, 0.85, [0.4, 0.6, 0.8]),
        (0, 0, [0, 0.5, 1]),
        (120, 480, [200, 400]),
        (9.1, 9.9, [9.2, 9.4, 9.6, 9.8]),
    ],
)
def test_its_values_are_plain_numbers(low, high, steps):
    found = re.findall(r'text-anchor="end"[^>]*>([\d.]+)<', drawn(low, high))
    assert [float(one) for one in found] == pytest.approx(steps)


def test_long_words_have_room_on_its_left():
    svg = drawn(17, 20, said=lambda value: f"{value:g} in 30 seconds")
    ends = [float(x) for x in re.findall(r'<text x="([\d.]+)"[^>]*text-anchor="end"', svg)]
    assert min(ends) > 7 * len("20 in 30 seconds") - 7


def test_what_was_heard_is_a_square():
    assert (drawn(1, 2).count("<rect"), drawn(1, 2).count("<circle")) == (1, 1)
