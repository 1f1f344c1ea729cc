"""place: which rung to probe next, and where to start."""

from typing import Any

from drill_ladder.core.judging import DEFAULT_ZONE, Probe, place
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import (
    listed,
    maybe,
    name,
    number,
    optional,
    pair,
    rate,
    record,
    whole,
)

INPUT = record(
    rungs=listed(name(), 1, 100_000),
    guess=maybe(name()),
    probes=optional(listed(record(rung=name(), attempts=whole(1), makes=whole()), 0, 10_000), []),
    zone=optional(pair(rate()), list(DEFAULT_ZONE)),
    step=maybe(number(above=0, high=20)),
)


def check(doc: Node) -> None:
    """Rungs that exist, makes within attempts, a zone from low to high."""
    doc.no_doubles(doc["rungs"].each())
    rungs = {rung.text for rung in doc["rungs"].each()}
    asked = [doc["guess"], *(probe["rung"] for probe in doc["probes"].each())]
    for rung in asked:
        if rung.text is not None and rung.text not in rungs:
            rung.refuse(f"is {rung.text!r}, which is no rung of the ladder")
    for probe in doc["probes"].each():
        attempts, makes = probe["attempts"].number, probe["makes"].number
        if attempts is not None and makes is not None and makes > attempts:
            probe["makes"].refuse("is more than attempts")
    edges = [edge.number for edge in doc["zone"].each()]
    if len(edges) == 2 and edges[0] is not None and edges[1] is not None and edges[0] > edges[1]:
        doc["zone"].refuse("runs from high to low")


def run(doc: dict[str, Any]) -> dict[str, Any]:
    """Ids in, ids out."""
    ids = doc["rungs"]
    index = {rung: i for i, rung in enumerate(ids)}
    probes = [Probe(index[p["rung"]], p["attempts"], p["makes"]) for p in doc["probes"]]
    guess = None if doc["guess"] is None else index[doc["guess"]]
    zone = (doc["zone"][0], doc["zone"][1])
    if doc["step"] is not None:
        from drill_ladder.core.odds import place_finely  # numpy, for fine ladders only

        fine = place_finely(len(ids), probes, doc["step"], zone)
        more = {"level": fine.level, "low": fine.low, "high": fine.high}
        return _told(ids, fine.next, fine.fitted, fine.start) | more
    found = place(len(ids), probes, guess, zone)
    return _told(ids, found.next, found.fitted, found.start)


def _told(
    ids: list[str], upcoming: int | None, fitted: list[tuple[int, float]], start: int | None
) -> dict[str, Any]:
    return {
        "next": None if upcoming is None else ids[upcoming],
        "fitted": [{"rung": ids[rung], "rate": rate_} for rung, rate_ in fitted],
        "start": None if start is None else ids[start],
    }
