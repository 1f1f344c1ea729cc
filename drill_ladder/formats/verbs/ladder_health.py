"""ladder-health: is the ladder well stepped?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.looking_back import Left, RungStay, health_of
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, maybe, name, one_of, record, whole, yes_no
from drill_ladder.formats.verbs.tempo import at_most_of

COUNTED = record(attempts=whole(), makes=whole())

INPUT = record(
    rungs=listed(name()),
    stays=listed(
        record(
            rung=name(),
            sessions=whole(),
            left=one_of("up", "down", "open"),
            first=maybe(COUNTED),
            first_below=maybe(COUNTED),
            low_first=yes_no(),
        )
    ),
)


def check(doc: Node) -> None:
    """Rungs once, stays on rungs that there are, makes within attempts."""
    known = doc.no_doubles(doc["rungs"].each())
    for stay in doc["stays"].each():
        rung = stay["rung"]
        if rung.text is not None and rung.text not in known:
            rung.refuse(f"is {rung.text!r}, which is no rung of the ladder")
        for first in ("first", "first_below"):
            at_most_of(stay[first], "makes", "attempts")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Rung by rung, and the ladder's median."""
    stays = [
        RungStay(
            stay["rung"],
            stay["sessions"],
            Left(stay["left"]),
            _rate(stay["first"]),
            _rate(stay["first_below"]),
            stay["low_first"],
        )
        for stay in doc["stays"]
    ]
    return asdict(health_of(doc["rungs"], stays))


def _rate(counted: dict[str, int] | None) -> float | None:
    return counted["makes"] / counted["attempts"] if counted and counted["attempts"] else None
