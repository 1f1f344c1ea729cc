"""An archive is read and checked whole before anything is stored: every fault is named."""

import json
import struct
import zlib
from collections.abc import Iterator
from dataclasses import dataclass, field
from hashlib import sha256
from lzma import LZMAError
from typing import IO, Any
from zipfile import BadZipFile, ZipFile
from zoneinfo import available_timezones

from django.apps import apps
from django.db.models import NOT_PROVIDED

from drill_ladder.apps.practice.models import Felt
from drill_ladder.apps.records.archive.columns import wrong
from drill_ladder.apps.records.archive.tables import USER, Row, Table, table_of, tables
from drill_ladder.apps.records.archive.writing import FORMAT, VERSION
from drill_ladder.formats.taps import COMFORT

MOST_BYTES, MOST_FILES, MOST_FAULTS = 4_000_000_000, 5_000, 50
# what the ZIP's reader says of bytes that are not as they were written
BROKEN = (
    BadZipFile,
    OSError,
    ValueError,
    EOFError,
    RuntimeError,
    struct.error,
    zlib.error,
    LZMAError,
)
USERS = "data/people.user.jsonl"


class Damaged(Exception):
    """Why an archive cannot be read: all that is wrong, in order."""

    def __init__(self, faults: list[str]) -> None:
        super().__init__(
            "\n".join([*faults[:MOST_FAULTS], *(["…"] if len(faults) > MOST_FAULTS else [])])
        )
        self.faults = faults


@dataclass(slots=True)
class Archive:
    """What a file holds: the club, its users, and the rows of every table."""

    club: Row
    users: list[Row]
    rows: dict[str, list[Row]] = field(default_factory=dict)


def read_archive(file: IO[bytes]) -> Archive:
    """Raises Damaged."""
    try:
        packed = ZipFile(file)
        names = packed.namelist()
        size = sum(info.file_size for info in packed.infolist())
    except BROKEN as error:
        raise Damaged([f"The file is no ZIP that can be read ({error})."]) from None
    if len(names) > MOST_FILES or size > MOST_BYTES:
        raise Damaged(["The file holds more than any club: it is not unpacked."])
    faults: list[str] = []
    manifest = _manifest(packed, names, faults)
    if faults:
        raise Damaged(faults)
    data = dict(_files(packed, names, manifest, faults))
    if faults:
        raise Damaged(faults)
    archive = _archive(data, faults)
    if faults:
        raise Damaged(faults)
    return archive


def _manifest(packed: ZipFile, names: list[str], faults: list[str]) -> dict[str, Any]:
    if "manifest.json" not in names:
        faults.append("manifest.json is not in it: this is no archive of a club.")
        return {}
    try:
        manifest: Any = _json(packed.read("manifest.json"))
        if manifest["format"] != FORMAT or not isinstance(manifest["version"], int):
            raise KeyError
        files = {
            f"{file['name']}": (f"{file['sha256']}", file.get("rows")) for file in manifest["files"]
        }
    except (*BROKEN, KeyError, TypeError, AttributeError):
        faults.append("manifest.json cannot be read, or is of another program.")
        return {}
    if manifest["version"] > VERSION:
        faults.append(
            f"It is of version {manifest['version']}; this program reads up to {VERSION}. "
            "Use a newer one."
        )
    return files


def _files(
    packed: ZipFile, names: list[str], manifest: dict[str, Any], faults: list[str]
) -> Iterator[tuple[str, bytes]]:
    """Every file that the manifest names, whole and as it was written."""
    for name in sorted(set(names) - set(manifest) - {"manifest.json"}):
        faults.append(f"{name} is in the file and not in its manifest.")
    for name, (digest, rows) in manifest.items():
        if name not in names:
            faults.append(f"{name} is missing.")
            continue
        try:
            data = packed.read(name)
        except BROKEN as error:
            faults.append(f"{name} cannot be unpacked ({error}).")
            continue
        if sha256(data).hexdigest() != digest:
            faults.append(f"{name} is not as it was written: its checksum differs.")
        elif rows is not None and data.count(b"\n") != rows:
            faults.append(f"{name} holds {data.count(10)} rows, and {rows} were written.")
        else:
            yield name, data


def _archive(data: dict[str, bytes], faults: list[str]) -> Archive:
    club = _object(data, "club.json", faults)
    _club(club, faults)
    users = _lines(data, USERS, faults)
    for number, row in enumerate(users, 1):
        _user(row, f"{USERS}, row {number}", faults)
    archive = Archive(club, users)
    names = {table.file for table in tables()} | {USERS}
    for name in sorted(name for name in data if name.startswith("data/") and name not in names):
        faults.append(f"{name}: this program has no such table.")
    for table in tables():
        archive.rows[table.label] = _table(table, data, faults)
    if table_of(Felt).file not in data and not faults:
        archive.rows["practice.Felt"] = _felt_of_taps(archive.rows["floor.FloorTap"])
    counts = {label: len(rows) for label, rows in archive.rows.items()} | {USER: len(users)}
    for table in tables():
        _links(table, archive.rows[table.label], counts, faults)
    return archive


def _felt_of_taps(taps: list[Row]) -> list[Row]:
    """How at ease players said they were, where an older program kept that in its taps."""
    gone = {tap["value"].get("of") for tap in taps if tap.get("act") == "undo"}
    said = {
        (tap["player_id"], tap["on"]): tap["value"]["numbers"]["level"]
        for number, tap in enumerate(taps, 1)
        if tap.get("act") == COMFORT and number not in gone
    }
    return [
        {"player_id": player, "stay_id": None, "on": on, "level": level}
        for (player, on), level in said.items()
    ]


def _club(club: Row, faults: list[str]) -> None:
    """Its own columns; what is not named has its first value."""
    for key in ("name", "time_zone"):
        if not isinstance(club.get(key), str) or not club[key]:
            faults.append(f"club.json: {key} is not there.")
    for key in ("name", "time_zone", "unit", "night_on"):
        why = wrong("people.Club", key, club[key]) if key in club else ""
        if why:
            faults.append(f"club.json: {key}: {why}")
    if isinstance(club.get("time_zone"), str) and club["time_zone"] not in available_timezones():
        faults.append("club.json: time_zone: this zone is not known.")


def _user(row: Row, where: str, faults: list[str]) -> None:
    if set(row) != {"email", "name"}:
        faults.append(f"{where}: an address and a name were expected.")
        return
    for column in ("email", "name"):
        why = wrong("people.User", column, row[column])
        if why:
            faults.append(f"{where}: {column}: {why}")


def _object(data: dict[str, bytes], name: str, faults: list[str]) -> Row:
    try:
        value = _json(data[name])
    except (KeyError, ValueError):
        faults.append(f"{name} is missing or no JSON.")
        return {}
    return value if isinstance(value, dict) else {}


def _json(text: bytes) -> Any:
    """Raises ValueError, also for what nests deeper than anything of ours."""
    try:
        return json.loads(text)
    except RecursionError:
        raise ValueError("it nests too deep") from None


def _lines(data: dict[str, bytes], name: str, faults: list[str]) -> list[Row]:
    rows = []
    for number, text in enumerate(data.get(name, b"").splitlines(), 1):
        try:
            row = _json(text)
            if not isinstance(row, dict):
                raise ValueError
        except ValueError:
            faults.append(f"{name}, row {number} is no JSON object.")
            row = {}
        rows.append(row)
    return rows


def _table(table: Table, data: dict[str, bytes], faults: list[str]) -> list[Row]:
    """Rows with every column of today: what an older program did not know gets its first value."""
    rows = _lines(data, table.file, faults)
    wanted = table.written
    for number, row in enumerate(rows, 1):
        for column in sorted(set(row) - wanted):
            faults.append(f"{table.file}, row {number}: {column} is no column of this table.")
        for column in sorted(wanted - set(row)):
            missing = first_value(table.label, column)
            if missing is NOT_PROVIDED:
                faults.append(f"{table.file}, row {number}: {column} is missing.")
            else:
                row[column] = missing
        for column in sorted(wanted & set(row)):
            why = wrong(table.label, column, row[column])
            if why:
                faults.append(f"{table.file}, row {number}: {column}: {why}")
    return rows


def first_value(label: str, column: str) -> Any:
    """What a column holds that an older program did not write; NOT_PROVIDED where it must say."""
    fields = apps.get_model(label)._meta.concrete_fields
    of = next(field for field in fields if field.column == column)
    if of.has_default():
        value = of.get_default()
        return value if isinstance(value, str | int | float | bool | list | dict) else None
    if of.null:
        return None
    return "" if of.empty_strings_allowed and of.blank else NOT_PROVIDED


def _links(table: Table, rows: list[Row], counts: dict[str, int], faults: list[str]) -> None:
    """Whatever a row points at is there."""
    for number, row in enumerate(rows, 1):
        for column, label in table.links.items():
            to = row.get(column)
            if to is None:
                continue
            if (
                not isinstance(to, int)
                or isinstance(to, bool)
                or not 1 <= to <= counts.get(label, 0)
            ):
                faults.append(
                    f"{table.file}, row {number}: {column} points at {label} {to!r}, which is "
                    "not there."
                )
