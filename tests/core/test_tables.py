"""Tables in the dialects that people have, and cells that no spreadsheet runs (RFC 4180 for the CSV)."""

import csv
from datetime import date, datetime
from io import BytesIO, StringIO

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import Workbook

from drill_ladder.formats.tables import BadTable, read_table, safe_cell, unsafe_cell, write_csv

ROWS = [["Ida", "12, hockey"], ["Bo", 'says "hi"'], ["Äda", "two\nlines"]]


def csv_of(delimiter=",", bom="", end="\r\n"):
    out = StringIO(newline="")
    csv.writer(out, delimiter=delimiter, lineterminator=end).writerows([["Name", "Home Space"], *ROWS])
    return (bom + out.getvalue()).encode()


def sheet(*rows):
    book = Workbook()
    for row in rows:
        book.active.append(row)
    out = BytesIO()
    book.save(out)
    return out.getvalue()


@pytest.mark.parametrize("delimiter", [",", ";", "\t"])
@pytest.mark.parametrize("bom", ["", "\ufeff"])
@pytest.mark.parametrize("end", ["\r\n", "\n"])
def test_every_dialect_reads_the_same(delimiter, bom, end):
    found = read_table(csv_of(delimiter, bom, end), "x.csv")
    assert found.header == ["name", "home_space"]
    assert [cells for _, cells in found.rows] == ROWS


def test_a_spreadsheet_reads_as_text():
    data = sheet(
        ["Name", "Birth month", "Pace"], ["Ida", datetime(2014, 6, 1), 70.0], [None] * 3, ["Bo", date(2013, 1, 1), 0.5]
    )
    found = read_table(data, "x.xlsx")
    assert found.header == ["name", "birth_month", "pace"]
    assert found.rows == [(2, ["Ida", "2014-06-01", "70"]), (4, ["Bo", "2013-01-01", "0.5"])]


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"  \n \n", "empty"),
        (b"\xff\xfe\x00", "not UTF-8"),
        (b"a\x00b", "no text"),
        (b"a,a\n1,2", "twice: a"),
        (b"a,b\n1,2,3", "Row 2 has more cells"),
        (b'a\n"open', "not a table"),
        (b"PK\x03\x04 no zip at all", "cannot be read"),
        (b"x" * 2_000_001, "larger than 2 MB"),
        (("a\n" + "1\n" * 2001).encode(), "More than 2000 rows"),
        ((",".join(str(i) for i in range(70)) + "\n1").encode(), "More than 60 columns"),
    ],
)
def test_what_is_no_table_is_said(data, words):
    with pytest.raises(BadTable, match=words):
        read_table(data, "x")


def test_short_rows_are_filled_and_empty_ones_left_out():
    found = read_table(b"a,b,\n1\n\n,2\n", "x")
    assert (found.header, found.rows) == (["a", "b"], [(2, ["1", ""]), (4, ["", "2"])])


@pytest.mark.parametrize("text", ["=1+1", "+44 1632", "-5", "@me", "\tx"])
def test_a_cell_that_a_spreadsheet_would_run_is_written_as_text(text):
    assert safe_cell(text) == f"'{text}"
    assert unsafe_cell(safe_cell(text)) == text


CELL = st.text(st.characters(exclude_categories=["Cs", "Cc", "Zs", "Zl", "Zp"]), min_size=1)


@given(st.lists(st.lists(CELL.filter(lambda t: not t.startswith("'")), min_size=2, max_size=2), min_size=1))
def test_what_is_written_is_read_again(rows):
    found = read_table(write_csv(["a", "b"], rows).encode(), "x.csv")
    assert [[unsafe_cell(cell) for cell in cells] for _, cells in found.rows] == rows
