"""What a column of an archive's row may hold, asked of the model before anything is stored: its
type, its length, its choices, and a document by its own shape. Every fault is a sentence.
"""

from collections.abc import Iterator
from functools import cache
from math import isfinite
from typing import TYPE_CHECKING, Any

from django.apps import apps
from django.core.exceptions import ValidationError
from django.db import models

from drill_ladder.apps.stored import ValueField
from drill_ladder.formats.reading import day, moment, plain
from drill_ladder.formats.reading import uuid as id_of

if TYPE_CHECKING:
    Field = models.Field[Any, Any]
WHOLE = (-(2**63), 2**63 - 1)
COUNTED = {"drills", "lanes", "marks", "faults"}  # columns with a number for each name
OF_IDS = {
    ("floor.Battery", "players"),
    ("floor.GroupSession", "players"),
    ("people.Invitation", "squads"),
}
DEEPEST = 40  # brackets in brackets: no document of ours has more


@cache
def fields_of(label: str) -> dict[str, "Field"]:
    """Column -> field."""
    return {str(field.column): field for field in apps.get_model(label)._meta.concrete_fields}


def wrong(label: str, column: str, value: Any) -> str:
    """Why a column cannot hold that; empty where it can."""
    field = fields_of(label)[column]
    if value is None:
        return "" if field.null else "nothing is not allowed"
    if isinstance(field, models.ForeignKey):
        return ""  # looked at where it points
    if isinstance(field, models.JSONField):
        return next(_document(field, value), "")
    return _wrong_type(field, value) or _refused(field, value)


def _document(field: models.JSONField, value: Any) -> Iterator[str]:
    """What is wrong with a document: by its own shape, else by the kind of what it begins with."""
    if not plain(value) or _depth(value) > DEEPEST:
        yield "it nests too deep, or holds what no database keeps"
    elif isinstance(field, ValueField) and field.kept is not None:
        yield from field.kept.faults(value)
    elif field.has_default() and type(value) is not type(field.get_default()):
        yield f"{type(value).__name__} is not what it holds"
    elif isinstance(value, list) and not all(type(one) is _inside(field) for one in value):
        yield f"a list of {'numbers' if _inside(field) is int else 'texts'} was expected"
    elif isinstance(value, dict) and field.name in COUNTED and not _counts(value):
        yield "a number under each name was expected"


def _inside(field: models.JSONField) -> type:
    """What a plain list of the program holds: texts, but for the ids of players in one."""
    return int if (field.model._meta.label, field.name) in OF_IDS else str


def _counts(value: dict[str, Any]) -> bool:
    return all(isinstance(n, int | float) and not isinstance(n, bool) for n in value.values())


def _depth(value: Any) -> int:
    """How deep it nests; counted without calling itself, as it may be deeper than that allows."""
    deepest, left = 0, [(value, 1)]
    while left:
        one, depth = left.pop()
        deepest = max(deepest, depth)
        if deepest > DEEPEST:
            return deepest
        if isinstance(one, dict | list):
            inside = one.values() if isinstance(one, dict) else one
            left += [(inner, depth + 1) for inner in inside]
    return deepest


def _wrong_type(field: "Field", value: Any) -> str:
    if isinstance(field, models.BooleanField):
        return "" if isinstance(value, bool) else "yes or no was expected"
    if isinstance(field, models.IntegerField):
        good = isinstance(value, int) and not isinstance(value, bool)
        return "" if good and WHOLE[0] <= value <= WHOLE[1] else "a whole number was expected"
    if isinstance(field, models.FloatField):
        good = isinstance(value, int | float) and not isinstance(value, bool)
        return "" if good and isfinite(value) else "a number was expected"
    if not isinstance(value, str) or not plain(value):
        return "a text was expected"
    return _wrong_text(field, value)


def _wrong_text(field: "Field", value: str) -> str:
    if isinstance(field, models.DateTimeField):
        return "" if moment(value) else "a moment with its time zone was expected"
    if isinstance(field, models.DateField):
        return "" if day(value) else "a day was expected"
    if isinstance(field, models.UUIDField):
        return "" if id_of(value) else "an id was expected"
    return ""


def _refused(field: "Field", value: Any) -> str:
    """By the field's own rules: choices, length, mail addresses, bounds."""
    if value == "":
        return ""  # the database says where it must not be
    try:
        field.run_validators(field.to_python(value))
        if field.choices is not None:
            field.validate(value, None)
    except ValidationError as error:
        return " ".join(error.messages)
    return ""
