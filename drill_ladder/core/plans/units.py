"""Lengths. Everything is metres inside; one layout is stored in one unit and converted.

Source of the factors: the international yard and pound agreement of 1959 (1 yd = 0.9144 m exactly;
1 ft = yd / 3). A pace or a shoe is as long as the player's own: common practice, no source.
"""

from enum import StrEnum

from drill_ladder.core.errors import CoreError


class Unit(StrEnum):
    """A unit of length."""

    M = "m"
    FT = "ft"
    YD = "yd"
    PACE = "pace"
    SHOE = "shoe"


_EXACT_M = {Unit.M: 1.0, Unit.FT: 0.3048, Unit.YD: 0.9144}


def metres_per(unit: Unit, unit_m: float | None = None) -> float:
    """Metres in one unit. unit_m: the player's own pace or shoe in metres, > 0.

    Raises CoreError where it is needed and not given, and where it is given for a unit that has a
    length of its own.
    """
    if unit in _EXACT_M:
        if unit_m is not None:
            raise CoreError(f"{unit.value} has a length of its own: leave unit_m out")
        return _EXACT_M[unit]
    if unit_m is None or unit_m <= 0:
        raise CoreError(f"a {unit.value} needs its length in metres")
    return unit_m


def to_metres(value: float, unit: Unit, unit_m: float | None = None) -> float:
    """A length in metres."""
    return value * metres_per(unit, unit_m)


def from_metres(metres: float, unit: Unit, unit_m: float | None = None) -> float:
    """A length in a unit."""
    return metres / metres_per(unit, unit_m)
