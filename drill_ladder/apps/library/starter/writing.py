"""How the starter library is written: drills, rungs and targets in the file format."""

from typing import Any

from drill_ladder.core.plans import SHAPES

SIDES = ["left", "right"]
ROOM = "Three metres free all round, an even floor, nobody behind you."
FRESH = "Only when fresh and warm; stop when a round gets clearly slower."
ROW_2, ONE = {"school": "in_a_row", "passes": 2}, {"school": "one_pass"}
WINDOW = {"school": "window", "passes": 2, "of": 3}
MAKES = {"kind": "makes"}


def plan(shape: str, way: str = "", **numbers: float) -> dict[str, Any]:
    """A floor plan by one of the shapes. numbers: of the shape, metres and degrees."""
    shape_of = SHAPES[shape]
    markers, legs = shape_of.make(**{**shape_of.numbers, **numbers})
    return {
        "units": "m",
        "markers": [{"id": key, "x": x, "y": y} for key, (x, y) in markers.items()],
        "legs": [{"from": a, "to": b, "way": way} for a, b in legs],
        "margin": 1,
    }


def drill(
    title: str,
    skill: str,
    purpose: str,
    how: str,
    cues: list[str],
    faults: list[str],
    measure: dict[str, Any],
    **more: Any,
) -> dict[str, Any]:
    """A drill, for home alone unless something else is said."""
    words = {"purpose": purpose, "how": how, "cues": cues, "faults": faults, "measure": measure}
    return {
        "title": title,
        "skill": skill,
        **words,
        "caution": "home_alone",
        "caution_note": ROOM,
        **more,
    }


def rung(
    of_drill: str,
    title: str,
    changes: str,
    axis: str,
    dose: dict[str, Any],
    target: dict[str, Any],
    **more: Any,
) -> dict[str, Any]:
    """A rung of a drill, by its title. axis: what makes it harder, "" for the first."""
    return {
        "drill": of_drill,
        "title": title,
        "changes": changes,
        "axis": [axis] if axis else [],
        "dose": dose,
        "target": target,
        **more,
    }


def steps(
    of_drill: str,
    dose: dict[str, Any],
    rungs: list[tuple[str, str, str, dict[str, Any]]],
    **more: Any,
) -> list[dict[str, Any]]:
    """Rungs of one drill and dose: (title, what changes, axis, target)."""
    return [
        rung(of_drill, title, changes, axis, dose, target, **more)
        for title, changes, axis, target in rungs
    ]


def of(makes: int, attempts: int = 10, each: bool = True) -> dict[str, Any]:
    """A target in good ones. each: in each lane."""
    return {"makes": makes, "of": attempts, "each_lane": each}


def to(value: float) -> dict[str, Any]:
    """A target in the measure's unit."""
    return {"value": value}
