"""Tables in the dialects that people have, and cells that no spreadsheet runs (RFC 4180 for the
CSV).
"""

import csv
import random
import tracemalloc
from datetime import date, datetime
from io import BytesIO, StringIO
from zipfile import ZIP_DEFLATED, ZipFile

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import Workbook

from drill_ladder.formats.tables import BadTable, read_table, safe_cell, unsafe_cell, write_csv
from tests.hostile import spoiled_book, spoiled_file

ROWS = [["Ida", "12, hockey"], ["Bo", 'says "hi"'], ["Äda", "two\nlines"]]


def csv_of(delimiter=",", bom="", end="\r\n"):
    out = StringIO(newline="")
    csv.writer(out, delimiter=delimiter, lineterminator=end).writerows(
        [["Name", "Home Space"], *ROWS]
    )
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
        ["Name", "Birth month", "Pace"],
        ["Ida", datetime(2014, 6, 1), 70.0],
        [None] * 3,
        ["Bo", date(2013, 1, 1), 0.5],
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


@given(
    st.lists(
        st.lists(CELL.filter(lambda t: not t.startswith("'")), min_size=2, max_size=2), min_size=1
    )
)
def test_what_is_written_is_read_again(rows):
    found = read_table(write_csv(["a", "b"], rows).encode(), "x.csv")
    assert [[unsafe_cell(cell) for cell in cells] for _, cells in found.rows] == rows


@pytest.mark.parametrize("number", range(300))
def test_a_damaged_spreadsheet_ends_in_one_sentence(number):
    """Parts missing, cut, with other bytes or hostile words in them, and the file itself cut
    anywhere.
    """
    chance = random.Random(number)
    good = sheet(["name", "squad"], ["Bo", "Under 9"])
    data = (
        spoiled_book(chance, good) if number % 3 else b"PK\x03\x04" + spoiled_file(chance, good)[4:]
    )
    said = ""
    try:
        read_table(data, "x.xlsx")
    except BadTable as error:
        said = str(error)
    assert not said or (said.endswith(".") and len(said) < 200)


def bomb(size):
    out = BytesIO()
    with (
        ZipFile(BytesIO(sheet(["name"], ["Bo"]))) as book,
        ZipFile(out, "w", ZIP_DEFLATED) as other,
    ):
        for name in book.namelist():
            data = book.read(name)
            if name == "xl/worksheets/sheet1.xml":
                data = data.replace(b"</sheetData>", b" " * size + b"</sheetData>")
            other.writestr(name, data)
    return out.getvalue()


def test_a_small_file_that_unpacks_into_a_large_one_is_not_unpacked():
    """Fifty megabytes of spaces in fifty kilobytes: refused by what the file says of itself, before
    it is read.
    """
    data = bomb(50_000_000)
    assert len(data) < 100_000
    tracemalloc.start()
    with pytest.raises(BadTable, match="25 MB when it is unpacked"):
        read_table(data, "x.xlsx")
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert peak < 5_000_000
    with pytest.raises(BadTable, match="packed more tightly"):
        read_table(bomb(20_000_000), "x.xlsx")


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"name\n" + b"\n" * 10_000 + b"Bo\n", "More than 2000 rows"),
        (b"name\n" + b"Bo\n" * 2001, "More than 2000 rows"),
        (b",".join(b"c%d" % i for i in range(61)) + b"\nx\n", "More than 60 columns"),
        (b"name\n" + b"x" * 5001 + b"\n", "a cell of more than 5000 letters"),
        (b"name\nB\x0bo\n", "a sign that cannot be kept"),
        ("name\nB\u202eo\n".encode(), "a sign that cannot be kept"),
    ],
)
def test_tables_have_limits_of_their_own(data, words):
    with pytest.raises(BadTable, match=words):
        read_table(data, "x.csv")
