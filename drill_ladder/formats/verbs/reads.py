"""reads: deciding apart from doing."""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.coaching import FEWEST_CUES, Choices, reads_of
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import maybe, optional, record, whole
from drill_ladder.formats.verbs.tempo import at_most_of

CUES = ("hits", "misses", "false_alarms", "correct_leaves")

INPUT = record(
    **{key: whole() for key in CUES},
    choices=maybe(record(right=whole(), of=whole(), carried_out=whole())),
    min_cues=optional(whole(1), FEWEST_CUES),
)


def check(doc: Node) -> None:
    """carried_out <= right <= of."""
    at_most_of(doc["choices"], "right", "of")
    at_most_of(doc["choices"], "carried_out", "right")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Rates, d' and criterion, and the choices."""
    choices = Choices(**doc["choices"]) if doc["choices"] else None
    cues = {key: doc[key] for key in CUES}
    return asdict(reads_of(**cues, choices=choices, min_cues=doc["min_cues"]))
