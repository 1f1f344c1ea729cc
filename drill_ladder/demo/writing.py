"""Short hands for writing the demo's drills and ladders in the open format."""

from collections.abc import Sequence
from typing import Any

from drill_ladder.core.plans import SHAPES
from drill_ladder.ui.fields import listed

MAKES, STREAK, DONE = {"kind": "makes"}, {"kind": "streak"}, {"kind": "done"}
OVER = {
    "kind": "points",
    "max": 3,
    "landings": [
        {"name": "knee high", "points": 3},
        {"name": "too high", "points": 1},
        {"name": "stick hit", "points": 0},
    ],
}
OUTSIDE = "Check the ground, keep three metres free all round, nobody behind you."
FLOOR = "Warm up first. Shoes that hold; a dry floor."
RACKET = "A grown-up watches. Nobody within two racket lengths; look behind you before every swing."
Pairs = list[tuple[str, str]]
Fault = str | tuple[str, str] | tuple[str, str, str]


def window(seconds: float) -> dict[str, Any]:
    """Repetitions in a window, the best one counts."""
    return {"kind": "count", "window_s": seconds, "score_by": "best"}


def clock(penalty_s: float = 0) -> dict[str, Any]:
    """The best time, with seconds for each fault."""
    return {"kind": "time", "score_by": "best", "fault_penalty_s": penalty_s}


def drill(
    title: str,
    skill: str,
    purpose: str,
    how: str,
    cues: Sequence[str],
    faults: Sequence[Fault],
    measure: dict[str, Any],
    plan: dict[str, Any],
    lanes: str = "",
    tools: str = "",
    **more: Any,
) -> dict[str, Any]:
    """A drill of the file. A fault may be (name, cue) or (name, cue, drill)."""
    told = [(fault,) if isinstance(fault, str) else fault for fault in faults]
    treatments = [
        {"fault": one[0], "cue": one[1], "drill": one[2] if len(one) > 2 else ""}
        for one in told
        if len(one) > 1
    ]
    return {
        "title": title,
        "skill": skill,
        "purpose": purpose,
        "how": how,
        "cues": list(cues),
        "faults": [one[0] for one in told],
        "treatments": treatments,
        "measure": measure,
        "plan": plan,
        "lanes": listed(lanes),
        # a hockey stick has one hand, and a court stays where it is
        "lanes_are": "places" if "stick" in tools or "court" in lanes else "sides",
        "tools": listed(tools),
        "caution": "home_alone",
        "caution_note": OUTSIDE,
        **more,
    }


def way(name: str, loses: str, tools: str = "", **more: Any) -> dict[str, Any]:
    """A version with less."""
    return {"name": name, "loses": listed(loses), "tools": listed(tools), **more}


def plan(
    markers: dict[str, tuple[float, float]],
    legs: Pairs | None = None,
    by: str = "",
    ball: Pairs | None = None,
    feed: Pairs | None = None,
    zones: dict[str, list[list[float]]] | None = None,
    margin: float = 1,
) -> dict[str, Any]:
    """A floor plan in metres: x to the right, y ahead."""
    paths = [(a, b, "ball") for a, b in ball or []] + [(a, b, "feed") for a, b in feed or []]
    return {
        "units": "m",
        "markers": [{"id": name, "x": x, "y": y} for name, (x, y) in markers.items()],
        "legs": [{"from": a, "to": b, "way": by, "do": ""} for a, b in legs or []],
        "paths": [{"from": a, "to": b, "kind": kind} for a, b, kind in paths],
        "zones": [{"id": name, "points": points} for name, points in (zones or {}).items()],
        "margin": margin,
    }


def shaped(
    shape: str, by: str = "", feed: Pairs | None = None, margin: float = 1, **numbers: float
) -> dict[str, Any]:
    """A floor plan from a general shape."""
    known = SHAPES[shape]
    markers, legs = known.make(**{**known.numbers, **numbers})
    return plan(markers, legs, by, feed=feed, margin=margin)


def box(x: float, y: float, width: float, depth: float) -> list[list[float]]:
    """A rectangle from its near left corner."""
    return [[x, y], [x + width, y], [x + width, y + depth], [x, y + depth]]


def spot(margin: float = 1) -> dict[str, Any]:
    """A place to stand."""
    return plan({"A": (0, 0)}, margin=margin)


def rung(
    drill: str,
    title: str,
    changes: str,
    axis: str,
    target: dict[str, Any],
    dose: dict[str, Any],
    **more: Any,
) -> dict[str, Any]:
    """A rung of the file; `ease` is the note of its easier variant."""
    ease = more.pop("ease", "")
    terms = {"target": target, "dose": dose, "ease": {"note": ease} if ease else None}
    return {
        "drill": drill,
        "title": title,
        "changes": changes,
        "axis": [axis] if axis else [],
        **terms,
        **more,
    }


def of(makes: int, of: int = 10, each: bool = True, **gates: Any) -> dict[str, Any]:
    """Good ones of attempts."""
    return {"makes": makes, "of": of, "each_lane": each, **gates}


def to(value: float, **gates: Any) -> dict[str, Any]:
    """A value in the measure's own unit."""
    return {"value": value, **gates}


def ladder(
    title: str, skill: str, purpose: str, rule: dict[str, Any], rungs: list[dict[str, Any]]
) -> dict[str, Any]:
    """A ladder of the file."""
    return {"title": title, "skill": skill, "purpose": purpose, "rule": rule, "rungs": rungs}


def called(calls: str, mode: str = "random", **more: Any) -> dict[str, Any]:
    """A rung's caller."""
    return {"cues": [{"name": name} for name in listed(calls)], "mode": mode, **more}
