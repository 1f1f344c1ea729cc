"""A club is written as a ZIP: rows as JSON Lines, and beside them what people read: roster,
results, library, plans.
"""

import json
from collections.abc import Iterator
from contextlib import suppress
from hashlib import sha256
from io import BytesIO
from typing import IO, Any
from zipfile import ZIP_DEFLATED, ZipFile, ZipInfo

from django.db import connection, transaction
from psycopg import sql

from drill_ladder.apps.exchange.columns import COLUMNS, dictionary_csv
from drill_ladder.apps.exchange.results import rows_out
from drill_ladder.apps.exchange.roster import roster_csv
from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.library.files import library_document
from drill_ladder.apps.library.models import Drill, Ladder, Routine
from drill_ladder.apps.library.plans import on_paper
from drill_ladder.apps.people.models import Club, User
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.records.archive.tables import (
    TAP_UID,
    USER,
    Row,
    Table,
    table_of,
    tables,
    turn_row,
)
from drill_ladder.formats.tables import write_csv

FORMAT, VERSION = "drill-ladder club", 1
WHEN = (1980, 1, 1, 0, 0, 0)  # of every file inside: the same club is the same file
READ_ME = """A whole club of Drill Ladder, to be restored by
./ladder manage restore_club FILE

manifest.json   every file with its size and checksum (SHA-256)
club.json       the club itself
data/*.jsonl    every row, one a line, numbered from 1; what points at another row holds its number
roster.csv, results.csv, library.json, plans/*.svg    the same for people and other programs

Not in it: passwords, secret links' keys, tokens, invitations, mail. Links are new after restoring.
"""


class Writer:
    """Files into a ZIP, and what the manifest says of them."""

    def __init__(self, out: IO[bytes]) -> None:
        self.zip = ZipFile(out, "w", ZIP_DEFLATED)
        self.files: list[dict[str, Any]] = []

    def add(self, name: str, data: bytes, rows: int | None = None) -> None:
        """One file."""
        info = ZipInfo(name, WHEN)
        info.compress_type = ZIP_DEFLATED
        self.zip.writestr(info, data)
        told = {"name": name, "bytes": len(data), "sha256": sha256(data).hexdigest()}
        self.files.append(told if rows is None else told | {"rows": rows})

    def close(self, club: Club) -> None:
        """The manifest comes last."""
        manifest = {"format": FORMAT, "version": VERSION, "club": club.name, "files": self.files}
        info = ZipInfo("manifest.json", WHEN)
        self.zip.writestr(info, document(manifest))
        self.zip.close()


def document(value: Any) -> bytes:
    """As JSON that is always written alike."""
    return (json.dumps(value, indent=1, sort_keys=True, ensure_ascii=False) + "\n").encode()


def line(row: Row) -> bytes:
    """A row as one line that is always written alike."""
    text = json.dumps(row, sort_keys=True, ensure_ascii=False, separators=(",", ":"))
    return (text + "\n").encode()


@transaction.atomic
def write_club(club: Club, out: IO[bytes]) -> None:
    """The archive. Everything in it is of one moment."""
    with suppress(Exception), connection.cursor() as cursor:
        if len(connection.savepoint_ids) == 0:
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
    writer = Writer(out)
    writer.add("README.txt", READ_ME.encode())
    told = {"name": club.name, "time_zone": club.time_zone, "unit": club.unit}
    night = f"{club.night_on}" if club.night_on else None
    writer.add("club.json", document(told | {"night_on": night}))
    numbers = {table.label: _numbers(table, club) for table in tables()}
    numbers[TAP_UID] = _numbers(table_of(FloorTap), club, "uid")
    users = _users(club)
    numbers[USER] = {pk: number for number, (pk, _) in enumerate(users, 1)}
    rows = [{"email": user.email, "name": user.name} for _, user in users]
    writer.add("data/people.user.jsonl", b"".join(map(line, rows)), len(rows))
    for table in tables():
        lines = [line(_turned(table, row, numbers)) for row in _rows(table, club)]
        writer.add(table.file, b"".join(lines), len(lines))
    for name, data in for_people(club):
        writer.add(name, data)
    writer.close(club)


def archive_of(club: Club) -> bytes:
    """The archive at once."""
    out = BytesIO()
    write_club(club, out)
    return out.getvalue()


def _turned(table: Table, row: Row, numbers: dict[str, dict[Any, int]]) -> Row:
    def number(label: str, pk: Any) -> int | None:
        numbers_of = numbers.get(label, {})
        return numbers_of.get(pk, numbers_of.get(_whole(pk)))

    for column in ("id", "club_id", "uid"):
        row.pop(column, None)
    return turn_row(table, row, number)


def _whole(pk: Any) -> Any:
    return int(pk) if isinstance(pk, str) and pk.isdigit() else pk


def _where(table: Table) -> sql.Composed:
    if not table.parent:
        return sql.SQL("t.club_id = %s").format()
    parent = next(one for one in tables() if one.label == table.links[table.parent])
    return sql.SQL("t.{} IN (SELECT id FROM {} WHERE club_id = %s)").format(
        sql.Identifier(table.parent), sql.Identifier(parent.name)
    )


def _rows(table: Table, club: Club) -> Iterator[Row]:
    """Every row as the database itself writes it in JSON, by id."""
    asked = sql.SQL("SELECT to_jsonb(t)::text FROM {} t WHERE {} ORDER BY t.id").format(
        sql.Identifier(table.name), _where(table)
    )
    with connection.cursor() as cursor:
        cursor.execute("SET LOCAL TIME ZONE 'UTC'")
        cursor.execute(asked, [club.pk])
        for (row,) in cursor.fetchall():
            yield json.loads(row)


def _numbers(table: Table, club: Club, column: str = "id") -> dict[Any, int]:
    """What names a row -> its number."""
    asked = sql.SQL("SELECT t.{} FROM {} t WHERE {} ORDER BY t.id").format(
        sql.Identifier(column), sql.Identifier(table.name), _where(table)
    )
    with connection.cursor() as cursor:
        cursor.execute(asked, [club.pk])
        rows = [row for (row,) in cursor.fetchall()]
    return {pk if isinstance(pk, int) else str(pk): number for number, pk in enumerate(rows, 1)}


def _users(club: Club) -> list[tuple[int, User]]:
    """Whoever is or was at work in the club, by their address."""
    users: set[int] = set()
    with connection.cursor() as cursor:
        for table in tables():
            for column in [name for name, label in table.links.items() if label == USER]:
                asked = sql.SQL("SELECT DISTINCT t.{} FROM {} t WHERE {}").format(
                    sql.Identifier(column), sql.Identifier(table.name), _where(table)
                )
                cursor.execute(asked, [club.pk])
                users |= {pk for (pk,) in cursor.fetchall() if pk is not None}
    rows = User.objects.filter(pk__in=users).order_by("email")
    return [(user.pk, user) for user in rows]


def for_people(club: Club) -> Iterator[tuple[str, bytes]]:
    """Roster, results, library and plans, in the formats of single exports."""
    yield "roster.csv", roster_csv(club).encode()
    sessions = Session.objects.for_table(club, None, None)
    yield "results.csv", write_csv(list(COLUMNS), list(rows_out(sessions))).encode()
    yield "results-columns.csv", dictionary_csv().encode()
    yield "library.json", document(_library(club))
    for number, drill in enumerate(Drill.objects.filter(club=club).order_by("pk"), 1):
        if drill.plan is not None:
            picture = on_paper(drill.plan, title=f"Floor plan of {drill}")
            yield f"plans/{number:04}.svg", picture.encode()


def _library(club: Club) -> dict[str, Any]:
    drills = Drill.objects.of_club(club).for_file()
    ladders = Ladder.objects.of_club(club).for_file()
    return library_document(drills, ladders, Routine.objects.of_club(club).with_parts())
