"""Which tables make a club, and how their rows point at each other.

In the file a row has no id of a database: rows of a table are numbered from 1 as they were made,
and whatever points at one holds its number. So a club that is restored, into whichever database,
is written again byte by byte as it was.
"""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache
from typing import Any

from django.apps import apps
from django.db import models

OURS = "drill_ladder."
# secrets, keys of other tools, what is under way, and mail: they belong to one installation
LEFT_OUT = {
    "history.SentForm",
    "jobs.Job",
    "people.User",
    "people.Club",
    "people.OldSecret",
    "people.Invitation",
    "people.AccessToken",
    "people.FoundingCode",
    "floor.GateMessage",
    "floor.GateCall",
    "outbox.Message",
    "outbox.MailAddress",
    "outbox.LocalMail",
    "records.UnreadDocument",
}
USER, TAP_UID = "people.User", "floor.FloorTap uid"
Row = dict[str, Any]
# (model's label, id or number) -> number or id; None where it points at nothing that is known
Turn = Callable[[str, Any], Any]


@dataclass(frozen=True, slots=True)
class Table:
    """One table. links: column -> label of the model that it points at; parent: the column that
    leads to a table with a club, for a table that has none itself; uid: whether a row has a name
    that a device gave it, which is another one after restoring.
    """

    label: str
    name: str
    columns: tuple[str, ...]
    links: dict[str, str]
    uuid: bool
    uid: bool
    parent: str = ""

    @property
    def written(self) -> frozenset[str]:
        """The columns that a row has in the file."""
        return frozenset(self.columns) - {"id", "uid"}

    @property
    def file(self) -> str:
        """Its name in the archive."""
        return f"data/{self.label.lower()}.jsonl"


@cache
def tables() -> tuple[Table, ...]:
    """All of them, in the order of their labels."""
    return tuple(sorted(_tables(), key=lambda table: table.label))


def _tables() -> Iterator[Table]:
    for model in apps.get_models(include_auto_created=True):
        if model.__module__.startswith(OURS) and model._meta.label not in LEFT_OUT:
            yield table_of(model)


def table_of(model: type[models.Model]) -> Table:
    """One model's table."""
    fields = [field for field in model._meta.concrete_fields if field.column != "club_id"]
    links = {
        str(field.column): field.related_model._meta.label
        for field in fields
        if isinstance(field, models.ForeignKey)
    }
    has_club = len(fields) < len(model._meta.concrete_fields)
    return Table(
        model._meta.label,
        model._meta.db_table,
        tuple(sorted(str(field.column) for field in fields)),
        links,
        isinstance(model._meta.pk, models.UUIDField),
        any(field.column == "uid" for field in fields),
        "" if has_club else next(iter(links)),
    )


@cache
def by_kind() -> dict[str, str]:
    """people.player -> people.Player, of the tables in an archive."""
    return {table.label.lower(): table.label for table in tables()}


RUNG = re.compile(r"r(\d+)")


def turn_row(table: Table, row: Row, turn: Turn) -> Row:
    """The row with everything that points at a row turned: columns, and what documents hold."""
    for column, label in table.links.items():
        if row[column] is not None:
            row[column] = turn(label, row[column])
    inside = INSIDE.get(table.label)
    if inside is not None:
        inside(row, turn)
    return row


def _event(row: Row, turn: Turn) -> None:
    label = by_kind().get(row["kind"])
    row_id = turn(label, row["row_id"]) if label and row["row_id"] else None
    row["row_id"] = "" if row_id is None else str(row_id)
    for key in ("before", "after"):
        document = row["details"].get(key)
        if isinstance(document, dict) and "stay" in document:
            document["stay"] = turn("prescriptions.Stay", document["stay"])


def _week(row: Row, turn: Turn) -> None:
    for block in row["published"]:
        number = turn("prescriptions.Prescription", block["prescription"])
        block["key"] = f"{number}-{block['key'].partition('-')[2]}"
        block["prescription"] = number
        if block.get("stay") is not None:
            block["stay"] = turn("prescriptions.Stay", block["stay"])
    for wish in row["unplaced"]:
        if wish["id"].isdigit():
            wish["id"] = str(turn("prescriptions.Prescription", int(wish["id"])))


def _rung_of(document: Any, key: str, turn: Turn) -> None:
    """A rung as documents name it: r and its id."""
    match = RUNG.fullmatch(document.get(key) or "") if isinstance(document, dict) else None
    if match:
        document[key] = f"r{turn('library.Rung', int(match[1]))}"


def _stay(row: Row, turn: Turn) -> None:
    _rung_of(row["terms"].get("rung"), "id", turn)


def _session(row: Row, turn: Turn) -> None:
    _rung_of(row["ahead"], "to", turn)


def _proposal(row: Row, turn: Turn) -> None:
    _rung_of(row["said"], "to", turn)


def _decision(row: Row, turn: Turn) -> None:
    if row["before"].get("new_stay") is not None:
        row["before"]["new_stay"] = turn("prescriptions.Stay", row["before"]["new_stay"])


def _prescription(row: Row, turn: Turn) -> None:
    if row["overrides"].get("target_rung") is not None:
        row["overrides"]["target_rung"] = turn("library.Rung", row["overrides"]["target_rung"])


def _placement(row: Row, turn: Turn) -> None:
    for probe in row["probes"]:
        probe["rung"] = turn("library.Rung", probe["rung"])


def _tap(row: Row, turn: Turn) -> None:
    """A tap that takes another one back names it; one that was asked about a rung names that."""
    if row["value"].get("of"):
        row["value"]["of"] = turn(TAP_UID, row["value"]["of"])
    if row["value"].get("about"):
        row["value"]["about"] = turn("prescriptions.Stay", row["value"]["about"])


def _battery(row: Row, turn: Turn) -> None:
    row["players"] = [turn("people.Player", pk) for pk in row["players"]]


def _group(row: Row, turn: Turn) -> None:
    row["players"] = [turn("people.Player", pk) for pk in row["players"]]
    row["past"] = [
        {str(turn("people.Player", int(key))): spot for key, spot in slot.items()}
        for slot in row["past"]
    ]
    row["drills"] = {name: turn("library.Drill", pk) for name, pk in row["drills"].items()}


# what else points at rows: inside the documents of these tables
INSIDE: dict[str, Callable[[Row, Turn], None]] = {
    "history.Event": _event,
    "weeks.Week": _week,
    "prescriptions.Stay": _stay,
    "practice.Session": _session,
    "review.Proposal": _proposal,
    "review.Decision": _decision,
    "prescriptions.Prescription": _prescription,
    "prescriptions.Placement": _placement,
    "floor.Battery": _battery,
    "floor.FloorTap": _tap,
    "floor.GroupSession": _group,
}
