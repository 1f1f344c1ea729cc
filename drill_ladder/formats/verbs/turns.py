"""turns: stay-alive turns evened out."""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.coaching import MOST_EXTRA, turns_of
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, name, optional, record, whole

INPUT = record(
    cap=whole(1),
    players=listed(record(id=name(), runs=listed(whole()))),
    most_extra=optional(whole(), MOST_EXTRA),
)


def check(doc: Node) -> None:
    """Each player once, no run over the cap."""
    doc.no_doubles(player["id"] for player in doc["players"].each())
    cap = doc["cap"].number
    for player in doc["players"].each():
        for run_ in player["runs"].each():
            if cap is not None and run_.number is not None and run_.number > cap:
                run_.refuse("is more than cap")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Player by player."""
    players = [(player["id"], player["runs"]) for player in doc["players"]]
    return {"players": [asdict(turn) for turn in turns_of(doc["cap"], players, doc["most_extra"])]}
