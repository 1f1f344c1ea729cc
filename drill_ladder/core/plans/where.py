"""Where a drill's lanes lie on its floor plan."""

from collections.abc import Sequence

from drill_ladder.core.plans.layout import Spot
from drill_ladder.core.plans.plan import FloorPlan


def lane_places(plan: FloorPlan, lanes: Sequence[str]) -> dict[str, Spot] | None:
    """Lane -> its place in metres: the middle of the zone that bears its name or begins with it
    ("left": "left gate"), else the marker of its name or of its first letter; None unless every
    lane has a place of its own.
    """
    metres = plan.metres
    zones = {
        zone.id.casefold(): _middle(points)
        for zone, points in zip(plan.zones, metres.zones, strict=True)
    }
    markers = {name.casefold(): at for name, at in metres.markers.items()}
    found: dict[str, Spot] = {}
    for lane in lanes:
        at = _place(lane.casefold(), zones, markers)
        if at is not None:
            found[lane] = at
    return found if len(set(found.values())) == len(lanes) > 0 else None


def _place(lane: str, zones: dict[str, Spot], markers: dict[str, Spot]) -> Spot | None:
    begins = [at for name, at in zones.items() if name == lane or name.startswith(f"{lane} ")]
    if begins:
        return begins[0]
    return markers.get(lane, markers.get(lane[:1]))


def _middle(points: Sequence[Spot]) -> Spot:
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return (max(xs) + min(xs)) / 2, (max(ys) + min(ys)) / 2
