"""How many, week by week, with the band in which eight of ten simulated terms lie."""

from collections.abc import Sequence
from dataclasses import dataclass

from drill_ladder.charts.svg import drawing, fixed, line, tag, words

WIDTH, HEIGHT = 480.0, 230.0
LEFT, RIGHT, TOP, BOTTOM = 42.0, 76.0, 16.0, 40.0


@dataclass(frozen=True, slots=True)
class Week:
    """So many weeks from now: 10, 50 and 90 % of a count."""

    week: int
    low: int
    middle: int
    high: int


def fan(weeks: Sequence[Week], of: int, title: str) -> str:
    """SVG. weeks: from 0, at least two; of: the most there can be."""
    last = weeks[-1].week

    def at(week: float, count: float) -> str:
        return f"{fixed(_x(week, last))},{fixed(_y(count, of))}"

    band = [at(w.week, w.high) for w in weeks] + [at(w.week, w.low) for w in reversed(weeks)]
    middle = " ".join(at(w.week, w.middle) for w in weeks)
    parts = [
        *_frame(of, last),
        tag("polygon", points=" ".join(band), class_="score-band"),
        tag("polyline", points=middle, class_="score-trend", fill="none"),
        *_legend(weeks[-1], of, last),
    ]
    return drawing(WIDTH, HEIGHT, title, parts, "score-chart")


def _x(week: float, last: int) -> float:
    return LEFT + week / max(1, last) * (WIDTH - LEFT - RIGHT)


def _y(count: float, of: int) -> float:
    return HEIGHT - BOTTOM - count / max(1, of) * (HEIGHT - TOP - BOTTOM)


def _frame(of: int, last: int) -> list[str]:
    parts = []
    for count in sorted({0, of // 2, of}):
        parts.append(line(LEFT, _y(count, of), WIDTH - RIGHT, _y(count, of), "rung-ahead"))
        parts.append(words(LEFT - 8, _y(count, of) + 4, count, "axis", "end"))
    for x in (LEFT, WIDTH - RIGHT):
        parts.append(line(x, TOP - 6, x, HEIGHT - BOTTOM + 2, "rail-line"))
    for week in sorted({0, last // 2, last}):
        name = "now" if week == 0 else f"week {week}"
        parts.append(words(_x(week, last), HEIGHT - 16, name, "axis", "middle"))
    return parts


def _legend(end: Week, of: int, last: int) -> list[str]:
    """The last numbers, beside the line; once where they are one."""
    x = _x(end.week, last) + 8
    said = {end.high: "(90 %)", end.low: "(10 %)", end.middle: "likely"}
    return [
        words(x, _y(count, of) + 4, f"{count} {name}", "axis", "start")
        for count, name in said.items()
    ]
