"""A floor plan as it was drawn: in the unit of whoever drew it, with the ways of ball and feed.

What is computed (core.plans.layout) is computed in metres; what is shown and stored keeps its own
numbers.
"""

from dataclasses import dataclass, replace

from drill_ladder.core.plans.layout import Leg, Plan, Spot
from drill_ladder.core.plans.sides import swapped
from drill_ladder.core.plans.units import Unit, metres_per


@dataclass(frozen=True, slots=True)
class Marker:
    """A place with a name; x to the right, y ahead, in the plan's unit."""

    id: str
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class Zone:
    """An outline with a name."""

    id: str
    points: tuple[Spot, ...]


@dataclass(frozen=True, slots=True)
class Way:
    """Where the ball or the feed goes, from one marker to another. kind: ball or feed."""

    start: str
    end: str
    kind: str = "ball"


@dataclass(frozen=True, slots=True)
class Wall:
    """A wall to play against, from one end to the other."""

    start: Spot
    end: Spot


@dataclass(frozen=True, slots=True)
class FloorPlan:
    """Lengths in `units`; unit_m: metres of one, for one's own pace or shoe."""

    units: Unit
    markers: tuple[Marker, ...]
    legs: tuple[Leg, ...] = ()
    zones: tuple[Zone, ...] = ()
    ways: tuple[Way, ...] = ()
    margin: float = 0
    unit_m: float | None = None
    walls: tuple[Wall, ...] = ()

    @property
    def tells_something(self) -> bool:
        """Whether there is more to see than one place by itself."""
        return len(self.markers) > 1 or bool(self.legs or self.zones or self.ways or self.walls)

    @property
    def mirrored(self) -> "FloorPlan":
        """For a player of the other hand: places and words change sides together."""
        return replace(
            self,
            markers=tuple(Marker(swapped(m.id), -m.x, m.y) for m in self.markers),
            legs=tuple(
                Leg(swapped(leg.start), swapped(leg.end), swapped(leg.way), swapped(leg.do))
                for leg in self.legs
            ),
            zones=tuple(
                Zone(swapped(zone.id), tuple((-x, y) for x, y in zone.points))
                for zone in self.zones
            ),
            ways=tuple(Way(swapped(w.start), swapped(w.end), w.kind) for w in self.ways),
            walls=tuple(Wall(_across(wall.start), _across(wall.end)) for wall in self.walls),
        )

    def scaled(self, scale: float) -> "FloorPlan":
        """As it is set up where there is less room: every length but the margin."""
        return replace(
            self,
            markers=tuple(Marker(m.id, m.x * scale, m.y * scale) for m in self.markers),
            zones=tuple(
                Zone(zone.id, tuple((x * scale, y * scale) for x, y in zone.points))
                for zone in self.zones
            ),
            walls=tuple(
                Wall(_times(wall.start, scale), _times(wall.end, scale)) for wall in self.walls
            ),
        )

    @property
    def metres(self) -> Plan:
        """The plan in metres."""
        each = metres_per(self.units, self.unit_m)
        zones = [[(x * each, y * each) for x, y in zone.points] for zone in self.zones]
        markers = {m.id: (m.x * each, m.y * each) for m in self.markers}
        walls = [(_times(wall.start, each), _times(wall.end, each)) for wall in self.walls]
        return Plan(markers, list(self.legs), zones, self.margin * each, walls)


def _across(place: Spot) -> Spot:
    return -place[0], place[1]


def _times(place: Spot, factor: float) -> Spot:
    return place[0] * factor, place[1] * factor
