"""A floor plan as it was drawn: in the unit of whoever drew it, with the ways of ball and feed.

What is computed (core.floor.layout) is computed in metres; what is shown and stored keeps its own
numbers.
"""

from dataclasses import dataclass

from drill_ladder.core.floor.layout import Leg, Place, Plan
from drill_ladder.core.floor.units import Unit, metres_per


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
    points: tuple[Place, ...]


@dataclass(frozen=True, slots=True)
class Way:
    """Where the ball or the feed goes, from one marker to another. kind: ball or feed."""

    start: str
    end: str
    kind: str = "ball"


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

    @property
    def metres(self) -> Plan:
        """The plan in metres."""
        each = metres_per(self.units, self.unit_m)
        zones = [[(x * each, y * each) for x, y in zone.points] for zone in self.zones]
        markers = {m.id: (m.x * each, m.y * each) for m in self.markers}
        return Plan(markers, list(self.legs), zones, self.margin * each)
