"""layout: lengths, turns, footprint, does it fit?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.plans import fits, footprint, largest_scale, leg_lengths, turns
from drill_ladder.formats.node import Node
from drill_ladder.formats.plan_shapes import FIELDS, check_plan, to_plan
from drill_ladder.formats.shapes import maybe, number, record

INPUT = record(**FIELDS, space=maybe(record(width=number(), depth=number())))


def check(doc: Node) -> None:
    """Ids once, legs between markers that exist, a length for one's own units."""
    check_plan(doc)


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Everything in metres."""
    plan = to_plan(doc)
    lengths = leg_lengths(plan)
    space = doc["space"]
    scale = None if space is None else largest_scale(plan, (space["width"], space["depth"]))
    return {
        "legs_m": lengths,
        "path_m": sum(lengths),
        "turns": asdict(turns(plan)),
        "footprint_m": list(footprint(plan)),
        "fits": None if space is None else fits(scale),
        "scale": scale,
    }
