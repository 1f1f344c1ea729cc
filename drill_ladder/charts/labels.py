"""Words beside lines that stay readable: each takes the free place nearest to the one it would like
best.

A greedy choice among a few candidates, by how much of what is already there it would cover; the
usual way of labelling a drawing, common practice, no source.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

Point = tuple[float, float]
ON_LINE = (
    4.0  # a pixel of line under a word weighs as much as so many square pixels of another word
)
OUTSIDE = 1e4


@dataclass(frozen=True, slots=True)
class Box:
    """An upright box by its middle and half its sides, in pixels."""

    x: float
    y: float
    half_width: float
    half_height: float

    def shared(self, other: "Box") -> float:
        """Square pixels that two boxes share."""
        wide = self.half_width + other.half_width - abs(self.x - other.x)
        high = self.half_height + other.half_height - abs(self.y - other.y)
        wide = min(wide, 2 * self.half_width, 2 * other.half_width)
        high = min(high, 2 * self.half_height, 2 * other.half_height)
        return wide * high if wide > 0 and high > 0 else 0.0

    def crossed(self, a: Point, b: Point, steps: int = 24) -> float:
        """About how many pixels of a line lie in the box, by points along it."""
        inside = sum(
            self._holds(a[0] + (b[0] - a[0]) * i / steps, a[1] + (b[1] - a[1]) * i / steps)
            for i in range(steps)
        )
        return inside * max(abs(b[0] - a[0]), abs(b[1] - a[1])) / steps

    def _holds(self, x: float, y: float) -> bool:
        return abs(x - self.x) < self.half_width and abs(y - self.y) < self.half_height


@dataclass(slots=True)
class Sheet:
    """What already stands on a drawing of a width and a height in pixels."""

    width: float
    height: float
    lines: Sequence[tuple[Point, Point]] = ()
    boxes: list[Box] = field(default_factory=list)

    def put(self, candidates: Iterable[Box], most: float = 1.0, lines: bool = True) -> Box | None:
        """The candidate that covers least (the first of equals), now taken.

        most: None is returned instead where even that one would lie on others by more than this
        share of itself. lines: False for what may lie on a line, such as a leg's number.
        """
        best = min(candidates, key=lambda box: self._cost(box, lines))
        if self._covered(best) > most * 4 * best.half_width * best.half_height:
            return None
        self.boxes.append(best)
        return best

    def _covered(self, box: Box) -> float:
        return sum(box.shared(other) for other in self.boxes)

    def _cost(self, box: Box, lines: bool) -> float:
        over = abs(box.x - self.width / 2) + box.half_width - self.width / 2
        over = max(over, abs(box.y - self.height / 2) + box.half_height - self.height / 2)
        crossed = sum(box.crossed(a, b) for a, b in self.lines) if lines else 0.0
        return self._covered(box) + ON_LINE * crossed + (OUTSIDE if over > 0 else 0.0)
