"""A speed block stops itself: rounds in order, until one is too slow beside the best so far
(design, section 27).

The limit of 5 % is common practice, no source; the noise of a difference between two trials,
sqrt(2) typical errors, as in Hopkins (2000), Measures of reliability in sports medicine and
science.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from typing import NamedTuple

from drill_ladder.core.thresholds import at_least

LIMIT = 0.05


class Stopping(NamedTuple):
    """How sure a stop has to be. te: the timing's typical error in seconds, None where it is not
    known; running: slow rounds in a row that it takes, 2 by hand, since a thumb errs by a tenth.
    """

    te: float | None = None
    running: int = 1


ALONE = Stopping()


@dataclass(frozen=True, slots=True)
class DropOff:
    """Where it stopped. best: the least of the counted rounds, in seconds; drops: share by which a
    round was slower than the best of all before it, None for the first; stop_after: how many rounds
    were done with the stop, None without one; counted: how many count.
    """

    best: float | None
    drops: tuple[float | None, ...]
    stop_after: int | None
    counted: int


def drop_off(
    rounds: Sequence[float], limit: float = LIMIT, te: float | None = None, running: int = 1
) -> DropOff:
    """rounds: seconds above 0, in order; limit: share above 0."""
    drops: list[float | None] = []
    best = slow = 0.0
    stop_after: int | None = None
    for number, seconds in enumerate(rounds, 1):
        drop = (seconds - best) / best if number > 1 else None
        drops.append(drop)
        if drop is not None:
            mark = max(limit, 2 * sqrt(2) * (te or 0.0) / best)
            slow = slow + 1 if at_least(drop, mark) else 0
            if slow >= running and stop_after is None:
                stop_after = number
        best = seconds if number == 1 else min(best, seconds)
    counted = len(rounds) if stop_after is None else stop_after
    return DropOff(min(rounds[:counted], default=None), tuple(drops), stop_after, counted)
