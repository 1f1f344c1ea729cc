"""Copies of a large club beside it, made inside the database."""

from collections.abc import Iterator
from typing import Any

from django.apps import apps
from django.db import connection, models, transaction

from drill_ladder.apps.people.models import Club

SHIFT = 10_000_000  # between the numbers of a club and those of its copy


def copies(of: Club, first: int, last: int) -> None:
    """Copies of a club with everything in it, made inside the database: the n-th has every number
    shifted by n times SHIFT.
    """
    with transaction.atomic(), connection.cursor() as cursor:
        for table, columns, values, where in _tables():
            for n in range(first, last + 1):
                # only names of our own tables
                sql = f"INSERT INTO {table} ({columns}) SELECT {values} FROM {table} WHERE {where}"  # noqa: S608
                cursor.execute(sql, {"n": n, "shift": n * SHIFT, "club": of.pk})


def _tables() -> Iterator[tuple[str, str, str, str]]:
    """(table, columns, what they become, which rows), parents first."""
    for model in _with_club():
        columns = list(model._meta.concrete_fields)
        yield (
            model._meta.db_table,
            ", ".join(f'"{f.column}"' for f in columns),
            ", ".join(_shifted(f) for f in columns),
            _where(model),
        )


def _where(model: Any) -> str:
    if model._meta.label == "people.Club":
        return "id = %(club)s"
    if model._meta.label == "people.User":
        return "id IN (SELECT user_id FROM people_membership WHERE club_id = %(club)s)"
    if model._meta.auto_created:
        of = next(f for f in model._meta.concrete_fields if f.is_relation)
        table = of.related_model._meta.db_table
        # only names of our own tables
        return f"{of.column} IN (SELECT id FROM {table} WHERE club_id = %(club)s)"  # noqa: S608
    return "club_id = %(club)s"


# ids that are no keys of the database's: in a list, and of whatever row an event is about
LISTED = (
    "(SELECT coalesce(jsonb_agg(one::bigint + %(shift)s), '[]') "
    "FROM jsonb_array_elements_text(players) one)"
)
ABOUT = (
    "CASE WHEN row_id ~ '^[0-9]+$' THEN (row_id::bigint + %(shift)s)::text "
    "WHEN row_id = '' THEN '' ELSE md5(row_id || %(n)s)::uuid::text END"
)


def _shifted(field: Any) -> str:
    column = f'"{field.column}"'
    if field.column == "row_id":
        return ABOUT
    if field.name == "players" and isinstance(field, models.JSONField):
        return LISTED
    key = field.target_field if field.is_relation else field
    if field.is_relation or field.primary_key or field.column == "club_id":
        if isinstance(key, models.UUIDField):
            return f"md5({column}::text || %(n)s)::uuid"
        return f"{column} + %(shift)s"
    if field.name == "email" and field.unique:
        return f"{column} || '.' || %(n)s"
    return column


def _with_club() -> list[Any]:
    """Parents first. What is of the whole program (signs-in, sessions of the web) is of no club."""
    rows = [model for model in apps.get_models(include_auto_created=True) if _of_a_club(model)]
    known: list[Any] = []
    while rows:
        ready = [model for model in rows if not (_parents(model) & set(rows))]
        if not ready:
            raise RuntimeError(f"tables that need each other: {rows}")
        known += ready
        rows = [model for model in rows if model not in ready]
    return known


def _of_a_club(model: Any) -> bool:
    if model._meta.auto_created:
        return _of_a_club(model._meta.auto_created) and model._meta.app_label != "people"
    own = {field.attname for field in model._meta.concrete_fields}
    return "club_id" in own or model._meta.label in ("people.Club", "people.User")


def _parents(model: Any) -> set[Any]:
    to = {f.related_model for f in model._meta.concrete_fields if f.is_relation}
    return to - {model}
