"""The climb chart: rungs over weeks, every session a mark, every move a step."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from math import inf

from drill_ladder.charts.svg import drawing, line, tag, words

LEFT, RIGHT, TOP, BOTTOM = 34.0, 14.0, 16.0, 30.0


@dataclass(frozen=True, slots=True)
class Stay:
    """Time on a rung: its position from 1, the first day, the last day (None: still there), and how
    it was reached.
    """

    position: int
    arrived: date
    left: date | None
    how: str


@dataclass(frozen=True, slots=True)
class Mark:
    """One session: its day, rung and verdict."""

    on: date
    position: int
    verdict: str


@dataclass(frozen=True, slots=True)
class _Scale:
    first: date
    days: int
    rungs: int
    width: float
    step: float

    def x(self, on: date) -> float:
        return LEFT + 12 + (on - self.first).days / self.days * (self.width - LEFT - RIGHT - 24)

    def y(self, position: int) -> float:
        return TOP + (self.rungs - position) * self.step + 20


def climb(
    rungs: int,
    stays: Sequence[Stay],
    marks: Sequence[Mark],
    until: date,
    width: float = 640,
    step: float = 34,
    since: date | None = None,
) -> str:
    """SVG of a climb; stays in order, at least one. until: the last day drawn; since: the
    first one, before which marks and steps are left out.
    """
    if since is not None:
        marks = [mark for mark in marks if mark.on >= since]
        stays = _from(stays, since)
    first = min(stay.arrived for stay in stays)
    scale = _Scale(first, max(14, (until - first).days), rungs, width, step)
    height = TOP + rungs * step + BOTTOM
    parts = [
        *_grid(scale, height),
        *_steps(scale, stays, until),
        *(_mark(scale, mark) for mark in marks),
    ]
    last = stays[-1]
    title = (
        f"From rung {stays[0].position} to rung {last.position} of {rungs}, {len(marks)} sessions"
    )
    return drawing(width, height, title, parts, "climb-chart")


def _from(stays: Sequence[Stay], since: date) -> list[Stay]:
    """What is left of them from a day on; where the player stood last, if nothing is."""
    later = [s for s in stays if s.left is None or s.left >= since] or stays[-1:]
    return [replace(s, arrived=max(s.arrived, since)) for s in later]


def _grid(scale: _Scale, height: float) -> list[str]:
    right = scale.width - RIGHT
    parts = []
    for position in range(1, scale.rungs + 1):
        parts.append(line(LEFT, scale.y(position), right, scale.y(position), "rung-ahead"))
        parts.append(words(LEFT - 10, scale.y(position) + 4.5, position, "axis", "end"))
    for x in (LEFT, right):
        parts.append(line(x, TOP - 6, x, height - BOTTOM + 4, "rail-line"))
    return parts + _weeks(scale, height)


def _weeks(scale: _Scale, height: float) -> list[str]:
    """Mondays, as many as there is room to read."""
    every = next(weeks for most, weeks in ((35, 1), (84, 2), (inf, 4)) if scale.days <= most)
    monday = scale.first + timedelta(days=-scale.first.weekday() % 7)
    parts = []
    while (monday - scale.first).days <= scale.days:
        x = scale.x(monday)
        parts.append(line(x, height - BOTTOM + 4, x, height - BOTTOM + 9, "axis-tick"))
        parts.append(words(x, height - 8, f"{monday.day} {monday:%b}", "axis", "middle"))
        monday += timedelta(weeks=every)
    return parts


def _steps(scale: _Scale, stays: Sequence[Stay], until: date) -> list[str]:
    points, parts = [], []
    for stay in stays:
        y = scale.y(stay.position)
        points += [(scale.x(stay.arrived), y), (scale.x(stay.left or until), y)]
    path = " ".join(f"{x:.2f},{y:.2f}" for x, y in points)
    parts.append(tag("polyline", points=path, class_="climb-line"))
    x, y = points[-1]
    if stays[-1].left is None:
        parts.append(tag("circle", cx=x, cy=y, r=5.0, class_="marker"))
    return parts


def _mark(scale: _Scale, mark: Mark) -> str:
    """Marks stand on their rung like tally strokes: full for a pass, half for near, a dash for low,
    a dot for short.
    """
    x, y = scale.x(mark.on), scale.y(mark.position)
    match mark.verdict:
        case "pass":
            return line(x + 0.8, y - 18, x - 0.8, y - 3, "stroke-good")
        case "near":
            return line(x + 0.4, y - 11, x - 0.4, y - 3, "stroke-near")
        case "low":
            return line(x - 2.6, y - 5, x + 2.6, y - 5, "stroke-low")
        case _:
            return tag("circle", cx=x, cy=y - 5, r=1.5, class_="stroke-short")
