"""What the browser's instruments are told of a rung: which one it is, and what each set asks."""

from collections.abc import Sequence
from typing import Any

from drill_ladder.apps.practice.entries import Entry
from drill_ladder.core.judging import Checklist, Count, Makes, Points, Rung, Streak, Time, ToN

MOST_KEYS = 20  # points of one attempt that have a key of their own
KEYS = "0123456789abcdefghijk"  # the stroke of each


def rows_of(entries: Sequence[Entry], before: str = "") -> list[dict[str, Any]]:
    """The sets and lanes that are counted. before: stands before their prefixes, where a page has
    several forms.
    """
    return [
        {
            "prefix": f"{before}{one.prefix}",
            "title": one.title,
            "lane": one.lane,
            "asked": one.asked,
            "number": one.number,
        }
        for one in entries
    ]


def instrument_of(
    rung: Rung, entries: Sequence[Entry], faults: Sequence[str] = (), before: str = ""
) -> dict[str, Any] | None:
    """What counts or times this rung; None for good ones, which have the stroke pad, and for points
    that no keys can give.
    """
    measure = rung.measure
    if isinstance(measure, Makes) or (isinstance(measure, Points) and not _has_keys(measure.max)):
        return None
    return {"kind": measure.kind, "entries": rows_of(entries, before), **_more(rung, faults)}


def _has_keys(most: float) -> bool:
    return float(most).is_integer() and most <= MOST_KEYS


def _more(rung: Rung, faults: Sequence[str]) -> dict[str, Any]:
    """What the instrument of a kind needs to know beside its sets."""
    more: dict[str, Any] = {}
    match rung.measure:
        case Points(max=most):
            more["keys"] = [(point, KEYS[point]) for point in range(int(most) + 1)]
        case Streak(cap=cap):
            more["cap"] = cap
        case ToN(n=n):
            more["n"] = n
        case Count(window_s=seconds):
            more["window_s"] = seconds
        case Time(fault_penalty_s=penalty):
            more |= {"stop_drop": rung.dose.stop_drop, "penalty": penalty, "faults": list(faults)}
        case Checklist(items=items):
            more["items"] = list(items)
    return more
