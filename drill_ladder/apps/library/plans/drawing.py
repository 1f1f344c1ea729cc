"""A drill's floor plan as its pages show it."""

from dataclasses import dataclass
from typing import Any

from drill_ladder.charts.plan import ON_PAPER, Path, common_way, scale_of
from drill_ladder.charts.plan import floor_plan as floor_plan_svg
from drill_ladder.charts.svg import alone
from drill_ladder.core.plans import (
    SHAPES,
    FloorPlan,
    Leg,
    Plan,
    Turns,
    Unit,
    farthest,
    fits,
    footprint,
    from_metres,
    largest_scale,
    leg_lengths,
    metres_per,
    turns,
)
from drill_ladder.core.thresholds import at_least
from drill_ladder.formats.documents import PLAN
from drill_ladder.formats.reading import decimal
from drill_ladder.formats.sentences import plain

UNITS = [(Unit.M, "metres", "m"), (Unit.FT, "feet", "ft"), (Unit.YD, "yards", "yd")]
OWN_UNITS = [(Unit.PACE, "paces", "paces"), (Unit.SHOE, "shoe lengths", "shoes")]
_SHORT = {unit: short for unit, _, short in UNITS + OWN_UNITS}
_EXACT = {unit for unit, _, _ in UNITS}
_DECIMALS = {Unit.M: 2, Unit.SHOE: 0}


@dataclass(frozen=True, slots=True)
class Ruler:
    """What lengths are told in; unit_m: the player's own pace or shoe in metres, for those two
    units.
    """

    unit: Unit
    unit_m: float | None = None

    def words(self, metres: float) -> str:
        """A length: 4.57 m, 15 ft, 6.1 paces. Nobody measures a tenth of a shoe."""
        value = from_metres(metres, self.unit, self.unit_m)
        return f"{plain(round(value, _DECIMALS.get(self.unit, 1)) + 0.0)}\u00a0{_SHORT[self.unit]}"


def ruler(name: str, stride_m: float | None = None, shoe_m: float | None = None) -> Ruler | None:
    """The ruler of a unit's name; None for no unit, and for paces or shoes whose length nobody
    knows.
    """
    if name not in {unit.value for unit in Unit}:
        return None
    unit = Unit(name)
    own = {Unit.PACE: stride_m, Unit.SHOE: shoe_m}
    if unit in own:
        return Ruler(unit, own[unit]) if own[unit] else None
    return Ruler(unit)


@dataclass(frozen=True, slots=True)
class DrawnLeg:
    """A leg with its number, its length in words, and the length in a second unit, empty without
    one.
    """

    number: int
    leg: Leg
    length: str
    also: str


@dataclass(frozen=True, slots=True)
class Drawn:
    """A floor plan drawn: as SVG, with its numbers in words. plan: in metres."""

    svg: str
    plan: Plan
    unit: str
    path: str
    way: str
    kinds: frozenset[str]
    legs: tuple[DrawnLeg, ...]
    turns: Turns
    footprint: str


def drawn(
    floor_plan: FloorPlan,
    unit: Ruler | None = None,
    title: str = "Floor plan",
    also: Ruler | None = None,
) -> Drawn:
    """The drawing and its numbers in the unit that is shown (the plan's own, or metres).

    also: the legs' lengths in a second unit, such as the player's own paces.
    """
    ruler_ = unit or Ruler(floor_plan.units if floor_plan.units in _EXACT else Unit.M)
    plan = floor_plan.metres
    paths = [Path(way.start, way.end, way.kind) for way in floor_plan.ways]
    width, depth = footprint(plan)
    lengths = leg_lengths(plan)
    return Drawn(
        svg=floor_plan_svg(plan, paths, ruler_.words, title),
        plan=plan,
        unit=ruler_.unit.value,
        path=_path_words(ruler_, sum(lengths)) if plan.legs else "",
        way=common_way(plan),
        kinds=frozenset(path.kind for path in paths),
        legs=tuple(
            DrawnLeg(number, leg, ruler_.words(metres), also.words(metres) if also else "")
            for number, (leg, metres) in enumerate(zip(plan.legs, lengths, strict=True), 1)
        ),
        turns=turns(plan),
        footprint=f"{ruler_.words(width)} wide, {ruler_.words(depth)} deep",
    )


def _path_words(shown: Ruler, metres: float) -> str:
    """A path's length; over ten metres to the decimetre, because nobody sets cones finer than a
    centimetre.
    """
    return shown.words(round(metres, 1) if metres > 10 and shown.unit is Unit.M else metres)


def on_paper(floor_plan: FloorPlan, title: str = "Floor plan") -> str:
    """The drawing with a style of its own, in the plan's unit."""
    return alone(drawn(floor_plan, title=title).svg, ON_PAPER)


def fit_words(plan: Plan, width: float, depth: float, smallest: float, timed: bool) -> str:
    """Whether a plan fits a space in metres, and what to do if it does not. smallest: the least
    share of its size at which it is still the drill; timed: whether times are taken.
    """
    scale = largest_scale(plan, (width, depth))
    if scale is None or scale <= 0:
        return "No: not even its margin fits. Choose another place."
    if fits(scale):
        return "Yes, as it is."
    size = f"{scale * 100:.0f}\u00a0% of its size"
    if not at_least(scale, smallest):
        return (
            f"No: it would fit at {size}, and it takes {smallest * 100:.0f}\u00a0% to be the drill."
        )
    times = " Times then do not compare with the full one." if timed else ""
    return f"Yes, at {size}.{times}"


def preview(document: Any) -> dict[str, Any]:
    """What the editor shows after each change: the drawing with its scale, or what is wrong."""
    faults = PLAN.faults(document, stored=True)
    if faults:
        return {"faults": faults}
    floor_plan = PLAN.read(document)
    shown = drawn(floor_plan)
    scale, metres = scale_of(shown.plan), metres_per(floor_plan.units, floor_plan.unit_m)
    numbers = shown.footprint + (f", path {shown.path}" if shown.path else "")
    hold = {"left": scale.left, "top": scale.top, "pixels": scale.pixels * metres}
    return {
        "faults": [],
        "questions": far_words(floor_plan),
        "svg": shown.svg,
        "numbers": numbers,
        "hold": hold,
    }


FAR_M = 200


def far_words(plan: FloorPlan) -> list[str]:
    """A plan that is larger than any hall or pitch is asked about: the unit may be another one."""
    wide = 2 * farthest(plan.metres)
    if wide <= FAR_M:
        return []
    own = plain(round(wide / metres_per(plan.units, plan.unit_m)))
    unit = "" if plan.units is Unit.M else f" ({own} {_SHORT[plan.units]})"
    return [f"It is {wide:.0f}\u00a0m{unit} from end to end. Is that right?"]


def shaped(name: str, given: dict[str, str]) -> dict[str, Any] | None:
    """A plan from a general shape and its numbers; None for a shape or numbers that cannot be."""
    shape = SHAPES.get(name)
    if shape is None:
        return None
    read = {key: decimal(given.get(key) or usual, 0, 200) for key, usual in shape.numbers.items()}
    numbers = {key: value for key, value in read.items() if value}
    if len(numbers) < len(read) or numbers.get("points", 1) > 24:
        return None
    if max(numbers.get("rows", 1), numbers.get("columns", 1), numbers.get("cones", 1)) > 24:
        return None
    markers, legs = shape.make(**numbers)
    walls = [shape.against(**numbers)] if shape.against else []
    run, passed = ([], legs) if shape.passed else (legs, [])
    # whose unit it is the editor knows: the numbers are in the one that is chosen there
    return {
        "markers": [{"id": name, "x": x, "y": y} for name, (x, y) in markers.items()],
        "legs": [{"from": a, "to": b, "way": "", "do": ""} for a, b in run],
        "zones": [],
        "paths": [{"from": a, "to": b, "kind": "ball"} for a, b in passed],
        "walls": [{"points": [list(start), list(end)]} for start, end in walls],
    }
