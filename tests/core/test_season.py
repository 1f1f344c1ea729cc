"""One long history by hand: a ladder of four rungs, two lanes, eight of ten each, two passes in a row.

Each line: day, left, right (of ten; blank: not done), what was done in it, the verdict, the proposal, the next rung.
The coach confirms every proposal on the same day; `eased` follows what was confirmed.
"""

from drill_ladder.core.decision import PRODUCT, decide
from drill_ladder.core.rules import InARow
from tests.core.build import ladder, made, on, rung

SIDES = ("left", "right")
SEASON = """
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


def test_a_whole_season():
    rungs = [rung(f"r{i}", lanes=SIDES, each=True, floor=0.4, ease="bigger" if i == 3 else None) for i in range(1, 5)]
    steps = ladder(*rungs, school=InARow(2), stall_after=8, skip_at=None)
    at, sessions, last_on = "r1", [], None
    for line in SEASON.strip().splitlines():
        day, stands, *rest = line.split()
        eased = "eased" in rest
        words = [w for w in rest if w != "eased"]
        makes = [int(w) for w in words if w.isdigit()]
        verdict, proposal, *to = [w for w in words if not w.isdigit()]
        assert at == stands, line
        if makes:
            sessions.append(made(int(day), *makes, lanes=SIDES, eased=eased))
        found = decide(steps, at, sessions, on(int(day)), last_on, settings=PRODUCT)
        assert (found.kind.value, found.to) == (proposal, to[0] if to else None), line
        if makes:
            assert found.verdicts[-1].verdict.value == verdict, line
        last_on = on(int(day))
        if found.kind in ("climb", "step_down"):
            at, sessions = found.to, []
