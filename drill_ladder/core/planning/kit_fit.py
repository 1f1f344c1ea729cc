"""Whether a tool fits the body: sizes as shares of body height (docs/methods.md, 35).

It is said and never blocks anything; what is comfortable is for player and coach to feel.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.core.planning.home_version import tool
from drill_ladder.core.thresholds import at_least, at_most

ASK_AGAIN_DAYS = 183  # half a year: children grow


@dataclass(frozen=True, slots=True)
class KitWindow:
    """A tool whose size goes with the body: from low to high, shares of body height."""

    tool: str
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Misfit:
    """A tool outside of its window; everything in centimetres."""

    tool: str
    size: float
    low: float
    high: float


def misfits(
    windows: Sequence[KitWindow], height_cm: float | None, sizes: Mapping[str, float]
) -> list[Misfit]:
    """The tools that are too small or too large for the player; sizes in centimetres, by name.
    What nobody measured is no misfit.
    """
    if height_cm is None:
        return []
    known = {tool(name): size for name, size in sizes.items()}
    found = []
    for window in windows:
        size, low, high = (
            known.get(tool(window.tool)),
            window.low * height_cm,
            window.high * height_cm,
        )
        if size is not None and not (at_least(size, low) and at_most(size, high)):
            found.append(Misfit(window.tool, size, low, high))
    return found


def measure_again(measured_on: date | None, today: date) -> bool:
    """Whether a height is too old to go by."""
    return measured_on is not None and (today - measured_on).days > ASK_AGAIN_DAYS
