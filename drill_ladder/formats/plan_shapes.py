"""The shape of a floor plan: one reader for the command line, drills and files."""

from typing import Any

from drill_ladder.core.floor import Leg, Plan, Unit, metres_per
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, maybe, name, number, one_of, optional, pair, record, text

OWN = ("pace", "shoe")
FIELDS = {
    "units": one_of("m", "ft", "yd", "pace", "shoe"),
    "unit_m": maybe(number(above=0)),
    "markers": listed(record(id=name(), x=number(None), y=number(None)), 1),
    "legs": listed(record(from_=name(), to=name(), way=optional(text(), ""), do=optional(text(), ""))),
    "zones": optional(listed(record(id=name(), points=listed(pair(number(None)), 1))), []),
    "margin": optional(number(), 0.0),
}
# a drill's plan also shows where the ball or the feed goes
PATH = record(from_=name(), to=name(), kind=optional(one_of("ball", "feed"), "ball"))
PLAN = record(**FIELDS, paths=optional(listed(PATH), []))


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
    length.require_that(units not in OWN or length.value is not None, f"is required for {units}: its length in metres")
    length.require_that(units in OWN or length.value is None, f"is not for {units}, which has a length of its own")


def to_plan(doc: dict[str, Any]) -> Plan:
    """A validated plan in metres."""
    metres = metres_per(Unit(doc["units"]), doc["unit_m"])
    markers = {m["id"]: (m["x"] * metres, m["y"] * metres) for m in doc["markers"]}
    legs = [Leg(leg["from"], leg["to"], leg["way"], leg["do"]) for leg in doc["legs"]]
    zones = [[(x * metres, y * metres) for x, y in zone["points"]] for zone in doc["zones"]]
    return Plan(markers, legs, zones, doc["margin"] * metres)
