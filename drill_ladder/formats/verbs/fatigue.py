"""fatigue: does it fall off inside a session?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.statistics import fatigue_of
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, record, whole

INPUT = record(sessions=listed(listed(whole(0, 1))))


def check(doc: Node) -> None:
    """The shape says it all."""


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """First third against last third."""
    return asdict(fatigue_of(doc["sessions"]))
