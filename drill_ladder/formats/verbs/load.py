"""load: effort x minutes, week by week."""

from typing import Any

from drill_ladder.core.statistics import Effort, weeks
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import day, listed, number, record

INPUT = record(days=listed(record(on=day(), effort=number(0, 10), minutes=number())))


def check(doc: Node) -> None:
    """The shape says it all."""


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Weeks from Monday to Sunday."""
    found = weeks([Effort(**entry) for entry in doc["days"]])
    return {
        "weeks": [
            {
                "start": week.start.isoformat(),
                "load": week.load,
                "monotony": week.monotony,
                "strain": week.strain,
                "change": week.change,
            }
            for week in found
        ]
    }
