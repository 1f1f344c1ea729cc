"""Coverage of skills that must hold everywhere, ladders from axes, axes of difficulty
(docs/methods.md, 19 and 22).
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from itertools import product

from drill_ladder.core.thresholds import at_least

STALE_DAYS = 28
WEAK_RATE = 0.5
Cell = tuple[str, ...]


class Axis(StrEnum):
    """What can make a rung harder than the one before."""

    DISTANCE = "distance"
    TEMPO = "tempo"
    FEED = "feed"
    TOOL = "tool"
    TARGET_SIZE = "target size"
    PREDICTABILITY = "predictability"
    CHOICES = "choices"
    MOVEMENT = "movement added"
    OPPONENT = "opponent"
    CONSTRAINT = "constraint"
    OFF_SIDE = "off side"
    FATIGUE = "fatigue"
    LENGTH = "length of set"
    ENVIRONMENT = "environment"


def two_axes_at_once(axes: Sequence[str]) -> bool:
    """Whether a rung changes more than one thing against the rung before: worth a warning."""
    return len(set(axes)) > 1


@dataclass(frozen=True, slots=True)
class CellState:
    """What is known of a cell: last day, attempts, makes."""

    last: date | None = None
    attempts: int = 0
    makes: int = 0

    @property
    def rate(self) -> float | None:
        """Makes of attempts."""
        return self.makes / self.attempts if self.attempts else None


@dataclass(frozen=True, slots=True)
class PutFirst:
    """A lane that a coach put first. last: the last day on which it was done before that."""

    lane: str
    last: date | None = None


def grid(dimensions: Sequence[Sequence[str]]) -> list[Cell]:
    """All cells, say 8 directions x 2 techniques x 3 feeds, the last dimension running fastest."""
    return list(product(*dimensions))


def first_in_next_plan(
    cells: Sequence[Cell],
    known: Mapping[Cell, CellState],
    on: date,
    stale_days: int = STALE_DAYS,
    weak_rate: float = WEAK_RATE,
) -> list[tuple[Cell, str]]:
    """Cells that come first, with why: empty, then stale (the longest first), then weak ones (the
    weakest first). What was done and is not counted in good ones is never weak.
    """
    ranked: list[tuple[int, float, int, Cell, str]] = []
    for i, cell in enumerate(cells):
        state = known.get(cell, CellState())
        if state.last is None:
            ranked.append((0, 0.0, i, cell, "empty"))
        elif (on - state.last).days >= stale_days:
            ranked.append((1, -float((on - state.last).days), i, cell, "stale"))
        elif state.rate is not None and not at_least(state.rate, weak_rate):
            ranked.append((2, state.rate, i, cell, "weak"))
    return [(cell, why) for _, _, _, cell, why in sorted(ranked)]


@dataclass(frozen=True, slots=True)
class Steps:
    """An axis with its steps from the easiest to the hardest, as this coach sees it: never
    assumed.
    """

    axis: Axis
    steps: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Draft:
    """A drafted rung: the value of each axis, and the one axis that changed (None at the
    bottom).
    """

    values: tuple[str, ...]
    changed: Axis | None


def draft_ladder(axes: Sequence[Steps]) -> list[Draft]:
    """A ladder from the easiest to the hardest of every axis, one axis a rung, in the order in
    which they are given.

    The axes take turns, so that difficulty grows evenly; an axis that is at its hardest is passed
    over.
    """
    at = [0] * len(axes)
    rungs = [Draft(tuple(axis.steps[0] for axis in axes), None)]
    for number in _turns(axes):
        at[number] += 1
        values = tuple(axis.steps[i] for axis, i in zip(axes, at, strict=True))
        rungs.append(Draft(values, axes[number].axis))
    return rungs


def _turns(axes: Sequence[Steps]) -> Iterator[int]:
    longest = max((len(axis.steps) for axis in axes), default=0)
    for step in range(1, longest):
        for number, axis in enumerate(axes):
            if step < len(axis.steps):
                yield number
