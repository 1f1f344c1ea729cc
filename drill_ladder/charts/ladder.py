"""The ladder glyph: two rails, a rung for each step, the marker on the rung the player stands on.

The same picture in a table row and on a card; as a page the style sheet draws it around the rungs'
own text.
"""

from dataclasses import dataclass
from functools import lru_cache

from drill_ladder.charts.svg import drawing, line, rect, tag, words


@dataclass(frozen=True, slots=True)
class Size:
    """Measures of one size, in pixels. step: between rungs; overhang: of the rails beyond the outer
    rungs.
    """

    width: float
    left: float
    gap: float
    rail: float
    step: float
    overhang: float
    marker: float
    numbers: bool


ROW = Size(width=34, left=5, gap=17, rail=3, step=6.5, overhang=4.5, marker=5, numbers=False)
LARGE = Size(width=150, left=40, gap=64, rail=8, step=34, overhang=17, marker=28, numbers=True)
CARD = Size(width=92, left=24, gap=40, rail=6, step=22, overhang=11, marker=18, numbers=True)


@lru_cache(maxsize=2000)
def glyph(
    rungs: int,
    at: int | None,
    size: Size = ROW,
    finished: bool = False,
    stopped: bool = False,
    risen: int = 0,
) -> str:
    """SVG of a ladder with `rungs` steps; at: the player's rung from 1, None when on none of
    them; risen: from so many rungs below the marker moves up when it is seen. A list of two hundred
    players shows a few shapes again and again: each is drawn once.
    """
    height = (rungs - 1) * size.step + 2 * size.overhang + 2
    x1, x2 = size.left, size.left + size.gap
    parts = [
        rect(x - size.rail / 2, 1, size.rail, height - 2, "rail", size.rail / 2) for x in (x1, x2)
    ]
    for position in range(1, rungs + 1):
        y = height - 1 - size.overhang - (position - 1) * size.step
        parts += _rung(position, y, size, at, finished, risen)
    state = " stopped" if stopped else ""
    return drawing(
        size.width, height, _title(rungs, at, finished, stopped), parts, f"ladder-glyph{state}"
    )


def _rung(
    position: int, y: float, size: Size, at: int | None, finished: bool, risen: int
) -> list[str]:
    x1, x2 = size.left, size.left + size.gap
    if position == at and not finished:
        marker = _marker(position, y, size)
        if not risen:
            return marker
        below = line(x1, y, x2, y, "rung-done")  # bare until the marker has come
        return [below, tag("g", "".join(marker), class_=f"risen risen-{min(risen, 3)}")]
    done = finished or (at is not None and position < at)
    parts = [line(x1, y, x2, y, "rung-done" if done else "rung-ahead")]
    if size.numbers:
        parts.append(words(x1 - 8, y + 4.5, position, "rung-number", "end"))
    return parts


def _marker(position: int, y: float, size: Size) -> list[str]:
    """A tab that sticks out to the right of the rails, so that it is told by its shape too."""
    x1, tip, half = size.left - size.rail / 2, size.width - 1, size.marker / 2
    shoulder = tip - half
    points = " ".join(
        f"{x:.2f},{v:.2f}"
        for x, v in (
            (x1, y - half),
            (shoulder, y - half),
            (tip, y),
            (shoulder, y + half),
            (x1, y + half),
        )
    )
    parts = [tag("polygon", points=points, class_="marker")]
    if size.numbers:
        parts.append(words(size.left + size.gap / 2, y + 5, position, "marker-number", "middle"))
    return parts


def _title(rungs: int, at: int | None, finished: bool, stopped: bool) -> str:
    if finished:
        return f"All {rungs} rungs done"
    if at is None:
        return f"A ladder of {rungs} rungs"
    return f"On rung {at} of {rungs}" + (", resting" if stopped else "")
