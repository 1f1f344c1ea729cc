"""A row with the few rows that hang on it, by one question.

A prefetch costs a question for each relation. A player's days, guardians and links are a handful of
small rows each: the database hands them over as lists in the player's own row.
"""

from functools import cache
from typing import Any, TypeVar

from django.db import connection
from django.db.models import JSONField, Model, QuerySet
from django.db.models.expressions import RawSQL

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
