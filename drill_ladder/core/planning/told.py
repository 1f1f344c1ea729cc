"""A week as a player was told it, kept word for word: whatever is planned anew, what was told stays
known.
"""

from dataclasses import dataclass
from datetime import date


@dataclass(frozen=True, slots=True)
class ToldBlock:
    """A block as it was told. key: which one of its prescription it is in the week, the same
    through every change.

    prescription: its stored id; place: home or club; way: the home version, empty for the full
    drill; dose and target in words; sets and reps: what its dose came to, None for one that is no
    band; stay: its stored id, None for what was told before it was kept;
    tired: the second of its day, at the end.
    """

    key: str
    prescription: int
    ladder: str
    title: str
    on: date
    order: int
    minutes: int
    place: str
    way: str = ""
    dose: str = ""
    target: str = ""
    cancelled: bool = False
    sets: int | None = None
    reps: int | None = None
    stay: int | None = None
    tired: bool = False


@dataclass(frozen=True, slots=True)
class ToldChange:
    """What a player was told about a week that changed after it was told."""

    at: date
    lines: tuple[str, ...]
