"""Stay-alive turns with a cap: a miss or the cap ends a turn, so who misses early plays least; the
top-up evens that out (docs/methods.md, 31). The length of a turn is the mean of a geometric
distribution cut at the cap.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import floor

from drill_ladder.core.thresholds import TOLERANCE

MOST_EXTRA = 3


@dataclass(frozen=True, slots=True)
class Turns:
    """A player's turns: attempts that they held, the expected attempts of one of their turns, and
    how many more of them even it out.
    """

    id: str
    turns: int
    attempts: int
    expected: float
    top_up: int


def turns_of(
    cap: int, players: Sequence[tuple[str, Sequence[int]]], most_extra: int = MOST_EXTRA
) -> list[Turns]:
    """players: (id, runs of 0..cap good ones, one for each turn)."""
    attempts = [sum(run + (run < cap) for run in runs) for _, runs in players]
    most = max(attempts, default=0)
    turns = []
    for (id, runs), own in zip(players, attempts, strict=True):
        p = (sum(runs) + 0.5) / (own + 1)
        expected = (1 - p**cap) / (1 - p)
        lacking = floor((most - own) / expected + 0.5 + TOLERANCE)
        turns.append(Turns(id, len(runs), own, expected, min(most_extra, lacking)))
    return turns
