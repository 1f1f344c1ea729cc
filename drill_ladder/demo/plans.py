"""Floor plans of the demo's drills, in metres: x to the right, y ahead."""

from typing import Any

Pairs = list[tuple[str, str]]


def plan(
    markers: dict[str, tuple[float, float]],
    legs: Pairs | None = None,
    way: str = "",
    ball: Pairs | None = None,
    feed: Pairs | None = None,
    zones: dict[str, list[list[float]]] | None = None,
) -> dict[str, Any]:
    """A plan in the open format."""
    paths = [(a, b, "ball") for a, b in ball or []] + [(a, b, "feed") for a, b in feed or []]
    return {
        "units": "m",
        "markers": [{"id": name, "x": x, "y": y} for name, (x, y) in markers.items()],
        "legs": [{"from": a, "to": b, "way": way, "do": ""} for a, b in legs or []],
        "paths": [{"from": a, "to": b, "kind": kind} for a, b, kind in paths],
        "zones": [{"id": name, "points": points} for name, points in (zones or {}).items()],
        "margin": 1,
    }


def box(x: float, y: float, width: float, depth: float) -> list[list[float]]:
    """A rectangle from its near left corner."""
    return [[x, y], [x + width, y], [x + width, y + depth], [x, y + depth]]


GATES = {"left gate": box(-2.4, 3.8, 1.0, 0.4), "right gate": box(1.4, 3.8, 1.0, 0.4)}
COURT = {"left court": box(-1.4, 4.0, 1.3, 0.9), "right court": box(0.1, 4.0, 1.3, 0.9)}
CONES = {str(i): (0.0, float(i)) for i in range(1, 7)}
CORNERS = {
    "M": (0.0, 0.0),
    "1": (-2.0, 2.0),
    "2": (2.0, 2.0),
    "3": (2.2, 0.0),
    "4": (2.0, -2.2),
    "5": (-2.0, -2.2),
    "6": (-2.2, 0.0),
}

PLANS: dict[str, dict[str, Any]] = {
    "Push pass, ball at rest": plan(
        {"A": (0, 0), "L": (-1.9, 4), "R": (1.9, 4)}, ball=[("A", "L"), ("A", "R")], zones=GATES
    ),
    "Push pass on the move": plan(
        {"A": (0, -2), "B": (0, 0), "L": (-1.9, 4), "R": (1.9, 4)},
        [("A", "B")],
        "carry",
        ball=[("B", "L"), ("B", "R")],
        zones=GATES,
    ),
    "Push pass, moving gate": plan(
        {"A": (0, -2), "B": (0, 0), "H": (0, 4.6), "L": (-1.9, 4), "R": (1.9, 4)},
        [("A", "B")],
        "carry",
        ball=[("B", "L"), ("B", "R")],
        zones=GATES,
    ),
    "Reverse-stick stop": plan({"A": (0, 0), "W": (-1, 3)}, ball=[("A", "W")], feed=[("W", "A")]),
    "Wall pass and trap": plan({"A": (0, 0), "W": (0, 3)}, ball=[("A", "W")], feed=[("W", "A")]),
    "Cone dribble": plan({"A": (0, 0), **CONES, "B": (0, 7)}, [("A", "B"), ("B", "A")], "carry"),
    "Block tackle": plan({"A": (0, 0), "D": (0, 5)}, [("A", "D")], "carry", zones={"lane": box(-1.5, -0.5, 3, 6)}),
    "Low serve to the box": plan(
        {"A": (0, 0), "L": (-0.75, 4.4), "R": (0.75, 4.4)}, ball=[("A", "L"), ("A", "R")], zones=COURT
    ),
    "Low serve after a sprint": plan(
        {"A": (0, 0), "B": (0, -3), "L": (-0.75, 4.4), "R": (0.75, 4.4)},
        [("A", "B"), ("B", "A")],
        "sprint",
        ball=[("A", "L"), ("A", "R")],
        zones=COURT,
    ),
    "Overhead clear": plan(
        {"A": (0, 0), "H": (0, 7), "F": (1.9, -0.8), "B": (-1.9, -0.8)},
        [("A", "F"), ("F", "A"), ("A", "B"), ("B", "A")],
        "chasse",
        feed=[("H", "F"), ("H", "B")],
        zones={"back box": box(-2.5, 11, 5, 1.2)},
    ),
    "Six-corner footwork": plan(CORNERS, [leg for corner in "123456" for leg in (("M", corner), (corner, "M"))]),
}
