"""What a page or a method may read, and a sentence for each that reads more."""

from collections.abc import Iterator

from scripts.bounds.asking import Asked
from scripts.bounds.pages import Page, Scene, pages
from scripts.bounds.reading import Read

# Two clubs of the same size stand beside: whoever reads theirs too reads three times as much. The
# database may take another way to the same rows, so twice is no proof yet.
TIMES, SPARE = 2, 120
ALL = 2.5  # times a club's rows, as methods are asked twice where more comes with their rows
WHOLE = 0.6  # of a club's rows of a table: as good as all


def broken(at: Scene, alone: Asked, beside: Asked, large: dict[str, int]) -> list[str]:
    """A sentence for each. large: growing table -> rows of the club in it."""
    found = []
    for page in pages(at):
        found += of_page(page, alone.pages[page.name], beside.pages[page.name], large)
    for name, was in alone.methods.items():
        # all that the club has is no other club's: what narrows it comes from whoever asks
        of_all = {table: rows * ALL for table, rows in large.items()}
        found += _others(name, was, beside.methods[name], of_all)
    return found


def of_page(page: Page, alone: Read, beside: Read, large: dict[str, int]) -> list[str]:
    """What is wrong with one."""
    found = list(_others(page.name, alone, beside, dict.fromkeys(large, 0)))
    if beside.questions > page.questions:
        found.append(f"{page.name} asks {beside.questions} questions, allowed are {page.questions}")
    if beside.blocks > page.blocks:
        found.append(f"{page.name} reads {beside.blocks} blocks, allowed are {page.blocks}")
    for table, rows in beside.rows.items():
        if table in page.whole or table not in large or rows < WHOLE * large[table]:
            continue
        what = f"{page.name} reads {rows} rows of {table}, of which the club has {large[table]}"
        found.append(what + _by(beside, table))
    return found


def _others(name: str, alone: Read, beside: Read, least: dict[str, float]) -> Iterator[str]:
    """least: growing table -> rows that are no fault."""
    for table, rows in beside.rows.items():
        if rows > max(TIMES * alone.rows[table] + SPARE, least.get(table, rows)):
            what = (
                f"{name} reads {rows} rows of {table} beside other clubs, {alone.rows[table]} alone"
            )
            yield what + _by(beside, table)


def _by(beside: Read, table: str) -> str:
    return f": {beside.worst[table][1][:400]}"
