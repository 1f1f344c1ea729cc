"""JSON in the table, a frozen value in Python: a model field that reads once and hands out the
value.

`terms = stored(TERMS)` is a column of JSON to the database and a `Terms` to whoever reads
`row.terms`. A document that is assigned (by the demo, by a test) is read with every check when it
is first asked for; one from the table was checked when it was stored. Migrations see a plain
JSONField.
"""

from functools import cache
from typing import Any, Generic, TypeVar

from django.core.exceptions import ValidationError
from django.db import connection, models
from django.db.models import JSONField, Model, QuerySet
from django.db.models.expressions import RawSQL
from django.db.models.query_utils import DeferredAttribute

from drill_ladder.core.errors import CoreError
from drill_ladder.formats.reading import Kept

T = TypeVar("T")


class Unreadable(CoreError, ValidationError):
    """A document that was assigned and cannot be read."""

    def __init__(self, name: str, error: CoreError) -> None:
        ValidationError.__init__(self, {name: str(error)})


class FromTable:
    """A document as it came from the database, not read yet."""

    __slots__ = ("document",)

    def __init__(self, document: Any) -> None:
        self.document = document


class _ReadOnce(DeferredAttribute):
    """The attribute of a row: the document is replaced by its value when it is first asked for."""

    field: "ValueField[Any]"

    def __get__(self, row: Any, cls: Any = None) -> Any:
        value = super().__get__(row, cls)
        if row is None:
            return value
        if isinstance(value, FromTable | dict | list):
            value = row.__dict__[self.field.attname] = self._value(value)
        return value

    def __set__(self, row: Any, value: Any) -> None:
        # a descriptor that sets is asked before the row's own dictionary is
        row.__dict__[self.field.attname] = value

    def _value(self, document: Any) -> Any:
        kept = self.field.kept
        if isinstance(document, FromTable):
            return kept.read_stored(document.document)
        try:
            return kept.read(document)
        except CoreError as error:
            raise Unreadable(self.field.name, error) from error


class ValueField(models.JSONField, Generic[T]):
    """A column of JSON that is a value in Python."""

    descriptor_class = _ReadOnce

    def __init__(self, *args: Any, kept: Kept[T] | None = None, **kwargs: Any) -> None:
        self.kept: Any = kept
        super().__init__(*args, **kwargs)

    def deconstruct(self) -> Any:
        """As a plain JSONField: a migration needs no reader."""
        name, _, args, kwargs = super().deconstruct()
        return name, "django.db.models.JSONField", args, kwargs

    def from_db_value(self, value: Any, expression: Any, connection: Any) -> Any:
        """The document, to be read when it is asked for; a part of it, asked for by a path, as it
        is.
        """
        document = super().from_db_value(value, expression, connection)
        whole = isinstance(document, dict | list) and getattr(expression, "target", None) is self
        return FromTable(document) if whole else document

    def get_prep_value(self, value: Any) -> Any:
        """The document of a value; a document as it is."""
        if isinstance(value, FromTable):
            return value.document
        plain = value is None or isinstance(value, dict | list | str | int | float)
        return value if plain else self.kept.write(value)

    def get_db_prep_value(self, value: Any, connection: Any, prepared: bool = False) -> Any:
        """As JSON for the driver."""
        return super().get_db_prep_value(self.get_prep_value(value), connection, prepared)

    def value_to_string(self, obj: Any) -> Any:
        """The document, for serializers."""
        return self.get_prep_value(self.value_from_object(obj))

    def validate(self, value: Any, model_instance: Any) -> None:
        """A value of the right kind was read already; empty where it must not be is still
        refused.
        """
        super().validate(self.get_prep_value(value), model_instance)


def stored(kept: Kept[T], **kwargs: Any) -> T:
    """A column that must hold a value. To the type checker it is the value that a row hands out."""
    return ValueField(kept=kept, **kwargs)  # type: ignore[return-value]


def stored_or_none(kept: Kept[T], **kwargs: Any) -> T | None:
    """A column that may be empty."""
    return ValueField(kept=kept, null=True, blank=True, **kwargs)  # type: ignore[return-value]


def refuse(name: str, faults: list[str]) -> None:
    """For a model's clean: what is wrong with one of its fields. Raises ValidationError."""
    if faults:
        raise ValidationError({name: faults})


M = TypeVar("M", bound=Model)


def first_with(rows: "QuerySet[M]", *relations: str) -> M | None:
    """The first of some rows, with these relations at hand as if they had been prefetched, in the
    order of their model; None of no rows.
    """
    for name in relations:
        rows = rows.annotate(**{_column(name): _rows_of(rows.model, name)})
    row = rows.first()
    if row is not None:
        for name in relations:
            _keep(row, name, row.__dict__.pop(_column(name)))
    return row


def _column(relation: str) -> str:
    return f"{relation}_as_json"


@cache
def _rows_of(model: type[Model], relation: str) -> RawSQL:
    """The related rows as JSON. As SQL, and put together once: the framework would take longer for
    it than the database.
    """
    field: Any = model._meta.get_field(relation)
    of, name = field.related_model, connection.ops.quote_name
    order = ", ".join(
        f"r.{name(part.lstrip('-'))}{' DESC' if part.startswith('-') else ''}"
        for part in of._meta.ordering or ["id"]
    )
    sql = (
        f"SELECT coalesce(jsonb_agg(to_jsonb(r) ORDER BY {order}), '[]')"  # noqa: S608  (the same)
        f" FROM {name(of._meta.db_table)} r"
        f" WHERE r.{name(field.field.column)} = {name(model._meta.db_table)}.{name('id')}"
    )
    return RawSQL(sql, (), output_field=JSONField())  # noqa: S611  (names of models)


def _keep(row: Model, relation: str, documents: list[dict[str, Any]]) -> None:
    """As prefetch_related keeps its rows."""
    manager = getattr(row, relation)
    model, back = manager.model, manager.field
    names = [f.attname for f in model._meta.concrete_fields]
    related = []
    for document in documents:
        values = [f.to_python(document[f.attname]) for f in model._meta.concrete_fields]
        made = model.from_db(row._state.db, names, values)
        back.set_cached_value(made, row)
        related.append(made)
    kept = manager.get_queryset()
    kept._result_cache, kept._prefetch_done = related, True
    cache: dict[str, Any] = row.__dict__.setdefault("_prefetched_objects_cache", {})
    cache[back.remote_field.cache_name] = kept
