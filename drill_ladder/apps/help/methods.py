"""docs/methods.md as a page of the program."""

from functools import cache
from itertools import pairwise
from pathlib import Path

from django.utils.text import slugify
from markdown_it import MarkdownIt
from markdown_it.token import Token

FILE = Path(__file__).resolve().parents[3] / "docs" / "methods.md"


@cache
def methods_page() -> tuple[str, list[tuple[str, str]]]:
    """(HTML, [(anchor, heading)]); the file is ours, and comes with the program."""
    reader = MarkdownIt("commonmark", {"html": False}).enable("table")
    tokens = reader.parse(FILE.read_text())
    headings = list(_headings(tokens))
    html: str = reader.renderer.render(_as_page(tokens), reader.options, {})
    return html, headings


def _headings(tokens: list[Token]) -> list[tuple[str, str]]:
    """Each section gets an anchor."""
    headings = []
    for opened, text in pairwise(tokens):
        if opened.type == "heading_open" and opened.tag == "h2":
            anchor = slugify(text.content)
            opened.attrSet("id", anchor)
            headings.append((anchor, text.content))
    return headings


def _as_page(tokens: list[Token]) -> list[Token]:
    """Without the title, which the page has, and without marks of the one who makes the table; what
    a column of numbers looks like is said by a class, as the page allows no styles of its own.
    """
    for one in tokens:
        if one.attrs.pop("style", None):
            one.attrSet("class", "figures")
        if one.type == "table_open":
            one.attrSet("tabindex", "0")  # a wide one is scrolled by keys too
    return [token for token in tokens[3:] if not token.content.startswith("<!--")]
