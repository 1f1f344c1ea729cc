"""The shape of a floor plan: one reader for the command line, drills and files."""

from typing import Any

from drill_ladder.core.plans import FloorPlan, Leg, Marker, Plan, Unit, Wall, Way, Zone
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import (
    listed,
    maybe,
    name,
    number,
    one_of,
    optional,
    pair,
    record,
    text,
)

OWN = ("pace", "shoe")
FIELDS = {
    "units": one_of("m", "ft", "yd", "pace", "shoe"),
    "unit_m": maybe(number(above=0)),
    "markers": listed(record(id=name(), x=number(None), y=number(None)), 1),
    "legs": listed(
        record(from_=name(), to=name(), way=optional(text(), ""), do=optional(text(), ""))
    ),
    "zones": optional(listed(record(id=name(), points=listed(pair(number(None)), 1))), []),
    "margin": optional(number(), 0.0),
}
# a drill's plan also shows where the ball or the feed goes
PATH = record(from_=name(), to=name(), kind=optional(one_of("ball", "feed"), "ball"))
# ... and the walls that it goes against
WALL = record(points=listed(pair(number(None)), 2, 2))
PLAN = record(**FIELDS, paths=optional(listed(PATH), []), walls=optional(listed(WALL), []))


def check_plan(doc: Node) -> None:
    """Ids once, legs and paths between markers that exist, a length for one's own units."""
    doc.no_doubles(marker["id"] for marker in doc["markers"].each())
    doc.no_doubles(zone["id"] for zone in doc["zones"].each())
    known = {marker["id"].text for marker in doc["markers"].each()}
    for way in (*doc["legs"].each(), *doc["paths"].each()):
        for end in (way["from"], way["to"]):
            if end.text is not None and end.text not in known:
                end.refuse(f"is {end.text!r}, which is no marker")
    units, length = doc["units"].text, doc["unit_m"]
    length.require_that(
        units not in OWN or length.value is not None,
        f"is required for {units}: its length in metres",
    )
    length.require_that(
        units in OWN or length.value is None, f"is not for {units}, which has a length of its own"
    )


def to_floor_plan(doc: dict[str, Any]) -> FloorPlan:
    """A validated plan as it was drawn."""
    return FloorPlan(
        units=Unit(doc["units"]),
        markers=tuple(Marker(m["id"], m["x"], m["y"]) for m in doc["markers"]),
        legs=tuple(Leg(leg["from"], leg["to"], leg["way"], leg["do"]) for leg in doc["legs"]),
        zones=tuple(Zone(z["id"], tuple((x, y) for x, y in z["points"])) for z in doc["zones"]),
        ways=tuple(Way(p["from"], p["to"], p["kind"]) for p in doc.get("paths", ())),
        margin=doc["margin"],
        unit_m=doc["unit_m"],
        walls=tuple(Wall(*map(tuple, wall["points"])) for wall in doc.get("walls", ())),
    )


def to_plan(doc: dict[str, Any]) -> Plan:
    """A validated plan in metres."""
    return to_floor_plan(doc).metres


def floor_plan_document(plan: FloorPlan) -> dict[str, Any]:
    """A plan in the open format, with every default in place."""
    return {
        "units": plan.units.value,
        "unit_m": plan.unit_m,
        "markers": [{"id": m.id, "x": m.x, "y": m.y} for m in plan.markers],
        "legs": [
            {"from": leg.start, "to": leg.end, "way": leg.way, "do": leg.do} for leg in plan.legs
        ],
        "zones": [
            {"id": zone.id, "points": [list(point) for point in zone.points]} for zone in plan.zones
        ],
        "margin": plan.margin,
        "paths": [{"from": way.start, "to": way.end, "kind": way.kind} for way in plan.ways],
        "walls": [{"points": [list(wall.start), list(wall.end)]} for wall in plan.walls],
    }
