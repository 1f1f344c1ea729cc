"""tempo: how fast can it be done cleanly?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.coaching import FEWEST_AT_TEMPO, TempoSet, tempo_of
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, number, optional, record, whole

INPUT = record(
    sets=listed(
        record(tempo=number(above=0, high=1), attempts=whole(), makes=whole(), faulty=whole())
    ),
    limit=number(),
    min_attempts=optional(whole(1), FEWEST_AT_TEMPO),
)


def check(doc: Node) -> None:
    """Makes and faulty ones within the attempts."""
    for s in doc["sets"].each():
        at_most_of(s, "makes", "attempts")
        at_most_of(s, "faulty", "attempts")


def at_most_of(one: Node, part: str, whole_: str) -> None:
    """Refuse a part that is more than its whole."""
    inner, outer = one[part].number, one[whole_].number
    if inner is not None and outer is not None and inner > outer:
        one[part].refuse(f"is more than {whole_}")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Tempo by tempo, and the next one."""
    sets = [TempoSet(**s) for s in doc["sets"]]
    return asdict(tempo_of(sets, doc["limit"], doc["min_attempts"]))
