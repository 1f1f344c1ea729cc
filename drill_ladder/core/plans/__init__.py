"""The floor: where things stand, how far it is, in which unit.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.plans.layout import (
    Leg,
    Plan,
    Spot,
    Turns,
    farthest,
    fits,
    footprint,
    implausible,
    largest_scale,
    leg_lengths,
    mean_speed,
    turns,
    way_to,
)
from drill_ladder.core.plans.plan import FloorPlan, Marker, Wall, Way, Zone
from drill_ladder.core.plans.plan_templates import SHAPES
from drill_ladder.core.plans.sides import swapped
from drill_ladder.core.plans.units import Unit, from_metres, metres_per
from drill_ladder.core.plans.where import lane_places

__all__ = [
    "SHAPES",
    "FloorPlan",
    "Leg",
    "Marker",
    "Plan",
    "Spot",
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
    "way_to",
]
