"""Reading JSON strictly: no NaN, no key twice, no endless numbers; every fault with its path."""

import json
from collections.abc import Iterator
from math import isinf

from drill_ladder.formats.mistakes import Mistake, Mistakes, path_of


class _Twice(dict):
    """An object in which some keys were given more than once."""

    keys_twice: tuple[str, ...] = ()


class _NotANumber(str):
    """NaN or Infinity: JSON has no such numbers. Kept as text so that the fault can be placed."""


def read_json(data: bytes) -> tuple[object, list[Mistake]]:
    """The document as plain Python values, and the faults that JSON readers usually wave through.

    Raises Mistakes for anything that is not JSON in UTF-8 at all.
    """
    odd: list[object] = []

    def pairs(items: list[tuple[str, object]]) -> dict:
        obj = dict(items)
        if len(obj) == len(items):
            return obj
        seen: set[str] = set()
        twice = _Twice(obj)
        twice.keys_twice = tuple(k for k, _ in items if k in seen or seen.add(k))  # type: ignore[func-returns-value]
        odd.append(twice)
        return twice

    def constant(name: str) -> _NotANumber:
        odd.append(name)
        return _NotANumber(name)

    def number(text: str) -> object:
        value = float(text)
        if not isinf(value):
            return value
        return constant(text)

    try:
        doc = json.loads(
            data.decode("utf-8"),
            object_pairs_hook=pairs,
            parse_constant=constant,
            parse_float=number,
        )
    except (ValueError, RecursionError) as error:
        raise Mistakes([Mistake("$", _why_no_json(error))]) from error
    return doc, list(_odd_faults(doc, ())) if odd else []


def _why_no_json(error: Exception) -> str:
    """What is wrong with a document that cannot be read at all."""
    match error:
        case UnicodeDecodeError():
            return f"is not UTF-8 text (byte {error.start})"
        case json.JSONDecodeError():
            return f"is not JSON: {error.msg} at line {error.lineno}, column {error.colno}"
        case RecursionError():
            return "is nested too deeply"
        case _:
            return "holds a number with too many digits"


def _odd_faults(value: object, loc: tuple[str | int, ...]) -> Iterator[Mistake]:
    if isinstance(value, _NotANumber):
        what = "no number in JSON" if value.lstrip("-")[:1] in "NI" else "too large"
        yield Mistake(path_of(loc), f"is {value}, which is {what}")
    if isinstance(value, _Twice):
        yield from (Mistake(path_of((*loc, key)), "is given twice") for key in value.keys_twice)
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from _odd_faults(inner, (*loc, key))
    elif isinstance(value, list):
        for i, inner in enumerate(value):
            yield from _odd_faults(inner, (*loc, i))
