"""What the browser's instruments are told of a rung: which one it is, and what each set asks."""

from collections.abc import Sequence
from typing import Any

from drill_ladder.apps.practice.entries import Entry
from drill_ladder.core.judging import Checklist, Count, Makes, Points, Rung, Streak, ToN

MOST_KEYS = 10  # points of one attempt that have a key of their own


def rows_of(entries: Sequence[Entry]) -> list[dict[str, Any]]:
    """The sets and lanes that are counted."""
    return [
        {"prefix": one.prefix, "title": one.title, "asked": one.asked, "number": one.number}
        for one in entries
    ]


def instrument_of(rung: Rung, entries: Sequence[Entry]) -> dict[str, Any] | None:
    """What counts or times this rung; None for good ones, which have the stroke pad, and for points
    that no keys can give.
    """
    measure = rung.measure
    if isinstance(measure, Makes):
        return None
    given: dict[str, Any] = {"kind": measure.kind, "entries": rows_of(entries)}
    match measure:
        case Points(max=most):
            if not float(most).is_integer() or most > MOST_KEYS:
                return None
            given["keys"] = list(range(int(most) + 1))
        case Streak(cap=cap):
            given["cap"] = cap
        case ToN(n=n):
            given["n"] = n
        case Count(window_s=seconds):
            given["window_s"] = seconds
        case Checklist(items=items):
            given["items"] = list(items)
    return given
