"""routine: parts in a fixed order, fitted into the minutes there are."""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.planning import Insert, RoutinePart, routine_of
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import (
    either,
    listed,
    maybe,
    name,
    number,
    one_of,
    optional,
    record,
    whole,
    yes_no,
)
from drill_ladder.formats.verbs import dose

MOST_PARTS, MOST_SETS = 50, 1000

INPUT = record(
    parts=listed(
        record(
            id=name(),
            dose=dose.INPUT,
            keep=optional(yes_no(), False),
            together=optional(yes_no(), False),
        ),
        0,
        MOST_PARTS,
    ),
    insert=maybe(
        record(
            reps=whole(1),
            s_per_rep=number(above=0),
            after=either("each, none or a list of parts", one_of("each", "none"), listed(name())),
        )
    ),
    change_s=optional(number(), 0.0),
    minutes=maybe(number()),
)


def check(doc: Node) -> None:
    """Parts once, doses that are doses, inserts after parts that there are."""
    known = doc.no_doubles(part["id"] for part in doc["parts"].each())
    for part in doc["parts"].each():
        if isinstance(part["dose"].value, dict):
            dose.check(part["dose"])
        if (part["dose"]["sets"].number or 0) > MOST_SETS:
            part["dose"]["sets"].refuse(f"is over {MOST_SETS}")
    after = doc["insert"]["after"]
    doc.no_doubles(after.each())
    for one in after.each():
        if one.text is not None and one.text not in known:
            one.refuse(f"is {one.text!r}, which is no part of the routine")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """When each part starts, and what was cut or left out."""
    parts = [
        RoutinePart(part["id"], dose.to_time(part["dose"]), part["keep"], part["together"])
        for part in doc["parts"]
    ]
    found = asdict(routine_of(parts, _insert(doc["insert"]), doc["change_s"], doc["minutes"]))
    found["cut"] = [{"id": c["id"], "from": c["from_"], "to": c["to"]} for c in found["cut"]]
    return found


def _insert(given: dict[str, Any] | None) -> Insert | None:
    if given is None or given["after"] == "none":
        return None
    after = None if given["after"] == "each" else frozenset(given["after"])
    return Insert(given["reps"] * given["s_per_rep"], after)
