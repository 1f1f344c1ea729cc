"""Walking a document that may be wrong anywhere, so that every fault is found and not only the
first.
"""

from collections.abc import Iterator
from datetime import date

from drill_ladder.formats.mistakes import Mistake, path_of

LARGEST = 1e308


class Node:
    """One value of a document with its place. Asking for what is not there gives an empty node,
    never an error.
    """

    __slots__ = ("faults", "loc", "value")

    def __init__(
        self, value: object, faults: list[Mistake], loc: tuple[str | int, ...] = ()
    ) -> None:
        self.value, self.faults, self.loc = value, faults, loc

    def __getitem__(self, key: str) -> "Node":
        inner = self.value.get(key) if isinstance(self.value, dict) else None
        return Node(inner, self.faults, (*self.loc, key))

    def each(self) -> Iterator["Node"]:
        """The entries of a list; none for anything else."""
        if isinstance(self.value, list):
            for i, inner in enumerate(self.value):
                yield Node(inner, self.faults, (*self.loc, i))

    def refuse(self, message: str) -> None:
        """Note a fault at this place."""
        self.faults.append(Mistake(path_of(self.loc), message))

    def require_that(self, holds: bool, message: str) -> None:
        """Note a fault at this place unless something holds."""
        if not holds:
            self.refuse(message)

    @property
    def text(self) -> str | None:
        """The value if it is text."""
        return self.value if isinstance(self.value, str) else None

    @property
    def number(self) -> float | None:
        """The value if it is a finite number."""
        if isinstance(self.value, bool) or not isinstance(self.value, int | float):
            return None
        # a whole number of four hundred digits is more than a float holds
        return self.value if -LARGEST < self.value < LARGEST else None

    @property
    def day(self) -> date | None:
        """The value if it is a real day written YYYY-MM-DD."""
        if not isinstance(self.value, str) or len(self.value) != 10:
            return None
        try:
            return date.fromisoformat(self.value)
        except ValueError:
            return None

    def no_doubles(self, entries: "Iterator[Node]") -> list[str]:
        """Refuse texts that are given twice among the entries; the different ones in order."""
        seen: list[str] = []
        for entry in entries:
            if entry.text is None:
                continue
            if entry.text in seen:
                entry.refuse("is given twice")
            else:
                seen.append(entry.text)
        return seen
