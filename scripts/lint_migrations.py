"""Fail when a migration would hold a lock on a long table for as long as the table is read: nobody
could work meanwhile. Needs no database.

What is said of PostgreSQL's locks: its manual, "ALTER TABLE" and "CREATE INDEX" (building an index,
checking a constraint or changing a type reads the whole table under a lock that writers wait for;
CONCURRENTLY and NOT VALID do not).
"""

import sys
from collections.abc import Iterator
from typing import Any

import django
from django.contrib.postgres.operations import AddConstraintNotValid, AddIndexConcurrently
from django.db import migrations, models
from django.db.migrations.loader import MigrationLoader

# the last migration of an app from before there was a rule
BEFORE: dict[str, int] = {}
# tables that grow with every day of work
LONG = {
    "event",
    "session",
    "setrow",
    "judgedday",
    "stay",
    "plannedblock",
    "proposal",
    "decision",
    "floortap",
    "message",
    "trial",
}
SAFE = (AddIndexConcurrently, AddConstraintNotValid)


def number_of(name: str) -> int:
    """0012 of 0012_something."""
    return int(name[:4]) if name[:4].isdigit() else 0


def problems(migration: Any) -> Iterator[str]:
    """What is wrong with one migration. One that creates a table may do with it what it likes."""
    new = {op.name.lower() for op in migration.operations if isinstance(op, migrations.CreateModel)}
    for op in migration.operations:
        on = (getattr(op, "model_name", "") or "").lower()
        if isinstance(op, SAFE) or on in new or on not in LONG:
            continue
        yield from (f"{type(op).__name__} on {on}: {why}" for why in _why(op))


def _why(op: Any) -> Iterator[str]:
    if isinstance(op, migrations.AddIndex):
        yield "use AddIndexConcurrently, with atomic = False"
    elif isinstance(op, migrations.AddConstraint):
        yield "use AddConstraintNotValid, and ValidateConstraint in a migration of its own"
    elif isinstance(op, migrations.AlterField):
        yield "a changed type is written anew row by row: add a column, fill it, then drop the old"
    elif isinstance(op, migrations.AddField):
        field = op.field
        if isinstance(field, models.ForeignKey) and field.db_constraint:
            yield "a foreign key is checked on every row: db_constraint=False, then NOT VALID"
        if field.unique or field.db_index:
            yield "its index is built under a lock: add the column, then AddIndexConcurrently"


def found() -> list[str]:
    """Every problem of every migration that is newer than the rule."""
    django.setup()
    loader = MigrationLoader(None, ignore_no_migrations=True)
    lines = []
    for (app, name), migration in sorted(loader.disk_migrations.items()):
        ours = type(migration).__module__.startswith("drill_ladder.")
        if ours and number_of(name) > BEFORE.get(app, 0):
            lines += [f"{app} {name}: {told}" for told in problems(migration)]
    return lines


if __name__ == "__main__":
    told = found()
    sys.stdout.write("".join(f"{line}\n" for line in told))
    sys.exit(1 if told else 0)
