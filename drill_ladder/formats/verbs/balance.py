"""balance: is a gap between lanes real, and how to share the work?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.statistics import WORTH, LaneResult, many_lanes, two_lanes
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, maybe, name, number, one_of, optional, record, whole

INPUT = record(
    lanes=listed(record(name=name(), attempts=whole(), makes=whole()), 2),
    looks=optional(one_of("one", "many"), "one"),
    worth=maybe(number(high=1)),
)


def check(doc: Node) -> None:
    """Names once, makes within attempts."""
    doc.no_doubles(lane["name"] for lane in doc["lanes"].each())
    for lane in doc["lanes"].each():
        attempts, makes = lane["attempts"].number, lane["makes"].number
        if attempts is not None and makes is not None and makes > attempts:
            lane["makes"].refuse("is more than attempts")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Two lanes by their gap, more by chi-square."""
    lanes = [LaneResult(**lane) for lane in doc["lanes"]]
    if len(lanes) == 2:
        many = doc["looks"] == "many"
        usual = WORTH if many else 0.0
        worth = usual if doc["worth"] is None else doc["worth"]
        return asdict(two_lanes(lanes[0], lanes[1], many, worth))
    found = many_lanes(lanes)
    ranked = [
        {**asdict(lane), "rate": lane.rate, "shrunk": shrunk} for lane, shrunk in found.ranked
    ]
    return {"chi2": found.chi2, "p": found.p, "lanes": ranked}
