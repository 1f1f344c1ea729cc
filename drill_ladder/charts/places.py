"""Shares at their real places: the floor plan with a disc for each lane, fuller where more is
good.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from drill_ladder.charts.plan import WIDTH, scale_of
from drill_ladder.charts.svg import drawing, fixed, tag, words
from drill_ladder.core.plans import Plan, Spot

ROUND, MARK, ABOVE, BELOW = 30.0, 7.0, 38.0, 74.0


@dataclass(frozen=True, slots=True)
class At:
    """A lane at its place, in metres: a share 0..1, and the words of it."""

    name: str
    at: Spot
    rate: float
    said: str


def places(plan: Plan, lanes: Sequence[At], title: str) -> str:
    """SVG, no higher than what is on it."""
    scale = scale_of(plan)
    ys = [scale.place(at)[1] for at in (*plan.points, *(lane.at for lane in lanes))]
    scale = replace(scale, top=scale.top - min(ys) + ABOVE)
    parts = []
    for zone in plan.zones:
        points = " ".join(f"{fixed(x)},{fixed(y)}" for x, y in map(scale.place, zone))
        parts.append(tag("polygon", points=points, class_="plan-zone"))
    taken = {lane.at for lane in lanes}
    for name, at in plan.markers.items():
        if at not in taken:
            x, y = scale.place(at)
            parts.append(tag("circle", cx=x, cy=y, r=MARK, class_="score-apart"))
            parts.append(words(x, y + 24, name, "axis", "middle"))
    for lane in lanes:
        parts += _disc(*scale.place(lane.at), lane)
    height = max(ys) - min(ys) + ABOVE + BELOW
    return drawing(WIDTH, height, title, parts, "place-chart")


def _disc(x: float, y: float, lane: At) -> list[str]:
    """How full it is says the same as the number in it."""
    full = ROUND * lane.rate**0.5
    return [
        tag("circle", cx=x, cy=y, r=ROUND, class_="place-edge"),
        tag("circle", tag("title", lane.said), cx=x, cy=y, r=full, class_="place-full"),
        words(x, y + ROUND + 18, lane.name, "rate-name", "middle"),
        words(x, y + ROUND + 35, lane.said, "axis", "middle"),
    ]
