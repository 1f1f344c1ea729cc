"""Tables that people bring: CSV in its usual dialects and XLSX, as rows of text; and cells that are
safe to write.
"""

import csv
import warnings
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, datetime
from io import BytesIO, StringIO
from typing import Any
from zipfile import BadZipFile, ZipFile

from drill_ladder.formats.reading import unkept

LARGEST = 2_000_000
MOST_ROWS, MOST_COLUMNS = 2000, 60
LONGEST_CELL = 5000
# of a spreadsheet, unpacked: a real one of 2000 rows by 60 columns has 12 MB, packed twenty times
# at most
LARGEST_UNPACKED, MOST_PARTS, MOST_PACKED = 25_000_000, 200, 120
SEPARATORS = ",;\t"


class BadTable(Exception):
    """Why a file cannot be read as a table."""


@dataclass(frozen=True, slots=True)
class Table:
    """The header, and rows of the same length with the numbers that they have in the file (the
    header is row 1).
    """

    header: list[str]
    rows: list[tuple[int, list[str]]]


def read_table(data: bytes, name: str, most_rows: int = MOST_ROWS) -> Table:
    """A table from a file: XLSX by its first bytes, else CSV (RFC 4180; comma, semicolon or tab;
    with or without BOM).

    Raises BadTable.
    """
    if len(data) > LARGEST:
        raise BadTable(f"The file is larger than {LARGEST // 1_000_000} MB.")
    if not data.strip():
        raise BadTable("The file is empty.")
    read = _sheet if data[:4] == b"PK\x03\x04" else _csv
    return _table(read(data, most_rows), most_rows)


def _csv(data: bytes, most: int) -> list[list[str]]:
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise BadTable(
            f"The file is not UTF-8 text (byte {error.start + 1}). Save it as CSV UTF-8."
        ) from None
    if "\x00" in text:
        raise BadTable("The file holds bytes that are no text. Save it as CSV UTF-8 or XLSX.")
    first = text.splitlines()[0] if text.splitlines() else ""
    separator = max(SEPARATORS, key=first.count)
    try:
        lines = csv.reader(StringIO(text, newline=""), delimiter=separator, strict=True)
        return list(_few(lines, most))
    except csv.Error as error:
        raise BadTable(f"The file is not a table: {error}.") from None


def _few(lines: Iterable[list[str]], most: int) -> Iterator[list[str]]:
    """The lines, as long as they are no more than a table may have."""
    for number, line in enumerate(lines, 1):
        if number > 3 * most:
            raise BadTable(f"More than {most} rows.")
        yield line[: MOST_COLUMNS + 1]


def _sheet(data: bytes, most: int) -> list[list[str]]:
    _refuse_bomb(data)
    # half a second to import, needed for spreadsheets only
    from openpyxl import load_workbook

    # a damaged book fails in whatever place its damage leads to, inside three libraries: all of it
    # is one answer
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            book = load_workbook(BytesIO(data), read_only=True, data_only=True)
            sheet = book.worksheets[0]
            lines = sheet.iter_rows(max_col=MOST_COLUMNS + 1, values_only=True)
            return list(_few(([_text(value) for value in row] for row in lines), most))
    except BadTable:
        raise
    except Exception as error:
        raise BadTable(
            f"The spreadsheet is damaged and cannot be read ({type(error).__name__})."
        ) from None


def _refuse_bomb(data: bytes) -> None:
    """A small file that unpacks into a large one is refused before it is read."""
    try:
        with ZipFile(BytesIO(data)) as book:
            parts = book.infolist()
    except (BadZipFile, ValueError, OSError, RuntimeError) as error:
        raise BadTable(
            f"The spreadsheet is damaged and cannot be read ({type(error).__name__})."
        ) from None
    if len(parts) > MOST_PARTS or sum(part.file_size for part in parts) > LARGEST_UNPACKED:
        raise BadTable(
            f"The spreadsheet holds more than {LARGEST_UNPACKED // 1_000_000} MB when it is "
            "unpacked."
        )
    if any(part.compress_size * MOST_PACKED < part.file_size for part in parts):
        raise BadTable(
            "The spreadsheet is packed more tightly than any table is. Save it as CSV UTF-8."
        )


def _text(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, datetime):
        return value.date().isoformat()
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, float) and value.is_integer():
        return str(int(value))
    return str(value)


def _table(lines: list[list[str]], most: int) -> Table:
    rows = [(n, [cell.strip() for cell in line]) for n, line in enumerate(lines, 1)]
    rows = [(n, cells) for n, cells in rows if any(cells)]
    if not rows:
        raise BadTable("The file is empty.")
    header = _header(rows[0][1])
    if len(rows) - 1 > most:
        raise BadTable(f"More than {most} rows.")
    width = len(header)
    for number, cells in rows:
        _refuse_cells(number, cells)
    for number, cells in rows[1:]:
        if any(cells[width:]):
            raise BadTable(f"Row {number} has more cells than there are columns.")
    return Table(header, [(n, (cells + [""] * width)[:width]) for n, cells in rows[1:]])


def _header(cells: list[str]) -> list[str]:
    """The columns' names, each once; empty ones at the end are no columns."""
    header = [cell.casefold().replace(" ", "_") for cell in cells]
    while header and not header[-1]:
        header.pop()
    if len(header) > MOST_COLUMNS:
        raise BadTable(f"More than {MOST_COLUMNS} columns.")
    doubles = sorted({name for name in header if name and header.count(name) > 1})
    if doubles:
        raise BadTable(f"A column is there twice: {', '.join(doubles)}.")
    return header


def _refuse_cells(number: int, cells: list[str]) -> None:
    """Raise BadTable for a row with a cell that nobody could read or keep."""
    if any(len(cell) > LONGEST_CELL for cell in cells):
        raise BadTable(f"Row {number} has a cell of more than {LONGEST_CELL} letters.")
    if any(unkept(cell, lines=True) for cell in cells):
        raise BadTable(f"Row {number} holds a sign that cannot be kept.")


def safe_cell(value: Any) -> str:
    """A cell that no spreadsheet runs: what starts with = + - @ (or a control sign) gets an
    apostrophe before it.
    """
    text = "" if value is None else str(value)
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


def unsafe_cell(text: str) -> str:
    """The cell as it was before safe_cell."""
    return text[1:] if text[:1] == "'" and text[1:2] in ("=", "+", "-", "@", "\t", "\r") else text


def write_csv(header: list[str], rows: list[list[Any]]) -> str:
    """A table as CSV (RFC 4180), every cell safe."""
    out = StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(header)
    writer.writerows([[safe_cell(cell) for cell in row] for row in rows])
    return out.getvalue()


def write_xlsx(header: list[str], rows: list[list[Any]]) -> bytes:
    """A table as a spreadsheet: numbers as numbers, every text safe."""
    # half a second to import, needed for spreadsheets only
    from openpyxl import Workbook

    book = Workbook(write_only=True)
    sheet = book.create_sheet("Table")
    sheet.append(header)
    for row in rows:
        sheet.append([_plain(cell) for cell in row])
    out = BytesIO()
    book.save(out)
    return out.getvalue()


def _plain(cell: Any) -> Any:
    return cell if cell is None or isinstance(cell, int | float) else safe_cell(cell)
