"""Coaching: faults and cues, which lanes come next, what to be glad of.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.coaching.coverage import (
    Axis,
    Cell,
    CellState,
    Steps,
    draft_ladder,
    first_in_next_plan,
    grid,
)
from drill_ladder.core.coaching.cues import Mode, calls, sequence
from drill_ladder.core.coaching.faults import (
    RECENT,
    Misses,
    Ranked,
    Treatment,
    cue_for_set,
    worth_treating,
)

__all__ = [
    "RECENT",
    "Axis",
    "Cell",
    "CellState",
    "Misses",
    "Mode",
    "Ranked",
    "Steps",
    "Treatment",
    "calls",
    "cue_for_set",
    "draft_ladder",
    "first_in_next_plan",
    "grid",
    "sequence",
    "worth_treating",
]
