"""Shares with their intervals, one under the other: lanes, faults, feeders; and bars by week."""

from collections.abc import Sequence
from dataclasses import dataclass

from drill_ladder.charts.svg import drawing, line, rect, tag, words

WIDTH, NAMES, RIGHT, ROW, TOP = 460.0, 150.0, 82.0, 34.0, 12.0
WEEK, BAR_TOP, BAR_HEIGHT, BAR_FOOT = 46.0, 22.0, 110.0, 26.0


@dataclass(frozen=True, slots=True)
class Rate:
    """A named share 0..1 with the ends of its interval (None: not known), and the words of it."""

    name: str
    rate: float
    low: float | None
    high: float | None
    said: str


def rates(rows: Sequence[Rate], title: str) -> str:
    """SVG of shares: a dot with its interval each."""
    height = TOP + ROW * len(rows) + 26
    parts = [*_frame(height)]
    for number, one in enumerate(rows):
        parts += _row(one, TOP + ROW * (number + 0.5))
    return drawing(WIDTH, height, title, parts, "rate-chart")


def _x(rate: float) -> float:
    return NAMES + rate * (WIDTH - NAMES - RIGHT)


def _frame(height: float) -> list[str]:
    parts = []
    for quarter in range(5):
        x = _x(quarter / 4)
        parts.append(line(x, TOP, x, height - 22, "rung-ahead"))
        parts.append(words(x, height - 6, f"{quarter * 25}\u00a0%", "axis", "middle"))
    return parts


def _row(one: Rate, y: float) -> list[str]:
    parts = [words(NAMES - 12, y + 5, one.name, "rate-name", "end")]
    if one.low is not None and one.high is not None:
        parts.append(line(_x(one.low), y, _x(one.high), y, "rate-interval"))
    parts.append(tag("circle", cx=_x(one.rate), cy=y, r=6.0, class_="score-point"))
    parts.append(words(WIDTH - RIGHT + 12, y + 5, one.said, "axis", "start"))
    return parts


@dataclass(frozen=True, slots=True)
class Bar:
    """A week: what was done, against what was wanted (None: nothing was); words under it."""

    name: str
    value: float
    wanted: float | None = None
    said: str = ""


def bars(rows: Sequence[Bar], title: str) -> str:
    """SVG of weeks as bars; what was wanted is a frame around what was done."""
    most = max([1.0, *(bar.value for bar in rows), *(bar.wanted or 0.0 for bar in rows)])
    width = max(200.0, WEEK * len(rows) + 24)
    floor = BAR_TOP + BAR_HEIGHT
    parts = [line(8, floor, width - 8, floor, "rail-line")]
    for number, bar in enumerate(rows):
        x = 16 + number * WEEK
        if bar.wanted:
            high = bar.wanted / most * BAR_HEIGHT
            parts.append(rect(x, floor - high, WEEK - 14, high, "bar-wanted", 3))
        high = bar.value / most * BAR_HEIGHT
        if high:
            parts.append(rect(x + 3, floor - high, WEEK - 20, high, "bar-done", 2))
        at = max(bar.value, bar.wanted or 0.0) / most * BAR_HEIGHT
        parts.append(words(x + WEEK / 2 - 7, floor - at - 6, bar.said, "axis", "middle"))
        parts.append(words(x + WEEK / 2 - 7, floor + 18, bar.name, "axis", "middle"))
    return drawing(width, floor + BAR_FOOT, title, parts, "bar-chart")


SMALL, SMALL_HEIGHT = 9.0, 30.0


def strip(rows: Sequence[Bar], title: str) -> str:
    """SVG of weeks as small bars without words, to stand under each other."""
    most = max([1.0, *(bar.value for bar in rows), *(bar.wanted or 0.0 for bar in rows)])
    floor = SMALL_HEIGHT - 2
    width = SMALL * len(rows) + 2
    parts = [line(0, floor, width, floor, "rail-line")]
    for number, bar in enumerate(rows):
        x = 2 + number * SMALL
        for value, look in ((bar.wanted or 0.0, "bar-wanted"), (bar.value, "bar-done")):
            high = value / most * (floor - 3)
            if high:
                parts.append(rect(x, floor - high, SMALL - 2, high, look, 1))
    return drawing(width, SMALL_HEIGHT, title, parts, "week-strip")
