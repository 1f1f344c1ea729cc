"""Words that could tell who somebody was, found and replaced in every table of the program."""

import json
import re
from collections.abc import Iterable, Iterator
from typing import Any

from django.apps import apps
from django.db import connection, models
from psycopg import sql

from drill_ladder.apps.people.models import Player

NOBODY = "an erased player"
# what names nobody: the queue's and the framework's own tables hold ids, keys and digests
OURS = "drill_ladder."
TEXTS = (models.CharField, models.TextField)
LEAST = 4  # letters of a word that is looked for in other people's rows


def columns() -> Iterator[tuple[type[models.Model], str, bool]]:
    """(Model, column, whether it is JSON) of everything that holds text."""
    for model in apps.get_models():
        if not model.__module__.startswith(OURS):
            continue
        for field in model._meta.concrete_fields:
            if isinstance(field, models.JSONField):
                yield model, str(field.column), True
            elif isinstance(field, TEXTS) and not field.choices:
                yield model, str(field.column), False


def owned(deepest: int = 4) -> Iterator[tuple[type[models.Model], str]]:
    """(Model, path to its player's id) of everything that belongs to a player, the player too."""
    yield Player, "pk"
    for model in apps.get_models():
        path = _path(model, deepest) if model.__module__.startswith(OURS) else ""
        if path:
            yield model, path


def _path(model: type[models.Model], left: int) -> str:
    """How a row leads to its player by the shortest way; "" for none."""
    links = [f for f in model._meta.concrete_fields if isinstance(f, models.ForeignKey)]
    for link in links:
        if link.related_model is Player:
            return link.name
    for link in links if left else []:
        onwards = _path(link.related_model, left - 1)
        if onwards:
            return f"{link.name}__{onwards}"
    return ""


def replace_all(club: int, words: Iterable[str]) -> int:
    """Replace each of the words, in any case, in all of a club's rows; in how many rows of
    columns.
    """
    patterns = [re.escape(word) for word in sorted(words, key=len, reverse=True) if word]
    if not patterns:
        return 0
    found = 0
    with connection.cursor() as cursor:
        for model, column, is_json in columns():
            scope = _scope(model)
            if scope:
                found += _replace(cursor, model, column, is_json, scope, club, patterns)
    return found


def _replace(
    cursor: Any,
    model: type[models.Model],
    column: str,
    is_json: bool,
    scope: str,
    club: int,
    patterns: list[str],
) -> int:
    name = sql.Identifier(column)
    text = sql.SQL("{}::text").format(name) if is_json else name
    new = sql.SQL("regexp_replace({}, %s, %s, 'gi'){}").format(
        text, sql.SQL("::jsonb" if is_json else "")
    )
    if is_json:
        patterns = [_in_json(one) for one in patterns]
    pattern = "|".join(patterns)
    cursor.execute(
        sql.SQL("UPDATE {} SET {} = {} WHERE {} = %s AND {} ~* %s").format(
            sql.Identifier(model._meta.db_table), name, new, sql.Identifier(scope), text
        ),
        [pattern, NOBODY, club, pattern],
    )
    return int(cursor.rowcount)


def _in_json(pattern: str) -> str:
    return json.dumps(pattern, ensure_ascii=False)[1:-1] if '"' in pattern else pattern


def _scope(model: type[models.Model]) -> str:
    """The column that says which club a row belongs to; "" where none does."""
    names = {field.column for field in model._meta.concrete_fields}
    return "club_id" if "club_id" in names else ""


def rows_with(words: Iterable[str]) -> Iterator[tuple[str, str, int]]:
    """(Table, column, rows) of the whole database that hold one of the words: nothing, after an
    erasure. Of every table, also those of no club.
    """
    pattern = "|".join(re.escape(word) for word in words)
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT table_name, column_name FROM information_schema.columns WHERE table_schema = "
            "'public' AND data_type IN ('character varying', 'text', 'jsonb', 'json', 'bytea') "
            "ORDER BY 1, 2"
        )
        for table, column in cursor.fetchall():
            asked = sql.SQL("SELECT count(*) FROM {} WHERE {}::text ~* %s")
            cursor.execute(asked.format(sql.Identifier(table), sql.Identifier(column)), [pattern])
            count = cursor.fetchone()[0]
            if count:
                yield table, column, count
