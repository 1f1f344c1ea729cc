"""What the browser's instruments are told of a rung: which one it is, and what each set asks."""

from collections.abc import Sequence
from typing import Any

from drill_ladder.apps.practice.work.entries import Entry
from drill_ladder.core.judging import Points, Rung
from drill_ladder.formats.measures import form_of

MOST_KEYS = 20  # points of one attempt that have a key of their own
KEYS = "0123456789abcdefghijk"  # the stroke of each


def rows_of(entries: Sequence[Entry], before: str = "") -> list[dict[str, Any]]:
    """The sets and lanes that are counted. before: stands before their prefixes, where a page has
    several forms.
    """
    return [
        {
            "prefix": f"{before}{entry.prefix}",
            "title": entry.title,
            "lane": entry.lane,
            "asked": entry.asked,
            "number": entry.number,
        }
        for entry in entries
    ]


def instrument_of(
    rung: Rung,
    entries: Sequence[Entry],
    faults: Sequence[str] = (),
    before: str = "",
    heard: dict[str, Any] | None = None,
) -> dict[str, Any] | None:
    """What counts or times this rung, by ear too where `heard` says how; None for good ones, which
    have the stroke pad, and for points that no keys can give.
    """
    measure = rung.measure
    if measure.counts_makes or (isinstance(measure, Points) and not _has_keys(measure.max)):
        return None
    rows = rows_of(entries, before)
    return {"kind": measure.kind, "entries": rows, "heard": heard, **_more(rung, faults)}


def _has_keys(most: float) -> bool:
    return float(most).is_integer() and most <= MOST_KEYS


def _more(rung: Rung, faults: Sequence[str]) -> dict[str, Any]:
    """What the instrument of a kind needs to know beside its sets."""
    measure = rung.measure
    more = {name: getattr(measure, name) for name in form_of(measure).numbers}
    if isinstance(measure, Points):
        more["landings"] = [[one.name, one.points] for one in measure.landings]
        names = [f"{name} {points}" for name, points in more["landings"]]
        keys = names or [f"{point}" for point in range(int(measure.max) + 1)]
        more["keys"] = list(zip(keys, KEYS, strict=False))
    if measure.is_timed:
        more |= {"stop_drop": rung.dose.stop_drop, "penalty": measure.penalty_s}
        more["faults"] = list(faults)
    return more
