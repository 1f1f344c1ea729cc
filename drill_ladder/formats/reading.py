"""One reader for what comes from outside: whole numbers, decimals, days, ids and texts.

Forms, query strings, paths, uploads and imports all read with these, so that what looks like a
number but is none, and what no database keeps, is met in one place. Every function gives None for
what cannot be read; none of them raises.

One `Kept` a kind of document: it reads (with every check), reads what was checked when it was
stored, names all faults, and writes. Forms, files, the database and the command line share the
shapes and checks behind it.
"""

import json
import re
import unicodedata
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date, datetime
from math import isfinite
from typing import Any, Generic, TypeVar
from uuid import UUID

from pydantic_core import SchemaValidator, ValidationError

from drill_ladder.core.errors import CoreError
from drill_ladder.formats.mistakes import Mistake, first_of_each_path, from_validation
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import Shape

WHOLE = 2**31 - 1  # what a whole number of the database holds
_DIGITS = re.compile(r"[+-]?[0-9]{1,18}")
_DECIMAL = re.compile(r"[+-]?[0-9]{0,18}(?:[.,][0-9]{1,30})?(?:[eE][+-]?[0-9]{1,3})?")
_UUID = re.compile(r"[0-9a-fA-F]{8}-?(?:[0-9a-fA-F]{4}-?){3}[0-9a-fA-F]{12}")
_DAY = re.compile(r"[0-9]{4}-[0-9]{2}-[0-9]{2}")
# what turns the direction of a line around: a name could pretend to be another one
_TURNS = frozenset("\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069")


def whole(value: object, low: int = 0, high: int = WHOLE) -> int | None:
    """A whole number from low to high, written in plain digits.

    >>> whole("7"), whole("²"), whole("٣"), whole("9" * 400), whole(True)
    (7, None, None, None, None)
    """
    text = (
        str(value).strip() if isinstance(value, int | str) and not isinstance(value, bool) else ""
    )
    number = int(text) if _DIGITS.fullmatch(text) else None
    return number if number is not None and low <= number <= high else None


def decimal(value: object, low: float, high: float) -> float | None:
    """A finite number from low to high; a comma may stand for the point.

    >>> decimal("2,5", 0, 10), decimal("1e400", 0, 10), decimal("nan", 0, 10), decimal("", 0, 10)
    (2.5, None, None, None)
    """
    text = (
        str(value).strip()
        if isinstance(value, int | float | str) and not isinstance(value, bool)
        else ""
    )
    if not any(c.isdigit() for c in text) or not _DECIMAL.fullmatch(text):
        return None
    number = float(text.replace(",", "."))
    return number if isfinite(number) and low <= number <= high else None


FIRST_DAY, LAST_DAY = date(1900, 1, 1), date(2200, 12, 31)


def day(value: object, low: date = FIRST_DAY, high: date = LAST_DAY) -> date | None:
    """A day written YYYY-MM-DD. Bounded, so that adding weeks to it never leaves the calendar.

    >>> day("2026-02-30"), day("9999-12-31"), day("2026-03-02")
    (None, None, datetime.date(2026, 3, 2))
    """
    if not isinstance(value, str) or not _DAY.fullmatch(value.strip()):
        return None
    try:
        found = date.fromisoformat(value.strip())
    except ValueError:
        return None
    return found if low <= found <= high else None


def moment(value: object) -> datetime | None:
    """A moment with its time zone, as a device writes it (ISO 8601).

    >>> moment("2026-03-02T10:00:00.000Z").isoformat(), moment("2026-03-02T10:00"), moment("soon")
    ('2026-03-02T10:00:00+00:00', None, None)
    """
    if not isinstance(value, str) or len(value) > 40:
        return None
    try:
        found = datetime.fromisoformat(value.strip())
    except ValueError:
        return None
    low, high = FIRST_DAY.year, LAST_DAY.year
    return found if found.tzinfo is not None and low < found.year < high else None


def uuid(value: object) -> UUID | None:
    """An id that a device made.

    >>> uuid("{}"), uuid("7b0f1f8e-1111-4222-8333-444455556666")
    (None, UUID('7b0f1f8e-1111-4222-8333-444455556666'))
    """
    text = str(value).strip()
    return UUID(text) if _UUID.fullmatch(text) else None


def json_value(text: str, most: int = 60_000, deepest: int = 30) -> Any:
    """A JSON document of at most so many letters and levels; None for anything else.

    >>> json_value('{"a": [1]}'), json_value("[" * 1000), json_value('{"a": 1' + "0" * 5000 + "}")
    ({'a': [1]}, None, None)
    """
    if len(text) > most or depth_of(text) > deepest:
        return None
    try:
        found = json.loads(text)
    except ValueError:
        return None
    return found if plain(found) else None


def depth_of(text: str) -> int:
    """How deep brackets nest in a text, strings included: never less than its JSON does."""
    deepest = level = 0
    for c in text:
        if c in "[{":
            level += 1
            deepest = max(deepest, level)
        elif c in "]}":
            level = max(0, level - 1)
    return deepest


def plain(value: Any) -> bool:
    """Whether a document holds only what a database keeps: no NUL, no half letters, no endless
    numbers.
    """
    if isinstance(value, dict):
        return all(plain(key) and plain(inner) for key, inner in value.items())
    if isinstance(value, list):
        return all(map(plain, value))
    if isinstance(value, str):
        return not any(c == "\x00" or "\ud800" <= c <= "\udfff" for c in value)
    return not isinstance(value, int | float) or -1e300 < value < 1e300


def clean(value: object, lines: bool = False) -> str:
    """A text without what no database keeps and no screen shows: NUL, control signs, halves of
    letters, turned directions. One line, unless `lines` are wanted.

    >>> clean("left\\x00 knee\\n since\\ud800 Monday "), clean("a\\r\\nb", lines=True)
    ('left knee since Monday', 'a\\nb')
    """
    text = str(value).replace("\r\n", "\n").replace("\r", "\n")
    kept = "".join(_kept(c, lines) for c in text)
    if lines:
        return "\n".join(line.rstrip() for line in kept.split("\n")).strip()
    line = " ".join(kept.split())
    # nothing but joiners and spaces of no width says nothing
    return line if any(unicodedata.category(c) not in ("Cf", "Mn", "Zs") for c in line) else ""


def _kept(c: str, lines: bool) -> str:
    if c == "\n" and lines:
        return c
    kind = unicodedata.category(c)
    if kind in ("Cc", "Zl", "Zp"):
        return " "
    return "" if kind == "Cs" or c in _TURNS else c


def unkept(value: str, lines: bool = False) -> bool:
    """Whether a text holds what `clean` takes out, beyond spaces at its ends."""
    return any(_kept(c, lines) != c for c in value.replace("\r\n", "\n"))


def cut(value: object, most: int) -> str:
    """One clean line of at most `most` letters, cut with a sign that it was.

    >>> cut("left knee", 6)
    'left…'
    """
    text = clean(value)
    if len(text) <= most:
        return text
    return f"{text[: most - 1].rstrip()}…" if most > 1 else text[:most]


T = TypeVar("T")


@dataclass
class Kept(Generic[T]):
    """A kind of document. check: what its shape alone cannot tell; limits: what is too much to be
    stored.
    """

    shape: Shape
    to_value: Callable[[Any], T]
    write: Callable[[T], Any]
    check: Callable[[Node], None] | None = None
    limits: Callable[[Node], None] | None = None
    _reader: SchemaValidator | None = field(default=None, init=False, repr=False)

    @property
    def reader(self) -> SchemaValidator:
        """Made when it is first asked for: the command line asks for few."""
        if self._reader is None:
            self._reader = SchemaValidator(self.shape)
        return self._reader

    def read(self, document: Any) -> T:
        """The value, after every check. Raises CoreError with all faults."""
        validated, faults = self._validated(document)
        if faults:
            raise CoreError("; ".join(map(str, faults)))
        return self.to_value(validated)

    def read_stored(self, document: Any) -> T:
        """The value of a document that was checked when it was stored. Raises CoreError for a wrong
        shape.
        """
        try:
            return self.to_value(self.reader.validate_python(document))
        except ValidationError as error:
            faults = from_validation(error.errors(include_url=False, include_input=False))
            raise CoreError("; ".join(map(str, faults))) from None

    def faults(self, document: Any, stored: bool = False) -> list[str]:
        """Everything that is wrong with a document, one line each; stored: also what is too much to
        be kept.
        """
        found = self._validated(document)[1]
        if stored and self.limits is not None:
            node = Node(document, [])
            self.limits(node)
            found = first_of_each_path([*found, *node.faults])
        return [str(fault) for fault in found]

    def faults_of(self, value: T) -> list[str]:
        """Everything that is wrong with a value that was made elsewhere."""
        return self.faults(self.write(value))

    def _validated(self, document: Any) -> tuple[Any, list[Mistake]]:
        faults: list[Mistake] = []
        validated = None
        try:
            validated = self.reader.validate_python(document)
        except ValidationError as error:
            faults += from_validation(error.errors(include_url=False, include_input=False))
        if self.check is not None:
            self.check(Node(document, faults))
        return validated, first_of_each_path(faults)
