"""What screens promise, with seeds that the table in docs/methods.md did not use; and the table
itself: no promise without a line.
"""

from pathlib import Path

import pytest

from tests.promised import AT_LEAST, AT_MOST, Found
from tests.promises import bands, fives, gains, next_session, placing, season, too_soon
from tests.promises_of_signs import changes, sides, stops, trends
from tests.simulated import POINTED, TIMED, Kind, Pointed, Timed

METHODS = Path(__file__).parents[2] / "docs" / "methods.md"
ASKED = {
    "too soon": lambda: [too_soon(300, 91, spread) for spread in (0.03, 0.06, 0.1)],
    "next session": lambda: next_session(8, 91),
    "bands": lambda: bands(12, 91),
    "bands of unlike players": lambda: bands(10, 92, Kind(streak=0.4, missed=0.2)),
    "bands of times": lambda: bands(10, 93, TIMED, club_of=Timed),
    "bands of points": lambda: bands(10, 94, POINTED, club_of=Pointed),
    "fives": lambda: fives(6, 91),
    "season": lambda: season(8, 91),
    "placing": lambda: placing(60, 91),
    "gains": lambda: gains(8, 91),
    "sides": lambda: sides(120, 91),
    "trends": lambda: trends(150, 91),
    "changes": lambda: changes(800, 91),
    "stops": lambda: stops(300, 91),
}


@pytest.mark.parametrize("name", ASKED)
def test_a_promise_is_kept(name):
    broken = [line for line in ASKED[name]() if not line.kept]
    assert not broken


def test_a_promise_can_be_broken():
    """The check itself: more than promised, and less."""
    assert not Found("", "", AT_MOST, 0.1, 0.3, 100, 0.09).kept
    assert not Found("", "", AT_LEAST, 0.8, 0.5, 100, 0.12).kept
    assert not Found("", "", "about", 0.5, 0.7, 100, 0.15).kept


def test_every_promise_stands_in_the_table():
    table = METHODS.read_text().split("<!-- truth: begin -->")[1].split("<!-- truth: end -->")[0]
    said = [line for ask in ("sides", "trends", "stops", "season") for line in ASKED[ask]()]
    assert [line.promise for line in said if line.promise not in table] == []
