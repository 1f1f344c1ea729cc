"""Changes of the builder's rows that save nothing: add, copy, move, split, take away."""

from dataclasses import dataclass
from typing import Any

MOST_RUNGS = 30
BETWEEN = ("reps", "reps_high", "makes", "of")
Row = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Step:
    """A change of the rows that saves nothing: what, at which row, and (for a row that was dragged) where to."""

    what: str
    row: int
    to: int = 0


def step_of(name: str) -> Step | None:
    """up-2 or to-2-0 as a step; None for anything else."""
    what, _, place = name.partition("-")
    row, _, to = place.partition("-")
    if what not in STEPS or not row.isdigit() or (to and not to.isdigit()):
        return None
    return Step(what, int(row), int(to or 0))


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
    kept = ("drill", "sets", "reps", "rest_s", "s_per_rep", "intent", "makes", "of", "value", "each_lane", "floor")
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
    """A half-step between a rung and the one below it: the numbers between, the drill of the harder one."""
    if at == 0:
        return rows
    below, above = rows[at - 1], rows[at]
    half = {**above, "id": None, "title": f"Half-way to {above.get('title') or 'the next'}"}
    for key in (*BETWEEN, "value", "floor", "rest_s", "success_low", "success_high"):
        half[key] = _between(below.get(key), above.get(key), whole=key in BETWEEN)
    rows.insert(at, half)
    return rows


def _between(low: Any, high: Any, whole: bool) -> Any:
    """The middle of two numbers; the harder one's where there are no two."""
    try:
        middle = (float(low) + float(high)) / 2
    except (TypeError, ValueError):
        return high
    return round(middle) if whole else round(middle, 2)


STEPS = {
    "add": _add,
    "copy": _copy,
    "drop": _drop,
    "up": lambda rows, at: _move(rows, at, 1),
    "down": lambda rows, at: _move(rows, at, -1),
    "split": _split,
    "to": lambda rows, at: rows,
}
