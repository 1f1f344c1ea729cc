"""Write docs/rung_fields.md anew: every field of a rung as its table tells it, and which files
read it besides.

Usage: scripts/rung_fields.py (with --check: say whether it is the one of now)
"""

import ast
import re
import sys
from functools import cache
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from drill_ladder.formats.rung_fields import FIELDS, RungField

PAGE = ROOT / "docs" / "rung_fields.md"
HOUSE = ROOT / "drill_ladder"
TABLE = "formats/rung_fields.py"
PLACES = {"numbers": "with the numbers", "ease": "beside the easing", "more": "in the folded part"}
# columns with another name than the field
COLUMNS = {"dose": "dose", "target": "target"}
HEAD = """# The fields of a rung

Written by `scripts/rung_fields.py` from `drill_ladder/formats/rung_fields.py`, held to be of now by
`./ladder check`. A field beside dose and target is a row of that table, an attribute in
`core/judging/ladders.py` and a column in `apps/library/models.py` with its migration; builder,
card, run, log, routine, hall, paper, file, differences and API read the row. What reads it from
a rung besides, reckons with it.

| field | in the builder | holds | is said to | read from a rung in |
|---|---|---|---|---|
"""


def holds(field: RungField) -> str:
    """Its kind and bounds, in words."""
    bounds = [f"over {field.above:g}"] if field.above is not None else []
    if field.above is None and field.low:
        bounds.append(f"from {field.low:g}")
    most = field.most or field.high
    if most:
        bounds.append(f"to {most:g}")
    if field.only:
        bounds.append("where good ones are counted" if field.only == "makes" else "elsewhere")
    if field.choices:
        bounds.append(" / ".join(words for _, words in field.choices))
    return f"{field.kind.value}{': ' if bounds else ''}{', '.join(bounds)}"


def says(field: RungField) -> str:
    """Who is told of it."""
    if field.part in COLUMNS or field.says is None:
        return "with dose and target" if field.part else "where it is reckoned with"
    return "player and coach" if field.for_player else "the coach"


def read_in(field: RungField) -> list[str]:
    """The files of the house that read it from something they call a rung."""
    always = {TABLE, "core/judging/ladders.py", "apps/library/models.py"}
    files = sorted(
        str(path.relative_to(HOUSE))
        for path in HOUSE.rglob("*.py")
        if "migrations" not in path.parts and field.path in _read(path)
    )
    return [file for file in files if file not in always]


@cache
def _read(path: Path) -> frozenset[str]:
    """What a file reads from a rung, by the way through it."""
    nodes = (n for n in ast.walk(ast.parse(path.read_text())) if isinstance(n, ast.Attribute))
    reads = (ast.unparse(node) for node in nodes)
    ways = (re.search(r"\brung\.([a-z_.]+)$", read) for read in reads)
    return frozenset(way[1] for way in ways if way)


def page() -> str:
    """The whole page."""
    rows = (
        f"| `{field.path}` | {field.label}, {PLACES[field.where]} | {holds(field)} | {says(field)} "
        f"| {', '.join(f'`{file}`' for file in read_in(field))} |\n"
        for field in FIELDS
    )
    return HEAD + "".join(rows)


def main() -> int:
    """Write the page; with --check say whether it is the one of now."""
    if "--check" not in sys.argv:
        PAGE.write_text(page())
        return 0
    current = PAGE.exists() and PAGE.read_text() == page()
    print("" if current else "docs/rung_fields.md is not of now: scripts/rung_fields.py writes it.")
    return 0 if current else 1


if __name__ == "__main__":
    sys.exit(main())
