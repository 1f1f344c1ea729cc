"""The hall: what several people tap at once, put together; what a timing gate saw; what a
phone hears.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.hall.gate import Beam, Beat, Doubt, Run, Seen, drift_of, drifts, runs_of
from drill_ladder.core.hall.hearing import (
    Ear,
    Heard,
    Hit,
    Pace,
    energies,
    gap_of,
    matched,
    moments,
    pace_of,
)
from drill_ladder.core.hall.log import (
    COUNTS_AS,
    LONGEST_REST_S,
    Act,
    Tap,
    TapSet,
    Work,
    ends_of,
    fold,
    fold_row,
    is_whole,
    rests_of,
)
from drill_ladder.core.hall.strokes import (
    AGAIN,
    AS_ASKED,
    EASIER,
    VOID,
    attempts_in,
    faults_in,
    is_good,
    makes_in,
)

__all__ = [
    "AGAIN",
    "AS_ASKED",
    "COUNTS_AS",
    "EASIER",
    "LONGEST_REST_S",
    "VOID",
    "Act",
    "Beam",
    "Beat",
    "Doubt",
    "Ear",
    "Heard",
    "Hit",
    "Pace",
    "Run",
    "Seen",
    "Tap",
    "TapSet",
    "Work",
    "attempts_in",
    "drift_of",
    "drifts",
    "ends_of",
    "energies",
    "faults_in",
    "fold",
    "fold_row",
    "gap_of",
    "is_good",
    "is_whole",
    "makes_in",
    "matched",
    "moments",
    "pace_of",
    "rests_of",
    "runs_of",
]
