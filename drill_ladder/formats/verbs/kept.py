"""kept: what was done of what was planned, week by week."""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.statistics import PlannedWeek, kept
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, optional, record, whole

INPUT = record(
    weeks=listed(
        record(planned=whole(0, 100_000), done=whole(0, 100_000), days=optional(whole(1, 7), 7))
    )
)


def check(doc: Node) -> None:
    """The shape says it all."""


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """The share, and the weeks in a row."""
    return asdict(kept([PlannedWeek(**week) for week in doc["weeks"]]))
