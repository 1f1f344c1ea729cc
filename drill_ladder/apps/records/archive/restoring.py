"""A club is restored from an archive, into an empty database or beside others; all of it or
nothing.
"""

import json
import secrets
from typing import Any
from uuid import UUID, uuid4

from django.contrib.auth.hashers import make_password
from django.core.exceptions import ValidationError
from django.db import DatabaseError, connection, transaction
from psycopg import sql

from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, User
from drill_ladder.apps.records.archive.reading import Archive
from drill_ladder.apps.records.archive.tables import (
    TAP_UID,
    USER,
    Row,
    Table,
    Turn,
    tables,
    turn_row,
)
from drill_ladder.formats.reading import whole

AT_ONCE = 1000  # rows of one statement


@transaction.atomic
def restore_club(archive: Archive, name: str = "") -> Club:
    """A new club with everything of the archive. name: another name than it had. Whoever has no
    account here gets one without a password: they ask for a new one by mail. Raises Refused.
    """
    document = archive.club
    club = Club(name=name or document["name"], time_zone=document["time_zone"])
    club.unit, club.night_on = document.get("unit", "m"), document.get("night_on")
    try:
        club.full_clean()
    except ValidationError as error:
        raise Refused(f"{' '.join(error.messages)} Nothing was stored.") from error
    club.save()
    ids: dict[str, list[Any]] = {USER: [_user(row) for row in archive.users]}
    for table in tables():
        ids[table.label] = _new_ids(table, len(archive.rows[table.label]))
    ids[TAP_UID] = [uuid4() for _ in archive.rows["floor.FloorTap"]]

    def place(label: str, number: Any) -> Any:
        ids_of = ids.get(label, [])
        at = whole(number) or 0
        return _plain(ids_of[at - 1]) if 1 <= at <= len(ids_of) else None

    try:
        for table in tables():
            rows = archive.rows[table.label]
            for number, row in enumerate(rows):
                _turn(table, row, place, number)
                row["id"] = _plain(ids[table.label][number])
                if table.uid:
                    of_tap = table.label == "floor.FloorTap"
                    row["uid"] = str(ids[TAP_UID][number] if of_tap else uuid4())
            _insert(table, club, rows)
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            cursor.execute("SET CONSTRAINTS ALL DEFERRED")
    except DatabaseError as error:
        told_why = str(error).splitlines()[0]
        raise Refused(f"The database refused it: {told_why}. Nothing was stored.") from error
    return club


def _turn(table: Table, row: Row, place: Turn, number: int) -> None:
    """Raises Refused for a document whose own shape is right and that names a row in a way that no
    program of ours writes.
    """
    try:
        turn_row(table, row, place)
    except (KeyError, TypeError, ValueError, AttributeError) as error:
        words = f"{table.file}, row {number + 1}: a document in it cannot be read ({error})"
        raise Refused(f"{words}. Nothing was stored.") from error


def _plain(pk: Any) -> Any:
    return str(pk) if isinstance(pk, UUID) else pk


def _user(row: Row) -> int:
    """The account of an address, made without a password where there is none."""
    email = row["email"].lower()
    nobody = {"name": row["name"], "password": make_password(None)}
    return User.objects.get_or_create(email=email, defaults=nobody)[0].pk


def _new_ids(table: Table, count: int) -> list[Any]:
    """As many ids as there are rows, in order."""
    if table.uuid:
        # random in front, counted at the end: their order is that of the rows
        first = secrets.randbits(63) << 64 | 4 << 76 | 2 << 62
        return [UUID(int=first + number) for number in range(count)]
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT nextval(pg_get_serial_sequence(%s, 'id')) FROM generate_series(1, %s)",
            [table.name, count],
        )
        return [pk for (pk,) in cursor.fetchall()]


def _insert(table: Table, club: Club, rows: list[Row]) -> None:
    """The rows as the database itself reads them from JSON."""
    columns = [*table.columns, *([] if table.parent else ["club_id"])]
    names = sql.SQL(", ").join(map(sql.Identifier, columns))
    asked = sql.SQL(
        "INSERT INTO {table} ({names}) SELECT {names} FROM "
        "jsonb_populate_recordset(NULL::{table}, %s::jsonb)"
    ).format(table=sql.Identifier(table.name), names=names)
    with connection.cursor() as cursor:
        for first in range(0, len(rows), AT_ONCE):
            part = rows[first : first + AT_ONCE]
            if not table.parent:
                part = [row | {"club_id": club.pk} for row in part]
            cursor.execute(asked, [json.dumps(part)])
