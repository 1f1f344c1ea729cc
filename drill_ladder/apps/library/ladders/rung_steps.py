"""Changes of the builder's rows that save nothing: add, copy, move, split, take away."""

from dataclasses import dataclass
from typing import Any

from drill_ladder.formats.library_file import MOST_RUNGS
from drill_ladder.formats.reading import decimal, whole

BETWEEN = ("reps", "reps_high", "sets_high", "makes", "of")
Row = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Step:
    """A change of the rows that saves nothing: what, at which row, and (for a row that was dragged)
    where to.
    """

    what: str
    row: int
    to: int = 0


def step_of(name: str) -> Step | None:
    """up-2 or to-2-0 as a step; None for anything else."""
    what, _, place = name.partition("-")
    before, _, after = place.partition("-")
    row, to = whole(before), whole(after or "0")
    return None if what not in STEPS or row is None or to is None else Step(what, row, to)


def stepped(rows: list[Row], step: Step) -> list[Row]:
    """The rows after a step; a step that leads nowhere changes nothing."""
    if step.what != "add" and not 0 <= step.row < len(rows):
        return rows
    if len(rows) >= MOST_RUNGS and step.what in ("add", "copy", "split"):
        return rows
    if step.what == "to":
        return _move(list(rows), step.row, step.to - step.row)
    return STEPS[step.what](list(rows), step.row)


def _add(rows: list[Row], at: int) -> list[Row]:
    like = rows[-1] if rows else {"sets": 1, "reps": 10, "makes": 8, "of": 10}
    kept = (
        "drill",
        "sets",
        "reps",
        "rest_s",
        "s_per_rep",
        "intent",
        "makes",
        "of",
        "value",
        "each_lane",
        "floor",
    )
    return [*rows, {key: like.get(key) for key in kept}]


def _copy(rows: list[Row], at: int) -> list[Row]:
    rows.insert(at + 1, {**rows[at], "id": None})
    return rows


def _drop(rows: list[Row], at: int) -> list[Row]:
    del rows[at]
    return rows


def _move(rows: list[Row], at: int, by: int) -> list[Row]:
    to = min(max(0, at + by), len(rows) - 1)
    rows.insert(to, rows.pop(at))
    return rows


def _split(rows: list[Row], at: int) -> list[Row]:
    """A half-step between a rung and the one below it: the numbers between, the drill of the harder
    one.
    """
    if at == 0:
        return rows
    below, above = rows[at - 1], rows[at]
    half = {**above, "id": None, "title": f"Half-way to {above.get('title') or 'the next'}"}
    for key in (*BETWEEN, "value", "floor", "rest_s", "success_low", "success_high"):
        half[key] = _between(below.get(key), above.get(key), rounded=key in BETWEEN)
    rows.insert(at, half)
    return rows


def _between(low: Any, high: Any, rounded: bool) -> Any:
    """The middle of two numbers; the harder one's where there are no two."""
    ends = [decimal("" if end is None else end, -1e12, 1e12) for end in (low, high)]
    if None in ends:
        return high
    middle = sum(end or 0.0 for end in ends) / 2
    return round(middle) if rounded else round(middle, 2)


STEPS = {
    "add": _add,
    "copy": _copy,
    "drop": _drop,
    "up": lambda rows, at: _move(rows, at, 1),
    "down": lambda rows, at: _move(rows, at, -1),
    "split": _split,
    "to": lambda rows, at: rows,
}
