"""The database as a file of pg_dump's, checked by restoring it, and back.

A dump counts as good only once it was restored into a scratch database and every table there holds
as many rows as were dumped.
"""

import os
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime, timedelta
from glob import glob
from pathlib import Path

import psycopg
from django.conf import settings
from django.db import connection, connections
from psycopg import sql

MARK, ENDING = "drill-ladder-", ".dump"
DAILY, WEEKLY, MONTHLY = 7, 5, 12  # how many of each are kept
OLD = timedelta(hours=50)  # without a good one the desk says so
LONGEST_S = 3 * 3600


class NotBackedUp(Exception):
    """Why there is no good backup, or why nothing was restored."""


@dataclass(frozen=True, slots=True)
class Checked:
    """A dump that was restored: its size, and rows by table."""

    bytes: int
    rows: dict[str, int]

    @property
    def words(self) -> str:
        """In a sentence."""
        total = sum(self.rows.values())
        return f"{self.bytes / 1e6:.1f} MB, {len(self.rows)} tables, {total:,} rows"


def tool(name: str) -> str:
    """A program of PostgreSQL's, of the newest version installed. Raises NotBackedUp."""
    places = [os.environ.get("PG_BIN", "")]
    folders = glob("/usr/lib/postgresql/*/bin")
    places += sorted(folders, key=lambda one: int(one.split("/")[4]), reverse=True)
    for place in [*filter(None, places), *os.environ.get("PATH", "").split(":")]:
        if Path(place, name).is_file():
            return str(Path(place, name))
    raise NotBackedUp(f"{name} is not installed: apt-get install postgresql-client")


def backup(file: Path) -> Checked:
    """Dump into a file, check it, and only then give it its name. Raises NotBackedUp."""
    file.parent.mkdir(parents=True, exist_ok=True)
    beside = file.with_name(f"{file.name}.part")
    beside.unlink(missing_ok=True)
    os.close(os.open(beside, os.O_CREAT | os.O_WRONLY, 0o600))  # nobody else reads it
    try:
        _run("pg_dump", "--format=custom", "--no-owner", "--file", str(beside))
        checked = check(beside)
    except NotBackedUp:
        beside.unlink(missing_ok=True)
        raise
    beside.replace(file)
    return checked


def check(file: Path) -> Checked:
    """Restore it into a scratch database, and count. Raises NotBackedUp."""
    if not file.is_file():
        raise NotBackedUp(f"{file} is not there.")
    with scratch() as name:
        _restore_into(name, file)
        rows = _counts(name)
    if "django_migrations" not in rows:
        raise NotBackedUp(f"{file} holds no database of this program.")
    return Checked(file.stat().st_size, rows)


def restore(file: Path, at: datetime) -> tuple[Checked, str]:
    """Put it in the place of what is there, which is kept under another name: (what was restored,
    that name). Raises NotBackedUp, and then nothing has changed.
    """
    if not file.is_file():
        raise NotBackedUp(f"{file} is not there.")
    now, before = _name(), f"{_name()}_before_{at:%Y%m%d_%H%M%S}"
    new = f"{now}_restored"
    _drop(new)
    _admin(sql.SQL("CREATE DATABASE {}").format(sql.Identifier(new)))
    try:
        _restore_into(new, file)
        rows = _counts(new)
        if "django_migrations" not in rows:
            raise NotBackedUp(f"{file} holds no database of this program.")
        _swap(now, before, new)
    except NotBackedUp:
        _drop(new)
        raise
    return Checked(file.stat().st_size, rows), before


def _swap(now: str, before: str, new: str) -> None:
    """Nobody is connected while names change. Raises NotBackedUp."""
    connections.close_all()
    connection.close_pool()  # type: ignore[attr-defined]
    with psycopg.connect(_dsn("postgres"), autocommit=True) as admin:
        admin.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = %s", [now]
        )
        rename = sql.SQL("ALTER DATABASE {} RENAME TO {}")
        try:
            admin.execute(rename.format(sql.Identifier(now), sql.Identifier(before)))
        except psycopg.Error as error:
            raise NotBackedUp(f"Stop the program first: {error}") from error
        admin.execute(rename.format(sql.Identifier(new), sql.Identifier(now)))


@contextmanager
def scratch() -> Iterator[str]:
    """A database for a moment."""
    name = f"{_name()}_check_{os.getpid()}"
    _drop(name)
    _admin(sql.SQL("CREATE DATABASE {}").format(sql.Identifier(name)))
    try:
        yield name
    finally:
        _drop(name)


def _drop(name: str) -> None:
    _admin(sql.SQL("DROP DATABASE IF EXISTS {} WITH (FORCE)").format(sql.Identifier(name)))


def _admin(statement: sql.Composed) -> None:
    with psycopg.connect(_dsn("postgres"), autocommit=True) as admin:
        admin.execute(statement)


def _name() -> str:
    return str(connection.settings_dict["NAME"])


def _dsn(name: str) -> str:
    held = connection.settings_dict
    return psycopg.conninfo.make_conninfo(
        host=held["HOST"],
        port=held["PORT"],
        user=held["USER"],
        password=held["PASSWORD"],
        dbname=name,
    )


def _restore_into(name: str, file: Path) -> None:
    _run("pg_restore", "--no-owner", "--exit-on-error", str(file), database=name)


def _run(name: str, *words: str, database: str = "") -> None:
    held = connection.settings_dict
    place = {
        "PGHOST": f"{held['HOST']}",
        "PGPORT": f"{held['PORT']}",
        "PGUSER": f"{held['USER']}",
        "PGPASSWORD": f"{held['PASSWORD']}",
    }
    done = subprocess.run(
        [tool(name), "--dbname", database or _name(), *words],
        env={"PATH": "/usr/bin:/bin", "LANG": "C.UTF-8", **place},
        capture_output=True,
        text=True,
        check=False,
        timeout=LONGEST_S,
    )
    if done.returncode:
        lines = done.stderr.strip().splitlines() or ["no reason given"]
        raise NotBackedUp(f"{name} failed: {lines[0]}")


def _counts(name: str) -> dict[str, int]:
    """Rows by table of a database."""
    with psycopg.connect(_dsn(name)) as there:
        tables = there.execute(
            "SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY 1"
        ).fetchall()
        asked = sql.SQL("SELECT count(*) FROM {}")
        counts = {}
        for (table,) in tables:
            row = there.execute(asked.format(sql.Identifier(table))).fetchone()
            counts[table] = int(row[0]) if row else 0
    return counts


def folder() -> Path | None:
    """Where scheduled backups go; None where nobody said."""
    return Path(settings.BACKUP_DIR) if settings.BACKUP_DIR else None


def name_at(at: datetime) -> str:
    """The file of a moment."""
    return f"{MARK}{at:%Y%m%d-%H%M%S}{ENDING}"


def backups(place: Path) -> list[tuple[datetime, Path]]:
    """The good ones, the latest first."""
    tables = []
    for file in place.glob(f"{MARK}*{ENDING}"):
        text = file.name.removeprefix(MARK).removesuffix(ENDING)
        try:
            tables.append((datetime.strptime(text, "%Y%m%d-%H%M%S"), file))
        except ValueError:
            continue  # somebody's own file
    return sorted(tables, reverse=True)


def kept(moments: list[datetime]) -> set[datetime]:
    """Which of some backups stay: the latest of each of the last days, weeks and months that have
    one.
    """
    stay: set[datetime] = set()
    for of, most in (("%Y-%j", DAILY), ("%G-%V", WEEKLY), ("%Y-%m", MONTHLY)):
        latest: dict[str, datetime] = {}
        for moment in sorted(moments, reverse=True):
            latest.setdefault(f"{moment:{of}}", moment)
        stay |= set(sorted(latest.values(), reverse=True)[:most])
    return stay


def rotate(place: Path) -> list[Path]:
    """Remove what need not be kept any longer; what was removed."""
    rows = backups(place)
    stay = kept([moment for moment, _ in rows])
    gone = [file for moment, file in rows if moment not in stay]
    for file in gone:
        file.unlink()
    return gone


def warning(now: datetime) -> str:
    """What the desk says where backups are scheduled and the last good one is old; else ""."""
    place = folder()
    if place is None:
        return ""
    rows = backups(place)
    if not rows:
        return "There is no good backup yet."
    last = rows[0][0]
    if now - last <= OLD:
        return ""
    return f"The last good backup is of {last:%-d %B %Y, %H:%M}."
