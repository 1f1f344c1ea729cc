"""forecast: how long at this pace?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.statistics import forecast_of
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, number, optional, record, whole

INPUT = record(
    stays=listed(whole(1), 0, 10_000),
    rungs_left=whole(0, 1000),
    sessions_per_week=number(),
    seed=optional(whole(), 0),
)


def check(doc: Node) -> None:
    """The shape says it all."""


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Quantiles of sessions and weeks."""
    return asdict(
        forecast_of(doc["stays"], doc["rungs_left"], doc["sessions_per_week"], doc["seed"])
    )
