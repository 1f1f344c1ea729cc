"""drop-off: when does a speed block stop itself?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.judging import DROP_LIMIT, drop_off, drop_off_sum
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, maybe, number, one_of, optional, record, whole

INPUT = record(
    rounds=listed(number(above=0)),
    limit=optional(number(above=0, high=1), DROP_LIMIT),
    te=maybe(number(above=0)),
    running=optional(whole(1, 2), 1),
    method=optional(one_of("best", "sum"), "best"),
)


def check(doc: Node) -> None:
    """The shape says it all."""


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Each round against the best before it, or by what adds up."""
    if doc["method"] == "sum":
        return asdict(drop_off_sum(doc["rounds"], doc["limit"], doc["te"]))
    return asdict(drop_off(doc["rounds"], doc["limit"], doc["te"], doc["running"]))
