"""stations: a rotation in which everybody works everywhere."""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.planning import Station, rotate
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, maybe, name, number, optional, record, whole

STATION = record(
    name=name(),
    capacity=whole(1),
    roles=optional(listed(name(), 1), ["worker"]),
    s_per_rep=number(above=0),
    balls=maybe(whole(1, 500)),
)
INPUT = record(
    players=whole(1, 500),
    stations=listed(STATION, 1, 500),
    slot_minutes=number(above=0),
    change_s=optional(number(), 0.0),
)


def check(doc: Node) -> None:
    """Names once; places for whole sets of roles; at least one station that can be filled."""
    doc.no_doubles(station["name"] for station in doc["stations"].each())
    smallest = None
    for station in doc["stations"].each():
        roles = station["roles"].value
        size = len(roles) if isinstance(roles, list) and roles else 1
        capacity = station["capacity"].number
        station.no_doubles(station["roles"].each())
        if capacity is not None and capacity % size:
            station["capacity"].refuse(f"is no multiple of the {size} roles")
        smallest = capacity if smallest is None else min(smallest, capacity or smallest)
    players = doc["players"].number
    if players is not None and smallest is not None and smallest > players:
        doc["players"].refuse("are too few to fill any station")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """The rotation and what it gains."""
    stations = [
        Station(s["name"], s["capacity"], tuple(s["roles"]), s["s_per_rep"], s["balls"])
        for s in doc["stations"]
    ]
    return asdict(rotate(doc["players"], stations, doc["slot_minutes"] * 60, doc["change_s"]))
