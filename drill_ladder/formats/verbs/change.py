"""change: is it more than noise?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.statistics import FEWEST_PAIRS, real_change, typical_error
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, maybe, number, one_of, pair, record

INPUT = record(
    pairs=maybe(listed(pair(number(None)), FEWEST_PAIRS)),
    typical_error=maybe(number(above=0)),
    before=number(None),
    after=number(None),
    better=one_of("higher", "lower"),
    between_sd=maybe(number()),
)


def check(doc: Node) -> None:
    """Exactly one source of the noise."""
    both = [doc[key].value is not None for key in ("pairs", "typical_error")]
    if all(both):
        doc["typical_error"].refuse("cannot stand beside pairs")
    elif not any(both):
        doc["pairs"].refuse("is required (or give typical_error)")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """The change against the noise."""
    noise, df = doc["typical_error"], None
    if noise is None:
        noise, df = typical_error([(a, b) for a, b in doc["pairs"]]), len(doc["pairs"]) - 1
    told = (noise, doc["before"], doc["after"], doc["better"] == "higher", doc["between_sd"], df)
    return asdict(real_change(*told))
