"""day-spread: how much days differ, beyond chance and learning."""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.looking_back import day_spread
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import day, listed, maybe, name, number, optional, record, whole

INPUT = record(
    stays=listed(
        record(
            lane=maybe(name()),
            days=listed(record(on=day(), attempts=whole(0, 1_000_000), makes=whole(0, 1_000_000))),
        )
    ),
    prior=optional(number(0, 0.5), 0.05),
    prior_df=optional(number(above=0), 40),
)


def check(doc: Node) -> None:
    """Makes within attempts."""
    for stay in doc["stays"].each():
        for one in stay["days"].each():
            attempts, makes = one["attempts"].number, one["makes"].number
            if attempts is not None and makes is not None and makes > attempts:
                one["makes"].refuse("is more than attempts")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """The spread to reckon with, and what the days say alone."""
    stays = [
        [(one["on"], one["attempts"], one["makes"]) for one in stay["days"]]
        for stay in doc["stays"]
    ]
    return asdict(day_spread(stays, doc["prior"], doc["prior_df"]))
