"""Everything about one player as a ZIP of open formats, for the family."""

import json
from collections.abc import Iterator, Sequence
from datetime import date
from io import BytesIO
from typing import Any
from zipfile import ZIP_DEFLATED, ZipFile

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.exchange.columns import COLUMNS, DICTIONARY, OTHERS, dictionary_rows
from drill_ladder.apps.exchange.results import rows_out
from drill_ladder.apps.floor.models import Trial
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.messages.models import Message
from drill_ladder.apps.people.models import Agreement, Player, PlayerNote
from drill_ladder.apps.personal import of_players
from drill_ladder.apps.practice.models import Session, Stop
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.weeks.models import Week
from drill_ladder.formats.tables import write_csv

READ_ME = """Everything that {club} keeps here about {name}, on {on}.

player.json      who, guardians, days, home, agreements, ladders and where on them, stops
sessions.csv     every set that was recorded
tests.csv        every trial of a test
weeks.csv        what was told to be done, day by day
reports.txt      the reports that were published
notes.csv        the coaches' notes that are for the family
messages.csv     every mail that was written about the player
history.csv      who did what about the player, and when
all/             everything else as it is stored, a file a table: proposals, decisions with their
                 reasons, taps, placements, what was left out, each report of hurt, each judged day

CSV is UTF-8 with commas; JSON is UTF-8. Any spreadsheet or text editor opens them. {notes}
"""


OWN = "Notes that\ncoaches marked as their own are not in it; ask the club about them."
ALL_NOTES = "Notes that\ncoaches marked as their own are in it, too."


def family_file(player: Player, on: date, coaches_notes: bool = False) -> bytes:
    """The ZIP. coaches_notes: with the notes that coaches marked as their own."""
    out = BytesIO()
    with ZipFile(out, "w", ZIP_DEFLATED) as file:
        notes = ALL_NOTES if coaches_notes else OWN
        read_me = READ_ME.format(
            club=player.club, name=player.name, on=f"{on:%-d %B %Y}", notes=notes
        )
        file.writestr("README.txt", read_me)
        file.writestr(
            "player.json", json.dumps(profile(player), indent=2, ensure_ascii=False, default=str)
        )
        for name, lines in everything(player, coaches_notes):
            file.writestr(name, "".join(lines))
        for name, header, rows in tables(player, coaches_notes):
            file.writestr(name, write_csv(header, [list(row) for row in rows]))
        file.writestr("reports.txt", "\n\n".join(_reports(player)))
    return out.getvalue()


def profile(player: Player) -> dict[str, Any]:
    """Who the player is, as it is stored."""
    left_out = {"id", "club", "squad", "revision", "card_pin", "erased_on"}
    own = {
        field.name: getattr(player, field.name)
        for field in player._meta.concrete_fields
        if field.name not in left_out
    }
    ladders = Prescription.objects.filter(player=player).select_related("ladder")
    return own | {
        "squad": str(player.squad or ""),
        "guardians": list(player.guardians.values("name", "email", "phone", "consent_on")),
        "days": list(player.days.values("weekday", "minutes", "place", "helper", "adult")),
        "agreements": list(
            Agreement.objects.filter(player=player).values("what", "by", "given_on", "withdrawn_on")
        ),
        "ladders": [_ladder(row) for row in ladders],
        "stops": list(
            Stop.objects.filter(player=player).values("what", "opened_on", "ended_on", "cleared_by")
        ),
    }


def _ladder(row: Prescription) -> dict[str, Any]:
    stays = row.stays.select_related("rung").order_by("pk")
    return {
        "ladder": str(row.ladder),
        "from": row.started_on,
        "until": row.ended_on,
        "rungs": [
            {"rung": stay.rung.title, "from": stay.arrived, "until": stay.left} for stay in stays
        ],
    }


def everything(player: Player, coaches_notes: bool) -> Iterator[tuple[str, Iterator[str]]]:
    """(File, its lines) of every table that declares itself as the player's, as it is stored and
    without what is secret.
    """
    for model, personal in of_players():
        rows: Any = model._default_manager.filter(**{personal.player: player.pk}).order_by("pk")
        if model is PlayerNote and not coaches_notes:
            rows = rows.filter(shared=True)
        if rows.exists():
            columns = [
                field.attname
                for field in model._meta.concrete_fields
                if field.name not in personal.secret and field.name != "club"
            ]
            yield f"all/{model._meta.label_lower}.jsonl", _lines(rows.values(*columns).iterator())


def _lines(rows: Iterator[dict[str, Any]]) -> Iterator[str]:
    for row in rows:
        plain = {key: getattr(value, "document", value) for key, value in row.items()}
        yield json.dumps(plain, ensure_ascii=False, default=str) + "\n"


def tables(
    player: Player, coaches_notes: bool = False
) -> Iterator[tuple[str, list[str], Iterator[Any]]]:
    """(File, columns, rows) of each table."""
    sessions = Session.objects.filter(stay__prescription__player=player).whole()
    yield "sessions.csv", *_without(OTHERS, rows_out(sessions.order_by("on", "recorded_at")))
    yield "sessions-columns.csv", DICTIONARY, dictionary_rows(OTHERS)
    yield "tests.csv", ["on", "test", "side", "value", "timing"], _trials(player)
    yield "weeks.csv", ["on", "ladder", "what", "dose", "place", "cancelled"], _weeks(player)
    yield "notes.csv", ["on", "note"], _notes(player, coaches_notes)
    yield "messages.csv", ["written", "to", "subject", "text", "fate"], _messages(player)
    yield "history.csv", ["at", "who", "what", "about"], _history(player)


def _without(names: Sequence[str], rows: Iterator[list[Any]]) -> tuple[list[str], Iterator[Any]]:
    """The table of results without some of its columns."""
    places = [n for n, name in enumerate(COLUMNS) if name not in names]
    return [COLUMNS[n] for n in places], ([row[n] for n in places] for row in rows)


def _trials(player: Player) -> Iterator[list[Any]]:
    rows = Trial.objects.filter(player=player).select_related("protocol", "battery")
    for row in rows.order_by("at"):
        yield [row.battery.on, row.protocol.title, row.side, row.value, row.timing]


def _weeks(player: Player) -> Iterator[list[Any]]:
    for week in Week.objects.filter(player=player).order_by("monday"):
        for block in week.published:
            gone = "yes" if block.cancelled else ""
            yield [block.on, block.ladder, block.title, block.dose, block.place, gone]


def _notes(player: Player, coaches_notes: bool) -> Iterator[list[Any]]:
    rows = PlayerNote.objects.filter(player=player)
    for row in (rows if coaches_notes else rows.filter(shared=True)).order_by("on", "pk"):
        yield [row.on, row.text]


def _messages(player: Player) -> Iterator[list[Any]]:
    for row in Message.objects.filter(player=player).order_by("made_at"):
        yield [row.made_at, row.to_email, row.subject, " ".join(row.lines), row.fate]


def _history(player: Player) -> Iterator[list[Any]]:
    for row in Event.objects.about(player).order_by("at"):
        yield [row.at, row.actor or "", row.verb, row.subject]


def _reports(player: Player) -> Iterator[str]:
    rows = Report.objects.filter(player=player, published_at__isnull=False).order_by("on")
    for row in rows:
        lines = [f"{row.since} to {row.on}", row.greeting]
        for section in row.sections:
            lines += ["", section.title, *(f"- {line}" for line in section.lines)]
        yield "\n".join([*lines, "", row.remark])
