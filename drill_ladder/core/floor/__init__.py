"""The floor: where things stand, how far it is, in which unit.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.floor.floor_plan import FloorPlan, Marker, Wall, Way, Zone
from drill_ladder.core.floor.layout import (
    Leg,
    Place,
    Plan,
    Turns,
    farthest,
    fits,
    footprint,
    implausible,
    largest_scale,
    leg_lengths,
    mean_speed,
    turns,
)
from drill_ladder.core.floor.plan_templates import SHAPES
from drill_ladder.core.floor.sides import swapped
from drill_ladder.core.floor.units import Unit, from_metres, metres_per
from drill_ladder.core.floor.where import lane_places

__all__ = [
    "SHAPES",
    "FloorPlan",
    "Leg",
    "Marker",
    "Place",
    "Plan",
    "Turns",
    "Unit",
    "Wall",
    "Way",
    "Zone",
    "farthest",
    "fits",
    "footprint",
    "from_metres",
    "implausible",
    "lane_places",
    "largest_scale",
    "leg_lengths",
    "mean_speed",
    "metres_per",
    "swapped",
    "turns",
]
