"""Scores over time: a mark a day, the target, and the trend with its band."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from math import ceil, floor, log10

from drill_ladder.charts.svg import drawing, fixed, line, tag, words

WIDTH, HEIGHT = 480.0, 230.0
LEFT, RIGHT, TOP, BOTTOM = 58.0, 58.0, 16.0, 34.0
LETTER = 6.6  # of the scale on its left
ROUND = 4.5


@dataclass(frozen=True, slots=True)
class Point:
    """A day's score. apart: done another way, so that it is shown and not joined; said: in words;
    heard: counted by ear, and a square.
    """

    on: date
    score: float
    apart: bool = False
    said: str = ""
    heard: bool = False


@dataclass(frozen=True, slots=True)
class Line:
    """A trend through the points: score a week, with the ends of its interval."""

    slope: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class _Scale:
    first: date
    days: int
    low: float
    high: float
    left: float

    @property
    def steps(self) -> list[float]:
        """The values that are written beside it: a few, multiples of 1, 2 or 5 of some size."""
        size = 10.0 ** floor(log10((self.high - self.low) / 2))
        step = next(n * size for n in (5, 2, 1) if n * size <= (self.high - self.low) / 2)
        first, last = ceil(self.low / step - 1e-9), floor(self.high / step + 1e-9)
        return [n * step for n in range(first, last + 1)]

    def x(self, on: date) -> float:
        return self.x_at((on - self.first).days)

    def x_at(self, day: float) -> float:
        return self.left + 10 + day / self.days * (WIDTH - self.left - RIGHT - 20)

    def inside(self, score: float) -> float:
        """Where a score stands, at the edge where it would be outside."""
        return self.y(min(max(score, self.low), self.high))

    def y(self, score: float) -> float:
        share = (score - self.low) / (self.high - self.low)
        return HEIGHT - BOTTOM - share * (HEIGHT - TOP - BOTTOM)


def scores(
    points: Sequence[Point],
    target: float | None,
    trend: Line | None,
    said: Callable[[float], str],
    title: str,
    returns: Sequence[date] = (),
) -> str:
    """SVG. points: at least one, by day; target: in the same unit; said: a score in words; returns:
    days on which the player came back to the rung.
    """
    scale = _scale(points, target, said)
    parts = [*_grid(scale, said)]
    if trend is not None:
        parts += _trend(scale, points, trend)
    if target is not None:
        parts.append(
            line(scale.left, scale.y(target), WIDTH - RIGHT, scale.y(target), "score-target")
        )
        parts.append(words(WIDTH - RIGHT + 9, scale.y(target) + 4, "target", "axis", "start"))
    parts += [_return(scale, on) for on in returns]
    parts += [_mark(scale, point) for point in points]
    parts += _ends(scale, points)
    return drawing(WIDTH, HEIGHT, title, parts, "score-chart")


def _scale(points: Sequence[Point], target: float | None, said: Callable[[float], str]) -> _Scale:
    values = [point.score for point in points] + ([target] if target is not None else [])
    low, high = min(values), max(values)
    room = (high - low) * 0.12 or abs(high) * 0.1 or 1.0
    first, last = points[0].on, points[-1].on
    bottom = max(0.0, low - room) if low >= 0 else low - room
    scale = _Scale(first, max(1, (last - first).days), bottom, high + room, LEFT)
    longest = max(len(said(value)) for value in scale.steps)
    return replace(scale, left=max(LEFT, 16 + LETTER * longest))


def _grid(scale: _Scale, said: Callable[[float], str]) -> list[str]:
    parts = []
    left, right = scale.left, WIDTH - RIGHT
    for value in scale.steps:
        parts.append(line(left, scale.y(value), right, scale.y(value), "rung-ahead"))
        parts.append(words(left - 8, scale.y(value) + 4, said(value), "axis", "end"))
    parts += [line(x, TOP - 6, x, HEIGHT - BOTTOM + 2, "rail-line") for x in (left, right)]
    return parts


def _trend(scale: _Scale, points: Sequence[Point], trend: Line) -> list[str]:
    """The line through the middle of the points that it is of, and its band."""
    joined = [p for p in points if not p.apart]
    days = sorted((p.on - scale.first).days for p in joined)
    values = sorted(p.score for p in joined)
    middle, level = days[len(days) // 2], values[len(values) // 2]
    weeks = [(day - middle) / 7 for day in (days[0], days[-1])]
    ends = [(scale.x_at(day), week) for day, week in zip((days[0], days[-1]), weeks, strict=True)]

    def at(slope: float) -> list[tuple[float, float]]:
        return [(x, scale.inside(level + slope * week)) for x, week in ends]

    low, high = at(trend.low), at(trend.high)
    band = [low[0], high[0], (scale.x_at(middle), scale.y(level)), high[1], low[1]]
    corners = " ".join(f"{fixed(x)},{fixed(y)}" for x, y in band)
    (x1, y1), (x2, y2) = at(trend.slope)
    return [
        tag("polygon", points=corners, class_="score-band"),
        line(x1, y1, x2, y2, "score-trend"),
    ]


def _mark(scale: _Scale, point: Point) -> str:
    class_ = "score-apart" if point.apart else "score-point"
    x, y, said = scale.x(point.on), scale.y(point.score), tag("title", point.said)
    if point.heard:
        side = 2 * ROUND
        at = {"x": x - ROUND, "y": y - ROUND, "width": side, "height": side, "class_": class_}
        return tag("rect", said, **at)
    return tag("circle", said if point.said else "", cx=x, cy=y, r=ROUND, class_=class_)


def _return(scale: _Scale, on: date) -> str:
    """A break: what is on its left was an earlier time on the rung."""
    x = scale.x(on) - 8
    return line(x, TOP - 6, x, HEIGHT - BOTTOM + 2, "score-return")


def _ends(scale: _Scale, points: Sequence[Point]) -> list[str]:
    first, last = points[0].on, points[-1].on
    y = HEIGHT - 10
    parts = [words(scale.x(first), y, f"{first:%-d %b}", "axis", "start")]
    if last != first:
        parts.append(words(scale.x(last), y, f"{last:%-d %b}", "axis", "end"))
    return parts
