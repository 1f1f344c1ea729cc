"""How long until, where some are still waiting and some have left another way.

Sources: Kaplan and Meier (1958) for one kind of end; Aalen and Johansen (1978) for the cumulative
incidence of one end while another competes. Where both happen at the same number of sessions, ends
come before those who are still waiting.
"""

from collections import Counter
from collections.abc import Sequence
from enum import StrEnum

from drill_ladder.core.thresholds import at_least

HALF = 0.5


class Left(StrEnum):
    """How a stay ended: upwards, downwards, or not yet."""

    UP = "up"
    DOWN = "down"
    OPEN = "open"


def incidence(times: Sequence[tuple[int, Left]]) -> list[tuple[int, float]]:
    """(t, share that has left upwards by t) at every t with an end; times: (sessions, how it
    ended).
    """
    ends = Counter(times)
    at_risk, alive, up = len(times), 1.0, 0.0
    steps = []
    for t in sorted({t for t, _ in times}):
        ups, downs = ends[t, Left.UP], ends[t, Left.DOWN]
        if ups or downs:
            up += alive * ups / at_risk
            alive *= 1 - (ups + downs) / at_risk
            steps.append((t, up))
        at_risk -= ups + downs + ends[t, Left.OPEN]
    return steps


def median_up(times: Sequence[tuple[int, Left]]) -> int | None:
    """The least t by which half have left upwards; None where that is not reached."""
    return next((t for t, share in incidence(times) if at_least(share, HALF)), None)
