"""Whole seasons by hand, one for each school, as tables.

Each line: day, rung, makes of ten (left and right where there are lanes; "5/5" says makes of
attempts), words (eased, self), then the verdict, the proposal and the rung it leads to. The coach
confirms every move on the same day.
"""

import pytest

from drill_ladder.core.judging.decision import PRODUCT, decide
from drill_ladder.core.judging.ladders import Evidence, InARow, Trust, Volume, Window
from tests.core.build import ladder, made, on, rung

SIDES = ("left", "right")
IN_A_ROW = """
  1  r1   6  8        near   hold
  3  r1   8  9        pass   hold
  5  r1   8           short  hold
  8  r1   8  8        pass   climb      r2
 10  r2   9  8        pass   hold
 11  r2   7  9        near   hold
 13  r2   8  9        pass   hold
 15  r2   9  9        pass   climb      r3
 17  r3   4  8        near   hold
 19  r3   3  8        low    hold
 21  r3   2  7        low    ease
 23  r3   7  9 eased  near   hold
 25  r3   8  8 eased  near   hold
 27  r3   5  8        near   hold
 29  r3   6  8        near   hold
 31  r3   6  9        near   hold
 33  r3   8  8        pass   hold
 35  r3   9  8        pass   climb      r4
 58  r4               .      recheck    r3
 60  r4   3  9        low    hold
 62  r4   3  9        low    step_down  r3
 64  r3   9  9        pass   hold
 66  r3   9  9        pass   climb      r4
 68  r4   8  8        pass   hold
 70  r4   9  8        pass   finish
"""


ONE_PASS = """
  1  r1   7        near   hold
  3  r1   8        pass   climb      r2
  5  r2  10        pass   skip       r4
  8  r4   3        low    hold
 10  r4   4        low    step_down  r3
 12  r3   9        pass   climb      r4
 14  r4   4/4      short  wait
 16  r4   7        near   hold
 18  r4   8        pass   finish
"""

# two of the last three, the last pass seen by a coach
WINDOW = """
  1  r1   8  self  pass   hold
  3  r1   6        near   hold
  5  r1   8  self  pass   check
  7  r1   7        near   hold
  9  r1   8        pass   climb      r2
 11  r2  10  self  pass   hold
 13  r2   5/5      short  hold
 15  r2   8        pass   climb      r3
 17  r3  10        pass   hold
 19  r3   9        pass   climb      r4
"""

# thirty repetitions here, the last session not low (under four of ten)
VOLUME = """
  1  r1   5        near   hold
  3  r1   2/5      short  hold
  5  r1   6        near   hold
  7  r1   2        low    hold
  9  r1   5        near   climb      r2
 11  r2  10        pass   skip       r4
 13  r4   2        low    hold
 15  r4   3        low    step_down  r3
 17  r3   5        near   hold
 19  r3   4        near   hold
 21  r3   4        near   climb      r4
"""

# certain at 80 %, half-life three sessions; P(rate >= 0.8) of Beta(0.5 + good, 0.5 + missed) beside
# each session: 0.47, 0.71, 0.82; then 0.07, 0.35, 0.59, 0.87; then 0.97; worked out with
# scipy.stats.beta
EVIDENCE = """
  1  r1   8        pass   hold
  3  r1   9        pass   hold
  5  r1   9        pass   climb      r2
  7  r2   6        near   hold
  9  r2   9        pass   hold
 11  r2   9        pass   hold
 13  r2  10        pass   climb      r3
 15  r3  10        pass   climb      r4
"""


def season(steps, table, lanes=()):
    """Walk through a table; every line is checked."""
    at, sessions, last_on = "r1", [], None
    for line in table.strip().splitlines():
        day, stands, *words = line.split()
        assert at == stands, line
        makes = [w for w in words if w[0].isdigit()]
        eased, seen = "eased" in words, "self" if "self" in words else "coach"
        verdict, proposal, *to = [
            w for w in words if not w[0].isdigit() and w not in ("eased", "self")
        ]
        if makes:
            of = int(makes[0].partition("/")[2] or 10)
            counts = [int(m.partition("/")[0]) for m in makes]
            sessions.append(made(int(day), *counts, of=of, lanes=lanes, eased=eased, seen=seen))
        found = decide(steps, at, sessions, on(int(day)), last_on, settings=PRODUCT)
        assert (found.kind.value, found.to) == (proposal, to[0] if to else None), line
        if makes:
            assert found.verdicts[-1].verdict.value == verdict, line
        last_on = on(int(day))
        if found.to is not None and proposal != "recheck":
            at, sessions = found.to, []


def test_a_whole_season_of_two_in_a_row():
    rungs = [
        rung(f"r{i}", lanes=SIDES, each=True, floor=0.4, ease="bigger" if i == 3 else None)
        for i in range(1, 5)
    ]
    season(ladder(*rungs, school=InARow(2), stall_after=8, skip_at=None), IN_A_ROW, SIDES)


@pytest.mark.parametrize(
    ("school", "gates", "floor", "table"),
    [
        (InARow(1), {}, 0.5, ONE_PASS),
        (Window(2, 3), {"trust": Trust.LAST_PASS_OBSERVED, "skip_at": None}, None, WINDOW),
        (Volume(reps=30), {}, 0.4, VOLUME),
        (Evidence(0.8, 3), {"skip_at": None}, None, EVIDENCE),
    ],
)
def test_a_whole_season_of_each_other_school(school, gates, floor, table):
    season(
        ladder(*(rung(f"r{i}", floor=floor) for i in range(1, 5)), school=school, **gates), table
    )
