"""feeds: the feeder's account."""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.coaching import Feeding, Policy, feeds_of
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import listed, name, one_of, record, whole
from drill_ladder.formats.verbs.tempo import at_most_of

INPUT = record(
    feeds=listed(
        record(feeder=name(), feeds=whole(), good=whole(), makes=whole(), makes_on_good=whole())
    ),
    policy=one_of("void", "count"),
)


def check(doc: Node) -> None:
    """Parts within their wholes: makes from bad feeds are no more than the bad feeds."""
    for feed in doc["feeds"].each():
        at_most_of(feed, "good", "feeds")
        at_most_of(feed, "makes", "feeds")
        at_most_of(feed, "makes_on_good", "good")
        at_most_of(feed, "makes_on_good", "makes")
        counts = [feed[key].number for key in ("feeds", "good", "makes", "makes_on_good")]
        if None not in counts:
            feeds, good, makes, on_good = (count or 0 for count in counts)
            if good <= feeds and on_good <= makes and makes - on_good > feeds - good:
                feed["makes"].refuse("leaves more makes on bad feeds than there were bad feeds")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Feeder by feeder, and the receiver's rates."""
    return asdict(feeds_of([Feeding(**feed) for feed in doc["feeds"]], Policy(doc["policy"])))
