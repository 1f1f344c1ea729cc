"""Planning: doses, sessions, weeks, stations, and what a home allows.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.planning.dose import DoseTime, reps_in, resolve_band, resolve_dose, warnings
from drill_ladder.core.planning.home_version import (
    FITS_FROM,
    AtHome,
    Home,
    SoloVersion,
    Version,
    kit_of,
    tool,
    version_for,
)
from drill_ladder.core.planning.kit_fit import (
    KitWindow,
    Misfit,
    OverLimit,
    SetTo,
    SizeLimit,
    measure_again,
    misfits,
    of_age,
    only_of,
    over_limits,
    set_to,
)
from drill_ladder.core.planning.routine import Cut, Insert, Routine, routine_of
from drill_ladder.core.planning.routine import Part as RoutinePart
from drill_ladder.core.planning.session_plan import Block, Part, in_order
from drill_ladder.core.planning.stations import Rotation, Spot, Station, Turn, resume, rotate
from drill_ladder.core.planning.told import ToldBlock, ToldChange
from drill_ladder.core.planning.week import Day, Placed, Unmet, Wish, plan_week, plan_within
from drill_ladder.core.planning.week_checks import (
    Break,
    Help,
    Unplaced,
    breaks,
    unplaced,
    what_would_help,
)

__all__ = [
    "FITS_FROM",
    "AtHome",
    "Block",
    "Break",
    "Cut",
    "Day",
    "DoseTime",
    "Help",
    "Home",
    "Insert",
    "KitWindow",
    "Misfit",
    "OverLimit",
    "Part",
    "Placed",
    "Rotation",
    "Routine",
    "RoutinePart",
    "SetTo",
    "SizeLimit",
    "SoloVersion",
    "Spot",
    "Station",
    "ToldBlock",
    "ToldChange",
    "Turn",
    "Unmet",
    "Unplaced",
    "Version",
    "Wish",
    "breaks",
    "in_order",
    "kit_of",
    "measure_again",
    "misfits",
    "of_age",
    "only_of",
    "over_limits",
    "plan_week",
    "plan_within",
    "reps_in",
    "resolve_band",
    "resolve_dose",
    "resume",
    "rotate",
    "routine_of",
    "set_to",
    "tool",
    "unplaced",
    "version_for",
    "warnings",
    "what_would_help",
]
