"""What a form asks for, by kind of measure: one entry for each set and lane."""

from dataclasses import dataclass
from itertools import islice, product

from drill_ladder.core.judging import Rung
from drill_ladder.core.plans import swapped
from drill_ladder.formats.measures import form_of

MOST_ROWS = 200  # of one page: a phone has to show them, and a server to read them


@dataclass(frozen=True, slots=True)
class Entry:
    """One set in one lane. asked: attempts (makes, points) of it, else None; said: the lane as this
    player is told it, where that is another word.
    """

    prefix: str
    lane: str
    number: int
    asked: int | None
    sets: int
    said: str = ""

    @property
    def title(self) -> str:
        """Left, set 2."""
        lane = self.said or self.lane
        parts = [lane.capitalize()] if lane else []
        if self.sets > 1:
            parts.append(f"set {self.number}" if parts else f"Set {self.number}")
        return ", ".join(parts) or "All of it"


def entries_for(rung: Rung, mirrored: bool = False) -> list[Entry]:
    """The entries of a rung: set by set, lane by lane inside a set; the first MOST_ROWS of them.
    mirrored: for a left-hander.
    """
    sets, lanes = rung.measure.trials(rung.dose), rung.lanes or ("",)
    asked = (rung.reps_per_set or 10) if rung.measure.counts_attempts else None
    pairs = islice(product(range(1, sets + 1), lanes), MOST_ROWS)
    return [
        Entry(f"e{i}", lane, number, asked, sets, swapped(lane) if mirrored else "")
        for i, (number, lane) in enumerate(pairs)
    ]


def entries_beyond(rung: Rung) -> int:
    """How many entries a page does not take at once: those are for the next time it is opened."""
    return max(0, rung.measure.trials(rung.dose) * max(1, len(rung.lanes)) - MOST_ROWS)


def fields_for(rung: Rung) -> tuple[tuple[str, str], ...]:
    """The measured fields of one entry."""
    return form_of(rung.measure).fields
