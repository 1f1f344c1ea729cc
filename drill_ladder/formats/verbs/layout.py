"""layout: lengths, turns, footprint, does it fit?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.layout import Leg, Plan, fits, footprint, largest_scale, leg_lengths, turns
from drill_ladder.core.units import Unit, metres_per
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, maybe, name, number, one_of, optional, pair, record, text

OWN = ("pace", "shoe")
INPUT = record(
    units=one_of("m", "ft", "yd", "pace", "shoe"),
    unit_m=maybe(number(above=0)),
    markers=listed(record(id=name(), x=number(None), y=number(None)), 1),
    legs=listed(record(from_=name(), to=name(), way=optional(text(), ""), do=optional(text(), ""))),
    zones=optional(listed(record(id=name(), points=listed(pair(number(None)), 1))), []),
    margin=optional(number(), 0.0),
    space=maybe(record(width=number(), depth=number())),
)


def check(doc: Node) -> None:
    """Ids once, legs between markers that exist, a length for one's own units."""
    doc.no_doubles(marker["id"] for marker in doc["markers"].each())
    doc.no_doubles(zone["id"] for zone in doc["zones"].each())
    known = {marker["id"].text for marker in doc["markers"].each()}
    for leg in doc["legs"].each():
        for end in (leg["from"], leg["to"]):
            if end.text is not None and end.text not in known:
                end.refuse(f"is {end.text!r}, which is no marker")
    units, length = doc["units"].text, doc["unit_m"]
    length.require_that(units not in OWN or length.value is not None, f"is required for {units}: its length in metres")
    length.require_that(units in OWN or length.value is None, f"is not for {units}, which has a length of its own")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Everything in metres."""
    plan = _plan(doc, metres_per(Unit(doc["units"]), doc["unit_m"]))
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


def _plan(doc: dict[str, Any], metres: float) -> Plan:
    markers = {m["id"]: (m["x"] * metres, m["y"] * metres) for m in doc["markers"]}
    legs = [Leg(leg["from"], leg["to"], leg["way"], leg["do"]) for leg in doc["legs"]]
    zones = [[(x * metres, y * metres) for x, y in zone["points"]] for zone in doc["zones"]]
    return Plan(markers, legs, zones, doc["margin"] * metres)
