"""trend: is it getting better?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.statistics import trend_of
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import day, listed, number, one_of, record

INPUT = record(
    better=one_of("higher", "lower"), points=listed(record(on=day(), score=number(None)))
)


def check(doc: Node) -> None:
    """The shape says it all."""


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """The trend."""
    points = [(point["on"], point["score"]) for point in doc["points"]]
    return asdict(trend_of(points, doc["better"] == "higher"))
