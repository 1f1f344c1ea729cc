"""A drill's floor plan, to scale: markers, numbered legs with lengths, ball and feed paths, zones,
a scale bar.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import floor, hypot, log10

from drill_ladder.charts.labels import Box, Sheet
from drill_ladder.charts.svg import drawing, fixed, line, tag, words
from drill_ladder.core.plans import Plan, Spot, leg_lengths

WIDTH, HEIGHT, EDGE = 420.0, 400.0, 34.0
FOOT = 34.0
SHORT = 56.0  # pixels
BESIDE = 7.0  # legs keep to the right of their line, so that there and back are two lines
MARKER, DISC = 14.0, 10.5  # radii
LETTER, LINE = 7.6, 15.0  # about a letter's width and a line's height in the drawing's own type


# how it looks where no style sheet of ours is: in a file and on paper, good without colour
ON_PAPER = """
text { font-family: Atkinson, "DejaVu Sans", sans-serif; font-size: 16px; font-weight: 700 }
line { stroke: #000; stroke-width: 2 }
.plan-zone { fill: #eee; stroke: #000; stroke-width: 1.5 }
.plan-zone-edge { fill: none; stroke: #000; stroke-width: 2.5 }
.plan-marker circle, .plan-number-back { fill: #fff; stroke: #000; stroke-width: 1.5 }
.plan-marker circle { stroke-width: 3 }
.plan-wall { stroke-width: 7 }
.plan-ball { stroke-dasharray: 6 5 }
.plan-feed { stroke-dasharray: 2 4 }
.axis { font-weight: 400 }
"""


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

    def place(self, at: Spot) -> Spot:
        """A place in pixels."""
        return self.left + at[0] * self.pixels, self.top - at[1] * self.pixels


def floor_plan(
    plan: Plan, paths: Sequence[Path], length: Callable[[float], str], title: str
) -> str:
    """SVG. length: metres as a person reads them, in the unit that is shown."""
    scale = scale_of(plan)
    parts = [
        *(_zone(scale, zone) for zone in plan.zones),
        *(_wall(scale, wall) for wall in plan.walls),
        *_ways(scale, plan, length, paths),
        *(part for name, at in plan.markers.items() for part in _marker(scale, name, at)),
        *(_zone(scale, zone, "plan-zone-edge") for zone in plan.zones if _is_narrow(scale, zone)),
        *_scale_bar(scale, length),
    ]
    return drawing(WIDTH, HEIGHT, title, parts, "floor-plan")


def scale_of(plan: Plan) -> Scale:
    """The scale at which a plan is drawn."""
    points = plan.points
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    wide, deep = max(max(xs) - min(xs), 1e-6), max(max(ys) - min(ys), 1e-6)
    pixels = min((WIDTH - 2 * EDGE) / wide, (HEIGHT - 2 * EDGE - FOOT) / deep)
    pixels = min(pixels, 120.0)
    middle_x, middle_y = (max(xs) + min(xs)) / 2, (max(ys) + min(ys)) / 2
    return Scale(WIDTH / 2 - middle_x * pixels, (HEIGHT - FOOT) / 2 + middle_y * pixels, pixels)


def _zone(scale: Scale, zone: Sequence[Spot], class_: str = "plan-zone") -> str:
    points = " ".join(f"{fixed(x)},{fixed(y)}" for x, y in map(scale.place, zone))
    return tag("polygon", points=points, class_=class_)


def _wall(scale: Scale, wall: tuple[Spot, Spot]) -> str:
    """A thick line: nobody takes it for a way."""
    (x1, y1), (x2, y2) = map(scale.place, wall)
    return line(x1, y1, x2, y2, "plan-wall")


def _is_narrow(scale: Scale, zone: Sequence[Spot]) -> bool:
    """Whether a marker on a zone would hide it: then its edge is drawn over the marker."""
    xs, ys = [x for x, _ in zone], [y for _, y in zone]
    return max(max(xs) - min(xs), max(ys) - min(ys)) * scale.pixels < 3 * MARKER


def _marker(scale: Scale, name: str, at: Spot) -> list[str]:
    x, y = scale.place(at)
    drawn = tag("circle", cx=x, cy=y, r=MARKER) + words(x, y + 4.8, name, "plan-name", "middle")
    # the group carries its name, so that the editor can take hold of it
    return [tag("g", drawn, class_="plan-marker", data_marker=name)]


@dataclass(frozen=True, slots=True)
class _Drawn:
    """A leg or a ball in pixels, beside its line; key: its two markers, whichever way; number: of a
    leg, from 1.
    """

    number: int
    key: frozenset[str]
    a: Spot
    b: Spot
    length: str
    way: str
    class_: str

    @property
    def far(self) -> float:
        return hypot(self.b[0] - self.a[0], self.b[1] - self.a[1]) or 1.0

    def at(self, along: float, out: float) -> Spot:
        """A point at a share of the leg, so many pixels to its right."""
        (ax, ay), (bx, by), far = self.a, self.b, self.far
        return ax + (bx - ax) * along - (by - ay) / far * out, ay + (by - ay) * along + (
            bx - ax
        ) / far * out


def common_way(plan: Plan) -> str:
    """The way of moving that three or more legs share: said once instead of on each. "" for
    none.
    """
    ways = {leg.way for leg in plan.legs}
    return ways.pop() if len(ways) == 1 and len(plan.legs) > 2 else ""


def _ways(
    scale: Scale, plan: Plan, length: Callable[[float], str], paths: Sequence[Path]
) -> list[str]:
    """Arrows of balls, feeds and legs, then the legs' numbers, then lengths: what matters most
    chooses first.
    """
    legs = _legs(scale, plan, length)
    balls = _balls(scale, plan, length, paths)
    sheet = Sheet(WIDTH, HEIGHT, [(one.a, one.b) for one in [*legs, *balls]])
    sheet.boxes += [Box(*scale.place(at), MARKER + 1, MARKER + 1) for at in plan.markers.values()]
    numbers = [part for leg in legs for part in _number(sheet, leg)]
    told: dict[frozenset[str], list[_Drawn]] = {}
    for one in [*legs, *balls]:
        told.setdefault(one.key, []).append(one)
    said = common_way(plan)
    lengths = [part for group in told.values() for part in _length(sheet, group, said)]
    return [*(_arrow(one.a, one.b, one.class_) for one in [*balls, *legs]), *numbers, *lengths]


def _legs(scale: Scale, plan: Plan, length: Callable[[float], str]) -> list[_Drawn]:
    """The legs of some length, each beside its line."""
    legs = []
    for number, (leg, metres) in enumerate(zip(plan.legs, leg_lengths(plan), strict=True), 1):
        a, b = scale.place(plan.markers[leg.start]), scale.place(plan.markers[leg.end])
        if hypot(b[0] - a[0], b[1] - a[1]) >= 1:
            key = frozenset((leg.start, leg.end))
            legs.append(_Drawn(number, key, *_beside(a, b), length(metres), leg.way, "plan-leg"))
    return legs


def _balls(
    scale: Scale, plan: Plan, length: Callable[[float], str], paths: Sequence[Path]
) -> list[_Drawn]:
    """Balls and feeds; two between the same markers stand beside each other."""
    keys = [frozenset((path.start, path.end)) for path in paths]
    balls = []
    for path, key in zip(paths, keys, strict=True):
        start, end = plan.markers[path.start], plan.markers[path.end]
        a, b = scale.place(start), scale.place(end)
        if hypot(b[0] - a[0], b[1] - a[1]) >= 1:
            a, b = _beside(a, b, BESIDE if keys.count(key) > 1 else 0)
            metres = hypot(end[0] - start[0], end[1] - start[1])
            balls.append(_Drawn(0, key, a, b, length(metres), "", f"plan-{path.kind}"))
    return balls


def _beside(a: Spot, b: Spot, beside: float = BESIDE) -> tuple[Spot, Spot]:
    """Moved to the right of the way, and short of both markers."""
    far = hypot(b[0] - a[0], b[1] - a[1])
    ux, uy = (b[0] - a[0]) / far, (b[1] - a[1]) / far
    ox, oy, short = -uy * beside, ux * beside, min(15.0, far / 4)
    return (a[0] + ox + ux * short, a[1] + oy + uy * short), (
        b[0] + ox - ux * short,
        b[1] + oy - uy * short,
    )


def _arrow(a: Spot, b: Spot, class_: str) -> str:
    far = hypot(b[0] - a[0], b[1] - a[1]) or 1.0
    ux, uy = (b[0] - a[0]) / far, (b[1] - a[1]) / far
    back = (b[0] - 9 * ux, b[1] - 9 * uy)
    head = [b, (back[0] - 4.5 * uy, back[1] + 4.5 * ux), (back[0] + 4.5 * uy, back[1] - 4.5 * ux)]
    points = " ".join(f"{fixed(x)},{fixed(y)}" for x, y in head)
    return line(a[0], a[1], back[0], back[1], class_) + tag(
        "polygon", points=points, class_=f"{class_}-head"
    )


def _number(sheet: Sheet, leg: _Drawn) -> list[str]:
    """The number on its line, a third of the way along, so that there and back do not meet; beside
    a short line.
    """
    out = (0.0, DISC + 3, -DISC - 3) if leg.far < SHORT else (0.0,)
    spots = [leg.at(along, side) for side in out for along in (0.36, 0.5, 0.25, 0.64, 0.78)]
    box = sheet.put((Box(x, y, DISC + 1, DISC + 1) for x, y in spots), lines=False)
    if box is None:
        return []
    back = tag("circle", cx=box.x, cy=box.y, r=DISC, class_="plan-number-back")
    return [back, words(box.x, box.y + 4.8, leg.number, "plan-number", "middle")]


def _length(sheet: Sheet, group: Sequence[_Drawn], said: str) -> list[str]:
    """The length and the ways of moving between two markers, once for all legs between them.

    Where no place is left the drawing stays readable without it: the list below the drawing has
    every leg.
    """
    ways = dict.fromkeys(leg.way for leg in group if leg.way and leg.way != said)
    text = f"{group[0].length} {' / '.join(ways)}".strip()
    wide, high = len(text) * LETTER / 2 + 2, LINE / 2
    sides = (1,) if len(group) > 1 else (1, -1)
    spots = [(leg, t, side) for leg in group for side in sides for t in (0.5, 0.64, 0.36, 0.8, 0.2)]
    box = sheet.put((_beside_leg(leg, t, side, wide, high) for leg, t, side in spots), 0.2)
    return [words(box.x, box.y + 4.8, text, "plan-length", "middle")] if box else []


def _beside_leg(leg: _Drawn, along: float, side: int, wide: float, high: float) -> Box:
    """A box of words beside a leg, clear of its line; side: 1 right of the way, -1 left."""
    nx, ny = -(leg.b[1] - leg.a[1]) / leg.far, (leg.b[0] - leg.a[0]) / leg.far
    return Box(*leg.at(along, side * (6 + abs(nx) * wide + abs(ny) * high)), wide, high)


def _scale_bar(scale: Scale, length: Callable[[float], str]) -> list[str]:
    """A round number of metres, about a fifth of the width."""
    wanted = WIDTH / 5 / scale.pixels
    power = 10.0 ** floor(log10(wanted))
    metres = max(step * power for step in (1, 2, 5) if step * power <= wanted)
    x1, y = EDGE / 2, HEIGHT - 12
    x2 = x1 + metres * scale.pixels
    ticks = [line(x, y - 5, x, y + 5, "plan-bar") for x in (x1, x2)]
    return [line(x1, y, x2, y, "plan-bar"), *ticks, words(x2 + 8, y + 4.5, length(metres), "axis")]
