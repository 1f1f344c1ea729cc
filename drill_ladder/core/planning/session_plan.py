"""Order and fit of a session (docs/methods.md, 13). The order is common practice, no source."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import IntEnum


class Part(IntEnum):
    """Parts of a session in their order."""

    WARM_UP = 1
    SPEED_OR_NEW = 2
    TECHNIQUE = 3
    VOLUME = 4
    PRESSURE = 5
    CONDITIONING = 6
    GAME = 7


@dataclass(frozen=True, slots=True)
class Block:
    """A block of a session. seconds_a_set > 0; fixed_s: set-up; priority 1 is the highest;
    adherence 0..1.

    contact_or_maximal: never after conditioning.
    """

    id: str
    part: Part
    sets: int
    seconds_a_set: float
    fixed_s: float = 0
    priority: int = 1
    adherence: float = 1.0
    contact_or_maximal: bool = False

    @property
    def seconds(self) -> float:
        """The whole block."""
        return self.fixed_s + self.sets * self.seconds_a_set


@dataclass(frozen=True, slots=True)
class Cut:
    """What was cut from a block: sets taken off, or the whole block (left 0)."""

    id: str
    sets: int
    left: int


def in_order(blocks: Sequence[Block]) -> list[Block]:
    """Blocks in the order of their parts; contact and maximal effort before conditioning whatever
    their part.

    Ties by priority, then by the weakest adherence, then as given.
    """

    def place(block: Block) -> tuple[float, int, float]:
        part: float = block.part
        if block.contact_or_maximal and part >= Part.CONDITIONING:
            part = Part.CONDITIONING - 0.5
        return part, block.priority, block.adherence

    return sorted(blocks, key=place)


def fit(blocks: Sequence[Block], seconds: float) -> tuple[list[Block], list[Cut]]:
    """The ordered session that fits the time, and what was cut.

    Sets are cut before blocks are dropped, from the least important block first and never below one
    set; the warm-up is kept whole before maximal work, and is the last to be dropped at all.
    """
    kept = in_order(blocks)
    before = {block.id: block.sets for block in kept}
    while sum(b.seconds for b in kept) > seconds + 1e-9 and kept:
        shrinkable = [b for b in kept if b.sets > 1 and not _protected(b, kept)]
        if shrinkable:
            least = max(shrinkable, key=_importance)
            kept = [replace(b, sets=b.sets - 1) if b is least else b for b in kept]
        else:
            droppable = [b for b in kept if not _protected(b, kept)] or kept
            least = max(droppable, key=_importance)
            kept = [b for b in kept if b is not least]
    left = {block.id: block.sets for block in kept}
    cuts = [
        Cut(id, sets - left.get(id, 0), left.get(id, 0))
        for id, sets in before.items()
        if sets != left.get(id, 0)
    ]
    return kept, cuts


def _protected(block: Block, among: Sequence[Block]) -> bool:
    maximal = any(b.part is Part.SPEED_OR_NEW or b.contact_or_maximal for b in among)
    return block.part is Part.WARM_UP and maximal


def _importance(block: Block) -> tuple[int, float]:
    """Larger is less important: low priority, then the part that comes latest."""
    return block.priority, block.part
