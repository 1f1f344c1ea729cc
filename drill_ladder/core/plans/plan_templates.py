"""General shapes of floor plans, computed from a few numbers (docs/methods.md, 17).

Each gives markers {id: (x, y)} in the unit of its numbers, x to the right and y ahead, and legs
(from, to) in order. Plain geometry; the shapes are common practice, no source.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from math import cos, radians, sin

Spot = tuple[float, float]
Markers = dict[str, tuple[float, float]]
Legs = list[tuple[str, str]]


@dataclass(frozen=True, slots=True)
class Shape:
    """A template: its name, its numbers with usual values, and how it is made. passed: the ball
    goes along its legs, and nobody runs them; against: the wall that it needs, by the same numbers.
    """

    name: str
    numbers: Mapping[str, float]
    make: Callable[..., tuple[Markers, Legs]]
    passed: bool = False
    against: Callable[..., tuple[Spot, Spot]] | None = None


def shuttle(length: float) -> tuple[Markers, Legs]:
    """There and back on a straight."""
    return {"A": (0, 0), "B": (0, length)}, [("A", "B"), ("B", "A")]


def tee(length: float, arm: float) -> tuple[Markers, Legs]:
    """Up the stem, to both arms and back."""
    markers: Markers = {"A": (0, 0), "B": (0, length), "C": (-arm, length), "D": (arm, length)}
    return markers, [("A", "B"), ("B", "C"), ("C", "D"), ("D", "B"), ("B", "A")]


def square(side: float) -> tuple[Markers, Legs]:
    """Round four corners."""
    markers: Markers = {"A": (0, 0), "B": (0, side), "C": (side, side), "D": (side, 0)}
    return markers, [("A", "B"), ("B", "C"), ("C", "D"), ("D", "A")]


def box(side: float) -> tuple[Markers, Legs]:
    """A box with its centre: out to each corner and back."""
    half = side / 2
    markers: Markers = {
        "M": (0, 0),
        "A": (-half, half),
        "B": (half, half),
        "C": (half, -half),
        "D": (-half, -half),
    }
    return markers, [leg for corner in "ABCD" for leg in (("M", corner), (corner, "M"))]


def star(points: float, radius: float) -> tuple[Markers, Legs]:
    """n points on a circle around a centre, out and back, clockwise from straight ahead."""
    n = round(points)
    markers: Markers = {"M": (0, 0)}
    for i in range(n):
        angle = radians(360 * i / n)
        markers[str(i + 1)] = (_tidy(radius * sin(angle)), _tidy(radius * cos(angle)))
    return markers, [leg for i in range(1, n + 1) for leg in (("M", str(i)), (str(i), "M"))]


def arc(points: float, radius: float, degrees: float) -> tuple[Markers, Legs]:
    """n points on an arc ahead of a standing place, from left to right."""
    n = round(points)
    markers: Markers = {"M": (0, 0)}
    for i in range(n):
        angle = radians(-degrees / 2 + (degrees * i / (n - 1) if n > 1 else degrees / 2))
        markers[str(i + 1)] = (_tidy(radius * sin(angle)), _tidy(radius * cos(angle)))
    return markers, [("M", str(i)) for i in range(1, n + 1)]


def grid(rows: float, columns: float, spacing: float) -> tuple[Markers, Legs]:
    """Spots in rows and columns, without legs: places to aim at or to step on."""
    names = {}
    for r in range(round(rows)):
        for c in range(round(columns)):
            names[f"{chr(65 + r)}{c + 1}"] = (c * spacing, r * spacing)
    return names, []


def slalom(cones: float, spacing: float) -> tuple[Markers, Legs]:
    """A row of cones, run one after the other."""
    n = round(cones)
    markers: Markers = {str(i + 1): (0, i * spacing) for i in range(n)}
    return markers, [(str(i), str(i + 1)) for i in range(1, n)]


def wall(distance: float, width: float) -> tuple[Markers, Legs]:
    """Two lanes against a wall: from the middle to the left and the right target."""
    markers: Markers = {"M": (0, 0), "L": (-width / 2, distance), "R": (width / 2, distance)}
    return markers, [("M", "L"), ("M", "R")]


def wall_line(distance: float, width: float) -> tuple[Spot, Spot]:
    """The wall behind both targets, half a metre longer on either side."""
    return (-width / 2 - 0.5, distance), (width / 2 + 0.5, distance)


def _tidy(value: float) -> float:
    """Two decimals: nobody sets a cone to the millimetre."""
    return round(value, 2) + 0.0


SHAPES = {
    "shuttle": Shape("Straight shuttle", {"length": 10}, shuttle),
    "tee": Shape("T", {"length": 10, "arm": 5}, tee),
    "square": Shape("Square", {"side": 5}, square),
    "box": Shape("Box with centre", {"side": 6}, box),
    "star": Shape("Star", {"points": 6, "radius": 3}, star),
    "arc": Shape("Arc", {"points": 5, "radius": 4, "degrees": 120}, arc),
    "grid": Shape("Grid", {"rows": 3, "columns": 3, "spacing": 1}, grid),
    "slalom": Shape("Slalom", {"cones": 6, "spacing": 1}, slalom),
    "wall": Shape("Two-lane wall", {"distance": 3, "width": 2}, wall, True, wall_line),
}
