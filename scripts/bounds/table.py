"""The table of what pages read, in docs/performance.md."""

from collections.abc import Collection
from pathlib import Path

from scripts.bounds.asking import Asked
from scripts.bounds.pages import Scene, pages

DOCS = Path(__file__).resolve().parents[2] / "docs/performance.md"
BEGIN, END = "<!-- bounds -->", "<!-- end of bounds -->"
HEAD = (
    "| page | questions | blocks alone | beside two clubs | rows of growing tables | reads all of "
    "|\n|---|---:|---:|---:|---:|---|\n"
)


def put_into_docs(at: Scene, alone: Asked, beside: Asked, large: Collection[str]) -> None:
    """Between its two marks."""
    lines = []
    for page in pages(at):
        was, now = alone.pages[page.name], beside.pages[page.name]
        rows = int(sum(count for table, count in now.rows.items() if table in large))
        whole = "; ".join(f"{table}: {why}" for table, why in page.whole.items())
        counts = f"{now.questions} | {was.blocks} | {now.blocks} | {rows}"
        lines.append(f"| {page.name} | {counts} | {whole} |\n")
    before, rest = DOCS.read_text().split(BEGIN)
    after = rest.split(END)[1]
    DOCS.write_text(f"{before}{BEGIN}\n\n{HEAD}{''.join(lines)}\n{END}{after}")
