"""trend: is it getting better?"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.statistics import trend_of, trend_of_counts
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import day, listed, maybe, number, one_of, record, whole

INPUT = record(
    better=one_of("higher", "lower"),
    points=listed(
        record(on=day(), score=maybe(number(None)), attempts=maybe(whole(1)), makes=maybe(whole()))
    ),
)


def check(doc: Node) -> None:
    """A score or counts, the same of each point, and makes within attempts."""
    kinds = set()
    for point in doc["points"].each():
        score, counts = point["score"], (point["attempts"], point["makes"])
        counted = [count.value is not None for count in counts]
        if score.value is not None and any(counted):
            score.refuse("cannot stand beside attempts and makes")
        elif score.value is None and not all(counted):
            missing = score if not any(counted) else counts[counted.index(False)]
            missing.refuse("is required")
        kinds.add(score.value is None)
        attempts, makes = (count.number for count in counts)
        if attempts is not None and makes is not None and makes > attempts:
            counts[1].refuse("is more than attempts")
    if len(kinds) > 1:
        doc["points"].refuse("mixes scores and counts")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """The trend."""
    if doc["points"] and doc["points"][0]["score"] is None:
        counts = [(point["on"], point["attempts"], point["makes"]) for point in doc["points"]]
        return asdict(trend_of_counts(counts))
    points = [(point["on"], point["score"]) for point in doc["points"]]
    return asdict(trend_of(points, doc["better"] == "higher"))
