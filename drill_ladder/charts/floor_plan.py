"""A drill's floor plan, to scale: markers, numbered legs with lengths, ball and feed paths, zones, a scale bar."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import floor, hypot, log10

from drill_ladder.charts.svg import drawing, fixed, line, tag, words
from drill_ladder.core.layout import Place, Plan, leg_lengths

WIDTH, HEIGHT, EDGE = 480.0, 430.0, 46.0
FOOT = 34.0
SHORT = 60.0  # pixels
BESIDE = 7.0  # legs keep to the right of their line, so that there and back are two lines


@dataclass(frozen=True, slots=True)
class Path:
    """Where a ball or a feed goes, between two markers."""

    start: str
    end: str
    kind: str


@dataclass(frozen=True, slots=True)
class Scale:
    """From metres to pixels: x = left + metres * pixels, y = top - metres * pixels."""

    left: float
    top: float
    pixels: float

    def place(self, at: Place) -> Place:
        """A place in pixels."""
        return self.left + at[0] * self.pixels, self.top - at[1] * self.pixels


def floor_plan(plan: Plan, paths: Sequence[Path], length: Callable[[float], str], title: str) -> str:
    """SVG. length: metres as a person reads them, in the unit that is shown."""
    scale = scale_of(plan)
    parts = [
        *(_zone(scale, zone) for zone in plan.zones),
        *(part for path in paths for part in _path(scale, plan, path)),
        *_legs(scale, plan, length),
        *(part for name, at in plan.markers.items() for part in _marker(scale, name, at)),
        *_scale_bar(scale, length),
    ]
    return drawing(WIDTH, HEIGHT, title, parts, "floor-plan")


def scale_of(plan: Plan) -> Scale:
    """The scale at which a plan is drawn."""
    points = [*plan.markers.values(), *(p for zone in plan.zones for p in zone)]
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    wide, deep = max(max(xs) - min(xs), 1e-6), max(max(ys) - min(ys), 1e-6)
    pixels = min((WIDTH - 2 * EDGE) / wide, (HEIGHT - 2 * EDGE - FOOT) / deep)
    pixels = min(pixels, 120.0)
    middle_x, middle_y = (max(xs) + min(xs)) / 2, (max(ys) + min(ys)) / 2
    return Scale(WIDTH / 2 - middle_x * pixels, (HEIGHT - FOOT) / 2 + middle_y * pixels, pixels)


def _zone(scale: Scale, zone: Sequence[Place]) -> str:
    points = " ".join(f"{fixed(x)},{fixed(y)}" for x, y in map(scale.place, zone))
    return tag("polygon", points=points, class_="plan-zone")


def _marker(scale: Scale, name: str, at: Place) -> list[str]:
    x, y = scale.place(at)
    drawn = tag("circle", cx=x, cy=y, r=13.0) + words(x, y + 4.5, name, "plan-name", "middle")
    # the group carries its name, so that the editor can take hold of it
    return [tag("g", drawn, class_="plan-marker", data_marker=name)]


def _legs(scale: Scale, plan: Plan, length: Callable[[float], str]) -> list[str]:
    parts = []
    for number, (leg, metres) in enumerate(zip(plan.legs, leg_lengths(plan), strict=True), 1):
        a, b = scale.place(plan.markers[leg.start]), scale.place(plan.markers[leg.end])
        if hypot(b[0] - a[0], b[1] - a[1]) < 1:
            continue
        a, b = _beside(a, b)
        parts += [_arrow(a, b, "plan-leg"), *_leg_words(a, b, number, length(metres), leg.way)]
    return parts


def _beside(a: Place, b: Place) -> tuple[Place, Place]:
    """Moved to the right of the way, and short of both markers."""
    far = hypot(b[0] - a[0], b[1] - a[1])
    ux, uy = (b[0] - a[0]) / far, (b[1] - a[1]) / far
    ox, oy, short = -uy * BESIDE, ux * BESIDE, min(15.0, far / 4)
    return (a[0] + ox + ux * short, a[1] + oy + uy * short), (b[0] + ox - ux * short, b[1] + oy - uy * short)


def _arrow(a: Place, b: Place, class_: str) -> str:
    far = hypot(b[0] - a[0], b[1] - a[1]) or 1.0
    ux, uy = (b[0] - a[0]) / far, (b[1] - a[1]) / far
    back = (b[0] - 9 * ux, b[1] - 9 * uy)
    head = [b, (back[0] - 4.5 * uy, back[1] + 4.5 * ux), (back[0] + 4.5 * uy, back[1] - 4.5 * ux)]
    points = " ".join(f"{fixed(x)},{fixed(y)}" for x, y in head)
    return line(a[0], a[1], back[0], back[1], class_) + tag("polygon", points=points, class_=f"{class_}-head")


def _leg_words(a: Place, b: Place, number: int, length: str, way: str) -> list[str]:
    """The number on the line, a third of the way along, so that there and back do not meet; the length beside it.

    On a line too short for words the number alone stands a little outside; the list below the drawing has the rest.
    """
    far = hypot(b[0] - a[0], b[1] - a[1]) or 1.0
    nx, ny = -(b[1] - a[1]) / far, (b[0] - a[0]) / far
    short = far < SHORT
    along, out = (0.5, 7.0) if short else (0.36, 0.0)
    x, y = a[0] + (b[0] - a[0]) * along + nx * out, a[1] + (b[1] - a[1]) * along + ny * out
    back = tag("circle", cx=x, cy=y, r=9.5, class_="plan-number-back")
    numbered = [back, words(x, y + 4.5, number, "plan-number", "middle")]
    if short:
        return numbered
    anchor = "start" if nx > 0.35 else "end" if nx < -0.35 else "middle"
    return [*numbered, words(x + nx * 15, y + ny * 19 + 4.5, f"{length} {way}".strip(), "plan-length", anchor)]


def _path(scale: Scale, plan: Plan, path: Path) -> list[str]:
    a, b = scale.place(plan.markers[path.start]), scale.place(plan.markers[path.end])
    if hypot(b[0] - a[0], b[1] - a[1]) < 1:
        return []
    return [_arrow(a, b, f"plan-{path.kind}")]


def _scale_bar(scale: Scale, length: Callable[[float], str]) -> list[str]:
    """A round number of metres, about a fifth of the width."""
    wanted = WIDTH / 5 / scale.pixels
    power = 10.0 ** floor(log10(wanted))
    metres = max(step * power for step in (1, 2, 5) if step * power <= wanted)
    x1, y = EDGE / 2, HEIGHT - 12
    x2 = x1 + metres * scale.pixels
    ticks = [line(x, y - 5, x, y + 5, "plan-bar") for x in (x1, x2)]
    return [line(x1, y, x2, y, "plan-bar"), *ticks, words(x2 + 8, y + 4.5, length(metres), "axis")]
