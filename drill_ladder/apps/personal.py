"""What of a row is personal, declared beside its fields: whose it is and what becomes of it when
somebody is erased. Erasing, the family's file and the search for what is left read this and
nothing else; a test fails for a text or JSON column that declares nothing.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

from django.apps import apps
from django.db import models

OURS = "drill_ladder."
ERASED = "erased"
TEXTS = (models.CharField, models.TextField, models.JSONField, models.BinaryField)
MANY = 60_000  # rows that are one child's in no club


@dataclass(frozen=True, slots=True)
class Personal:
    """player: the path from a row to its player, "" for rows that are nobody's. gone: the row is
    deleted with them. blank: column -> what stands there afterwards (a function: what becomes of
    what stood there). free: columns into which somebody may have written anything, also about
    others: those are searched and listed, never changed by themselves. plain: columns that tell
    nothing of anybody. secret: what goes into no file. most: rows of one player; more are a fault,
    and nothing is erased.
    """

    player: str = ""
    gone: bool = False
    blank: Mapping[str, Any] = field(default_factory=dict)
    free: tuple[str, ...] = ()
    plain: tuple[str, ...] = ()
    secret: tuple[str, ...] = ()
    most: int = MANY

    @property
    def declared(self) -> frozenset[str]:
        """Every column that it says something about."""
        return frozenset((*self.blank, *self.free, *self.plain, *self.secret))


def ours() -> Iterator[type[models.Model]]:
    """Every model of the program."""
    for model in apps.get_models():
        if model.__module__.startswith(OURS):
            yield model


def personal_of(model: type[models.Model]) -> Personal:
    """What a model declares; nothing where it declares nothing."""
    declared = getattr(model, "personal", None)
    return declared if isinstance(declared, Personal) else Personal()


def undeclared(model: type[models.Model]) -> list[str]:
    """Columns of text or JSON that it says nothing about; a choice among named words is none."""
    declared = personal_of(model).declared
    return [
        one.name
        for one in model._meta.concrete_fields
        if isinstance(one, TEXTS) and not one.choices and one.name not in declared
    ]


def of_players() -> Iterator[tuple[type[models.Model], Personal]]:
    """Every model whose rows are somebody's, those that hang on others first."""
    pairs = [(model, personal_of(model)) for model in ours() if personal_of(model).player]
    yield from sorted(pairs, key=lambda pair: -pair[1].player.count("__"))


def with_free_words() -> Iterator[tuple[type[models.Model], str]]:
    """(Model, column) of what anybody may have written about anybody, in rows that have a club."""
    for model in ours():
        if any(one.name == "club" for one in model._meta.concrete_fields):
            for column in personal_of(model).free:
                yield model, column
