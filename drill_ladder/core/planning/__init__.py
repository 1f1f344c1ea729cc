"""Planning: doses, sessions, weeks, stations, and what a home allows.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.planning.dose import DoseTime, Intent, resolve_band, warnings
from drill_ladder.core.planning.home_version import AtHome, Home, Version, home_version
from drill_ladder.core.planning.kit import kit, tool
from drill_ladder.core.planning.session_plan import Block, Part, in_order
from drill_ladder.core.planning.stations import Rotation, Station, resume, rotate
from drill_ladder.core.planning.week import Day, Placed, Unmet, Wish, plan_week
from drill_ladder.core.planning.week_checks import Break, Help, breaks, what_would_help

__all__ = [
    "AtHome",
    "Block",
    "Break",
    "Day",
    "DoseTime",
    "Help",
    "Home",
    "Intent",
    "Part",
    "Placed",
    "Rotation",
    "Station",
    "Unmet",
    "Version",
    "Wish",
    "breaks",
    "home_version",
    "in_order",
    "kit",
    "plan_week",
    "resolve_band",
    "resume",
    "rotate",
    "tool",
    "warnings",
    "what_would_help",
]
