"""The drill's floor plan: lengths, turns, footprint, does it fit (docs/methods.md, 17)."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import atan2, degrees, dist, hypot

from drill_ladder.core.thresholds import TOLERANCE, at_least

Spot = tuple[float, float]
SAME_WAY, ABOUT = 15.0, 165.0
FASTEST_STRAIGHT, FASTEST_TURNING = 9.0, 6.0


@dataclass(frozen=True, slots=True)
class Leg:
    """From one marker to another; way: sprint, shuffle, carry...; do: what to do at the end."""

    start: str
    end: str
    way: str = ""
    do: str = ""


@dataclass(frozen=True, slots=True)
class Turns:
    """Turns by direction; about: over 165 degrees, neither left nor right."""

    left: int
    right: int
    about: int


@dataclass(frozen=True, slots=True)
class Plan:
    """Everything in metres: markers (x to the right, y ahead), legs, outlines of zones, margin on
    all sides, walls by their ends.
    """

    markers: Mapping[str, Spot]
    legs: Sequence[Leg]
    zones: Sequence[Sequence[Spot]] = ()
    margin: float = 0
    walls: Sequence[tuple[Spot, Spot]] = ()

    @property
    def points(self) -> list[Spot]:
        """Every place of it: markers, outlines, ends of walls."""
        outlines = (point for zone in self.zones for point in zone)
        return [*self.markers.values(), *outlines, *(end for wall in self.walls for end in wall)]


def leg_vectors(plan: Plan) -> list[Spot]:
    """Each leg as (dx, dy) in metres."""
    ends = [(plan.markers[leg.start], plan.markers[leg.end]) for leg in plan.legs]
    return [(b[0] - a[0], b[1] - a[1]) for a, b in ends]


def leg_lengths(plan: Plan) -> list[float]:
    """Metres of each leg."""
    return [hypot(dx, dy) for dx, dy in leg_vectors(plan)]


def way_to(plan: Plan, marker: str) -> float | None:
    """Metres from the first marker to another: along the legs where they lead there, else straight;
    None for a marker that is not there.
    """
    if marker not in plan.markers:
        return None
    at = start = next(iter(plan.markers))
    gone = 0.0
    for leg, length in zip(plan.legs, leg_lengths(plan), strict=True):
        if leg.start != at or at == marker:
            break
        at, gone = leg.end, gone + length
    return gone if at == marker else dist(plan.markers[start], plan.markers[marker])


def turns(plan: Plan) -> Turns:
    """Turns between legs that join: over 15 and up to 165 degrees, left is counter-clockwise; over
    165 is about.

    A leg of no length keeps the heading; a leg that starts elsewhere starts anew.
    """
    left = right = about = 0
    heading: Spot | None = None
    for i, (leg, vector) in enumerate(zip(plan.legs, leg_vectors(plan), strict=True)):
        if i and plan.legs[i - 1].end != leg.start:
            heading = None
        if hypot(*vector) <= TOLERANCE:
            continue
        if heading is not None:
            angle = turn_angle(heading, vector)
            if abs(angle) > ABOUT + TOLERANCE:
                about += 1
            elif abs(angle) > SAME_WAY + TOLERANCE:
                left, right = left + (angle > 0), right + (angle < 0)
        heading = vector
    return Turns(left, right, about)


def turn_angle(before: Spot, after: Spot) -> float:
    """Degrees from one heading to the next, -180..180, counter-clockwise positive."""
    cross = before[0] * after[1] - before[1] * after[0]
    return degrees(atan2(cross, before[0] * after[0] + before[1] * after[1]))


def extent(plan: Plan) -> Spot:
    """(width, depth) in metres of markers, zones and walls, without the margin."""
    points = plan.points
    if not points:
        return 0.0, 0.0
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return max(xs) - min(xs), max(ys) - min(ys)


def footprint(plan: Plan) -> Spot:
    """(width, depth) in metres with the margin on all sides."""
    width, depth = extent(plan)
    return width + 2 * plan.margin, depth + 2 * plan.margin


def largest_scale(plan: Plan, space: Spot) -> float | None:
    """The largest uniform scale, at most 1, at which the plan fits a space of (width, depth)
    metres, turned or not.

    The margin is never scaled; None if the margin alone does not fit.
    """
    room = [side - 2 * plan.margin for side in space]
    if not all(at_least(side, 0) for side in room):
        return None
    size = extent(plan)
    return max(_scale(size, (room[0], room[1])), _scale(size, (room[1], room[0])))


def _scale(size: Spot, room: Spot) -> float:
    scales = [max(0.0, r) / s for s, r in zip(size, room, strict=True) if s > TOLERANCE]
    scale = min([1.0, *scales])
    return 1.0 if at_least(scale, 1) else scale


def fits(scale: float | None) -> bool:
    """Whether the plan fits as it is."""
    return scale is not None and at_least(scale, 1)


def mean_speed(plan: Plan, seconds: float) -> float:
    """Metres a second over the whole path; seconds > 0."""
    return sum(leg_lengths(plan)) / seconds


def implausible(
    plan: Plan, seconds: float, straight: float = FASTEST_STRAIGHT, turning: float = FASTEST_TURNING
) -> bool:
    """Whether a time implies an impossible mean speed: over 9 m/s on a straight, over 6 m/s with
    turns (our choice: a little over what the fastest adults do; a club may set others).
    """
    counted = turns(plan)
    limit = turning if counted.left + counted.right + counted.about else straight
    return seconds > 0 and mean_speed(plan, seconds) > limit + TOLERANCE


def farthest(plan: Plan) -> float:
    """Metres from the middle of everything to its farthest place: who drew it in the wrong unit
    sees it here.
    """
    points = plan.points
    xs, ys = [x for x, _ in points], [y for _, y in points]
    middle = (max(xs) + min(xs)) / 2, (max(ys) + min(ys)) / 2
    return max(hypot(x - middle[0], y - middle[1]) for x, y in points)
