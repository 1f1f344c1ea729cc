"""What two coaches did to the same thing, side by side, so that nothing is overwritten unseen."""

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Difference:
    """One place where what is stored and what was typed are not alike."""

    place: str
    stored: str
    typed: str


def differences(stored: Mapping[str, str], typed: Mapping[str, str]) -> list[Difference]:
    """Every place of either that is not alike, in the order of what is stored, then of what
    is new.
    """
    places = list(dict.fromkeys([*stored, *typed]))
    pairs = [
        Difference(place, stored.get(place, "not there"), typed.get(place, "not there"))
        for place in places
    ]
    return [pair for pair in pairs if pair.stored != pair.typed]
