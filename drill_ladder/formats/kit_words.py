"""Sizes of tools as people type and read them: windows by body height, and a player's own."""

import re
from collections.abc import Mapping, Sequence

from drill_ladder.core.planning import KitWindow, Misfit, OverLimit, SetTo
from drill_ladder.formats.drill_shapes import LONGEST_BY
from drill_ladder.formats.sentences import plain

_NUMBER = r"(\d+(?:[.,]\d+)?)"
_WINDOW = re.compile(
    rf"\s*(.*?[^\s\d:])\s*:?\s+{_NUMBER}\s*(?:to|-|–)\s*{_NUMBER}\s*%?\s*(?:,\s*(\S.*?)\s*)?"
)
_SIZE = re.compile(rf"\s*(.*?[^\s\d:])\s*:?\s+{_NUMBER}\s*(?:cm)?\s*")
LARGEST_SHARE, LARGEST_CM = 2.0, 400


class BadSize(ValueError):
    """A line that is no size, with what it should look like."""


def read_windows(text: str) -> tuple[KitWindow, ...]:
    """One tool a line, in percent of body height. Raises BadSize.

    >>> read_windows("tee 30 to 60 %, knee to navel")
    (KitWindow(tool='tee', low=0.3, high=0.6, by='knee to navel'),)
    """
    return tuple(_window(line) for line in text.splitlines() if line.strip())


def _window(line: str) -> KitWindow:
    found = _WINDOW.fullmatch(line)
    if found is None:
        raise BadSize(f"“{line.strip()}” is no tool with its sizes: write “stick 50 to 60 %”.")
    low, high = _of(found[2]) / 100, _of(found[3]) / 100
    if not 0 < low <= high <= LARGEST_SHARE:
        raise BadSize(f"“{line.strip()}”: from small to large, in percent of the body's height.")
    by = found[4] or ""
    if len(by) > LONGEST_BY:
        raise BadSize(f"“{by[:40]}…”: how it is measured, in at most {LONGEST_BY} letters.")
    return KitWindow(found[1], low, high, by)


def windows_text(windows: Sequence[KitWindow]) -> str:
    """As they are typed."""
    return "\n".join(map(_window_text, windows))


def _window_text(window: KitWindow) -> str:
    how = f", {window.by}" if window.by else ""
    return f"{window.tool} {_percent(window.low)} to {_percent(window.high)} %{how}"


def read_sizes(text: str) -> dict[str, float]:
    """A player's own tools in centimetres, with commas or line ends between. Raises BadSize.

    >>> read_sizes("stick 88, racket 66,5 cm")
    {'stick': 88.0, 'racket': 66.5}
    """
    parts = [part for part in re.split(r"[;\n]|,\s", text) if part.strip()]
    return dict(_size(part) for part in parts)


def _size(part: str) -> tuple[str, float]:
    found = _SIZE.fullmatch(part)
    if found is None or not 0 < _of(found[2]) <= LARGEST_CM:
        raise BadSize(f"“{part.strip()}” is no tool with its length: write “stick 88, racket 66”.")
    return found[1], _of(found[2])


def sizes_text(sizes: Mapping[str, float]) -> str:
    """As they are typed."""
    return ", ".join(f"{name} {plain(size)}" for name, size in sizes.items())


def misfit_words(one: Misfit) -> str:
    """What is said of a tool outside of its window."""
    way = "short" if one.size < one.low else "long"
    return (
        f"{_capital(one.tool)} of {plain(one.size)}\u00a0cm: rather {way} for this "
        f"height, usual is {one.low:.0f} to {one.high:.0f}\u00a0cm. Try another if it feels wrong."
    )


def over_words(over: OverLimit) -> str:
    """What is said of a tool that a governing body does not allow."""
    most, least = over.limit.most, over.limit.least
    long = most is not None and over.size > most
    way, bound = ("at most", most) if long else ("at least", least)
    age = f" under {over.limit.under}" if over.limit.under else ""
    return (
        f"{_capital(over.tool)} of {plain(over.size)}\u00a0cm: {way} {plain(bound or 0)}\u00a0cm "
        f"is allowed{age} ({over.limit.whose})."
    )


def set_words(one: SetTo) -> str:
    """To what a tool is set for this body, or how that is found without a height."""
    window = one.window
    how = window.by or f"{_percent(window.low)} to {_percent(window.high)}\u00a0% of the height"
    if one.low is None or one.high is None:
        return f"{_capital(window.tool)}: {how}"
    by = f", {window.by}" if window.by else ""
    limit = f" (limit: {one.limit.whose})" if one.limit else ""
    return f"{_capital(window.tool)}: {one.low:.0f} to {one.high:.0f}\u00a0cm{by}{limit}"


def _capital(text: str) -> str:
    return f"{text[:1].upper()}{text[1:]}"


def _of(text: str) -> float:
    return float(text.replace(",", "."))


def _percent(share: float) -> str:
    return plain(round(share * 100, 2))
