"""cues: a sequence for the caller."""

from typing import Any

from drill_ladder.core.coaching import sequence
from drill_ladder.core.judging import Mode
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, name, one_of, optional, record, whole

INPUT = record(
    cues=listed(name(), 1, 1000),
    n=whole(0, 100_000),
    mode=one_of("known", "serial", "random"),
    max_run=optional(whole(1), 2),
    seed=optional(whole(), 0),
)


def check(doc: Node) -> None:
    """Each cue once."""
    doc.no_doubles(doc["cues"].each())


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """The sequence."""
    return {
        "sequence": sequence(doc["cues"], doc["n"], Mode(doc["mode"]), doc["max_run"], doc["seed"])
    }
