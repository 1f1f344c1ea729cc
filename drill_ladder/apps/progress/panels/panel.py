"""A question on a page that looks back."""

from collections.abc import Iterable
from dataclasses import dataclass, field

from django.http import Http404, HttpResponse

from drill_ladder.charts.paper import as_file
from drill_ladder.ui.pages import TABLES, attachment, table_file


@dataclass(frozen=True, slots=True)
class Panel:
    """A question with its answer. lines: sentences, the first one is the answer; svg: the picture;
    head, rows: its numbers; open: whether they are shown at once; beside: another picture of them.
    """

    key: str
    title: str
    lines: list[str]
    svg: str = ""
    head: list[str] = field(default_factory=list)
    rows: list[list[str]] = field(default_factory=list)
    open: bool = False
    beside: str = ""

    @property
    def kind(self) -> str:
        """How wide it stands: one that shows its table takes the whole row."""
        return "wide" if self.open else ""


def file_of(panels: Iterable[Panel], key: str, kind: str, name: str) -> HttpResponse:
    """One panel's picture as svg, or its numbers as csv or xlsx, to be kept under a name. Raises
    Http404 where there is none.
    """
    one = next((panel for panel in panels if panel.key == key), None)
    held = {"svg": one.svg, **dict.fromkeys(TABLES, one.rows)} if one else {}
    if one is None or not held.get(kind):
        raise Http404
    if kind == "svg":
        return attachment(as_file(one.svg), "image/svg+xml", f"{name}.svg")
    return table_file(one.head, one.rows, kind, name)
