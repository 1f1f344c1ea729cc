"""Whether a tool fits the body: sizes as shares of body height, and the limits of the club's own
governing body (docs/methods.md, 35).

It is said and never blocks anything; what is comfortable is for player and coach to feel.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.core.planning.home_version import tool
from drill_ladder.core.thresholds import at_least, at_most

ASK_AGAIN_DAYS = 183  # half a year: children grow


@dataclass(frozen=True, slots=True)
class KitWindow:
    """A tool whose size goes with the body: from low to high, shares of body height; by: how it is
    measured without a height, as from the knee to the navel.
    """

    tool: str
    low: float
    high: float
    by: str = ""


@dataclass(frozen=True, slots=True)
class Misfit:
    """A tool outside of its window; everything in centimetres."""

    tool: str
    size: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class SizeLimit:
    """The most or least that a governing body allows of a tool, centimetres. under: only for
    players younger than this, full years; whose: its name and date, in words.
    """

    tool: str
    least: float | None = None
    most: float | None = None
    under: int | None = None
    whose: str = ""


@dataclass(frozen=True, slots=True)
class OverLimit:
    """A player's own tool beyond a limit, centimetres."""

    tool: str
    size: float
    limit: SizeLimit


@dataclass(frozen=True, slots=True)
class SetTo:
    """To what a tool is set for a body that has no size of its own noted: centimetres, None where
    nobody knows the height, and then shares of it; limit: the one that narrows it.
    """

    window: KitWindow
    low: float | None = None
    high: float | None = None
    limit: SizeLimit | None = None


def misfits(
    windows: Sequence[KitWindow], height_cm: float | None, sizes: Mapping[str, float]
) -> list[Misfit]:
    """The tools that are too small or too large for the player; sizes in centimetres, by name.
    What nobody measured is no misfit.
    """
    if height_cm is None:
        return []
    known = {tool(name): size for name, size in sizes.items()}
    outside = []
    for window in windows:
        size, low, high = (
            known.get(tool(window.tool)),
            window.low * height_cm,
            window.high * height_cm,
        )
        if size is not None and not (at_least(size, low) and at_most(size, high)):
            outside.append(Misfit(window.tool, size, low, high))
    return outside


def set_to(
    windows: Sequence[KitWindow],
    height_cm: float | None,
    sizes: Mapping[str, float],
    limits: Sequence[SizeLimit] = (),
) -> list[SetTo]:
    """To what the tools are set whose size nobody noted for this player. limits: those that hold
    at the player's age; a window that they leave nothing of stays as it is, with the limit said.
    """
    own = {tool(name) for name in sizes}
    asked = [window for window in windows if tool(window.tool) not in own]
    if height_cm is None:
        return [SetTo(window) for window in asked]
    return [_narrowed(window, height_cm, limits) for window in asked]


def _narrowed(window: KitWindow, height_cm: float, limits: Sequence[SizeLimit]) -> SetTo:
    low, high, by = window.low * height_cm, window.high * height_cm, None
    for limit in limits:
        if tool(limit.tool) != tool(window.tool):
            continue
        if limit.most is not None and limit.most < high:
            high, by = max(low, limit.most), limit
        if limit.least is not None and limit.least > low:
            low, by = min(high, limit.least), limit
    return SetTo(window, low, high, by)


def over_limits(limits: Sequence[SizeLimit], sizes: Mapping[str, float]) -> list[OverLimit]:
    """The player's own tools that a limit forbids at their age; sizes in centimetres, by name."""
    return [over for limit in limits for over in _over(limit, sizes)]


def _over(limit: SizeLimit, sizes: Mapping[str, float]) -> Iterator[OverLimit]:
    for name, size in sizes.items():
        if tool(name) != tool(limit.tool):
            continue
        low_enough = limit.most is None or at_most(size, limit.most)
        high_enough = limit.least is None or at_least(size, limit.least)
        if not (low_enough and high_enough):
            yield OverLimit(name, size, limit)


def only_of(tools: Sequence[str], sizes: Mapping[str, float]) -> dict[str, float]:
    """The sizes of those tools."""
    used = {tool(name) for name in tools}
    return {name: size for name, size in sizes.items() if tool(name) in used}


def of_age(limits: Sequence[SizeLimit], age: int | None) -> list[SizeLimit]:
    """Those that hold at an age, full years. Of an age that nobody knows only those of all ages
    hold.
    """
    return [limit for limit in limits if limit.under is None or _younger(age, limit.under)]


def _younger(age: int | None, than: int) -> bool:
    return age is not None and age < than


def measure_again(measured_on: date | None, today: date) -> bool:
    """Whether a height is too old to go by."""
    return measured_on is not None and (today - measured_on).days > ASK_AGAIN_DAYS
