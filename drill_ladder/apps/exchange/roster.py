"""The roster as a table: what each column means, what a file would do, and doing it all or not at
all.
"""

from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from django.core.exceptions import ValidationError
from django.core.validators import validate_email

from drill_ladder.apps.people.models import SPACE_M, Club, Player, Side
from drill_ladder.apps.people.players import PlayerForm
from drill_ladder.formats.reading import day, decimal, unkept, whole
from drill_ladder.formats.tables import Table, unsafe_cell, write_csv

YES, NO = {"yes", "y", "true", "1", "x"}, {"no", "n", "false", "0"}
GUARDIAN = {
    "guardian_name": "name",
    "guardian_email": "email",
    "guardian_phone": "phone",
    "guardian_agreed": "consent_on",
}
COLUMNS = [
    "name",
    "squad",
    "birth_month",
    "side",
    "stride_cm",
    "shoe_cm",
    "home_space",
    "home_width_m",
    "home_depth_m",
    "home_surface",
    "home_tools",
    "home_wall",
    "home_feeder",
    "home_adult",
    "home_light",
    *GUARDIAN,
]


@dataclass(frozen=True, slots=True)
class Problem:
    """A cell that cannot be right: row and column of the file, and why."""

    row: int
    column: str
    why: str


@dataclass(slots=True)
class Row:
    """One player as the file has them; what would change: column -> (stored, given)."""

    number: int
    values: dict[str, Any]
    player: Player | None = None
    changes: dict[str, tuple[str, str]] = field(default_factory=dict)

    @property
    def name(self) -> str:
        """Whom the row is about; empty where it does not say."""
        return str(self.values.get("name", ""))

    @property
    def what(self) -> str:
        """new, changed or same."""
        if self.player is None:
            return "new"
        return "changed" if self.changes else "same"


@dataclass(slots=True)
class Preview:
    """What a file would do."""

    rows: list[Row]
    problems: list[Problem]
    aside: list[str]

    def count(self, what: str) -> int:
        """Rows of a kind."""
        return sum(row.what == what for row in self.rows)


def _month(text: str, today: date) -> date:
    parts = [whole(part, 0, 9999) for part in text.split("-")]
    if not 2 <= len(parts) <= 3 or None in parts or len(text.split("-")[0]) != 4:
        raise ValueError("write a year and a month, such as 2014-06")
    first = day(f"{parts[0]:04d}-{parts[1]:02d}-01")
    if first is None:
        raise ValueError("is no month of the calendar")
    if not first <= today or today.year - first.year > 100:
        raise ValueError("is in the future or over 100 years ago")
    return first


def _day(text: str, today: date) -> date:
    day_ = day(text)
    if day_ is None:
        raise ValueError("write a day as YYYY-MM-DD")
    if day_ > today:
        raise ValueError("is in the future")
    return day_


def _number(low: float, high: float) -> Callable[[str, date], float]:
    def read(text: str, today: date) -> float:
        value = decimal(text, -1e12, 1e12)
        if value is None:
            raise ValueError("is no number")
        if not low <= value <= high:
            raise ValueError(f"has to be from {low:g} to {high:g}")
        return value

    return read


def _yes(text: str, today: date) -> bool:
    if text.casefold() in YES | NO:
        return text.casefold() in YES
    raise ValueError("write yes or no")


def _side(text: str, today: date) -> str:
    if text.casefold() not in Side.values:
        raise ValueError("write right, left or both")
    return text.casefold()


def _mail(text: str, today: date) -> str:
    if len(text) > 254:
        raise ValueError("is longer than 254 letters")
    try:
        validate_email(text)
    except ValidationError:
        raise ValueError("is no mail address") from None
    return text


def _text(most: int) -> Callable[[str, date], str]:
    def read(text: str, today: date) -> str:
        if len(text) > most:
            raise ValueError(f"is longer than {most} letters")
        if unkept(text):
            raise ValueError("holds a line break or a sign that cannot be kept")
        return text

    return read


# columns that the player's form calls otherwise
FORM_NAMES = {"squad": "squad_name", "guardian_agreed": "guardian_consent_on"}


def _text_like(column: str) -> Callable[[str, date], str]:
    """A text as long as the player's form takes it."""
    field = PlayerForm.base_fields[FORM_NAMES.get(column, column)]
    return _text(field.max_length)  # type: ignore[attr-defined]


def _number_like(column: str) -> Callable[[str, date], float]:
    """A number as large as the player's form takes it."""
    field: Any = PlayerForm.base_fields[column]
    return _number(field.min_value, field.max_value)


_TEXTS = (
    *("name", "squad", "home_space", "home_surface", "home_tools"),
    *("guardian_name", "guardian_phone"),
)
READERS: dict[str, Callable[[str, date], Any]] = {
    **{column: _text_like(column) for column in _TEXTS},
    "birth_month": _month,
    "side": _side,
    **{column: _number_like(column) for column in ("stride_cm", "shoe_cm")},
    **{column: _number(*SPACE_M) for column in ("home_width_m", "home_depth_m")},
    **dict.fromkeys(("home_wall", "home_feeder", "home_adult", "home_light"), _yes),
    "guardian_email": _mail,
    "guardian_agreed": _day,
}


def preview(club: Club, table: Table, today: date) -> Preview:
    """What the table would do, and everything that is wrong with it. Blank cells change nothing."""
    result = Preview([], [], [name for name in table.header if name and name not in READERS])
    if "name" not in table.header:
        result.problems.append(
            Problem(1, "name", "this column is missing: it says whom a row is about")
        )
        return result
    players = Player.objects.of_club(club).select_related("squad").prefetch_related("guardians")
    by_name = {player.name.casefold(): player for player in players}
    names = Counter(player.name.casefold() for player in players)
    seen: dict[str, int] = {}
    for number, cells in table.rows:
        row = _read(number, dict(zip(table.header, cells, strict=True)), result.problems, today)
        name = row.name
        if not name:
            result.problems.append(Problem(number, "name", "is empty"))
        elif name.casefold() in seen:
            result.problems.append(
                Problem(number, "name", f"is in row {seen[name.casefold()]} too")
            )
        elif names[name.casefold()] > 1:
            result.problems.append(
                Problem(number, "name", "several players have it: change them one by one")
            )
        seen[name.casefold()] = number
        row.player = by_name.get(name.casefold())
        _check_pairs(row, result.problems)
        row.changes = _changes(row) if row.player else {}
        result.rows.append(row)
    return result


def _read(number: int, cells: dict[str, str], problems: list[Problem], today: date) -> Row:
    row = Row(number, {})
    for column, text in cells.items():
        if column not in READERS or not text:
            continue
        try:
            row.values[column] = READERS[column](unsafe_cell(text), today)
        except ValueError as error:
            problems.append(Problem(number, column, f"“{text[:40]}” {error}"))
    return row


def _check_pairs(row: Row, problems: list[Problem]) -> None:
    """A space has two sides, a guardian's address somebody whose it is."""
    stored = told(row.player) if row.player else {}
    has = {column for column in READERS if column in row.values or stored.get(column)}
    for one, other in (("home_width_m", "home_depth_m"), ("home_depth_m", "home_width_m")):
        if one in has and other not in has:
            problems.append(Problem(row.number, other, "is missing: a space has two sides"))
    if "guardian_name" not in has and has & set(GUARDIAN):
        problems.append(Problem(row.number, "guardian_name", "is missing: whose address is it?"))


def told(player: Player) -> dict[str, str]:
    """A player as the file has them, as text."""
    guardian = next(iter(player.guardians.all()), None)
    metres = {"home_width_m": player.home_width, "home_depth_m": player.home_depth}
    lengths = {"stride_cm": player.stride_m, "shoe_cm": player.shoe_m}
    values: dict[str, Any] = {
        "name": player.name,
        "squad": player.squad.name if player.squad else "",
        "birth_month": f"{player.birth_month:%Y-%m}" if player.birth_month else "",
        "side": player.dominant_side,
        **{key: None if value is None else round(value * 100, 1) for key, value in lengths.items()},
        **metres,
        **{key: getattr(player, key) for key in ("home_space", "home_surface", "home_tools")},
        **{
            key: getattr(player, key)
            for key in ("home_wall", "home_feeder", "home_adult", "home_light")
        },
        **{
            column: getattr(guardian, part) if guardian else "" for column, part in GUARDIAN.items()
        },
    }
    return {column: _as_text(values[column]) for column in COLUMNS}


def _as_text(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:g}" if isinstance(value, float) else str(value)


def _changes(row: Row) -> dict[str, tuple[str, str]]:
    stored = told(row.player) if row.player else {}
    cells = {column: _given(column, value) for column, value in row.values.items()}
    return {c: (stored[c], text) for c, text in cells.items() if stored[c] != text and c != "name"}


def _given(column: str, value: Any) -> str:
    return f"{value:%Y-%m}" if column == "birth_month" else _as_text(value)


def roster_csv(club: Club) -> str:
    """Everybody, in the same columns."""
    players = (
        Player.objects.of_club(club)
        .select_related("squad")
        .prefetch_related("guardians")
        .order_by("name", "pk")
    )
    return write_csv(COLUMNS, [list(told(player).values()) for player in players])
