"""How long until, where some are still waiting and some have left another way.

Sources: Kaplan and Meier (1958) for one kind of end, its interval after Greenwood on log(-log) and
the median's after Brookmeyer and Crowley (1982), checked against lifelines; Aalen and Johansen
(1978) for the cumulative incidence of one end while another competes. Where both happen at the same
number of sessions, ends come before those who are still waiting.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from math import exp, inf, log, sqrt

from drill_ladder.core.thresholds import at_least

HALF = 0.5
Z = 1.959963984540054  # 95 % of a normal distribution


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


@dataclass(frozen=True, slots=True)
class Median:
    """The time by which half were there, with its 95 % interval; None where that is not
    reached.
    """

    value: int | None
    low: int | None
    high: int | None


def median_time(times: Sequence[tuple[int, bool]]) -> Median:
    """times: (sessions, whether it was reached by then); who is not there yet still waits."""
    reached, waiting = Counter(t for t, hit in times if hit), Counter(t for t, _ in times)
    at_risk, alive, spread = len(times), 1.0, 0.0
    steps: list[tuple[int, float, float, float]] = []
    for t in sorted(waiting):
        hits = reached[t]
        if hits:
            alive *= 1 - hits / at_risk
            spread += hits / (at_risk * (at_risk - hits)) if at_risk > hits else inf
            steps.append((t, *_band(alive, spread)))
        at_risk -= waiting[t]
    value, low, high = (
        next((step[0] for step in steps if at_least(HALF, step[i])), None) for i in (1, 2, 3)
    )
    return Median(value, low, high)


def _band(alive: float, spread: float) -> tuple[float, float, float]:
    """(Share still waiting, the ends of its interval)."""
    if alive <= 0 or alive >= 1 or spread == inf:
        return alive, alive, alive
    middle, half = log(-log(alive)), Z * sqrt(spread) / abs(log(alive))
    return alive, exp(-exp(middle + half)), exp(-exp(middle - half))
