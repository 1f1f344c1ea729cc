"""The table of a file that was sent, or of what was pasted (or is sent back by a preview)."""

from django.http import HttpRequest

from drill_ladder.formats.tables import LARGEST, MOST_ROWS, Table, read_table, write_csv


def table_of(request: HttpRequest, most_rows: int = MOST_ROWS) -> Table:
    """Raises BadTable."""
    upload = request.FILES.get("file")
    if upload:
        return read_table(upload.read(LARGEST + 1), upload.name or "", most_rows)
    return read_table(request.POST.get("text", "").encode(), "pasted", most_rows)


def kept(table: Table) -> str:
    """The table as text, so that the second step needs no file; its rows keep their order."""
    return write_csv(table.header, [cells for _, cells in table.rows])
