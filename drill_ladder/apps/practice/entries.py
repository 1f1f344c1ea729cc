"""What a form asks for, by kind of measure: one entry for each set and lane."""

from dataclasses import dataclass

from drill_ladder.core.ladders import Rung
from drill_ladder.core.measures import Checklist, Count, Done, Makes, Points, Streak, Time, ToN

# measured fields in the order in which they are typed; kind -> ((field, label), ...)
FIELDS: dict[type, tuple[tuple[str, str], ...]] = {
    Makes: (("makes", "Good ones"), ("attempts", "Attempts")),
    Points: (("points", "Points"), ("attempts", "Attempts")),
    Time: (("seconds", "Seconds"),),
    Count: (("count", "Repetitions"),),
    Streak: (("best_run", "Longest run"),),
    ToN: (("attempts", "Attempts it took"),),
    Checklist: (("ticks", "Checkpoints seen"),),
    Done: (("share", "Share done, %"),),
}


@dataclass(frozen=True, slots=True)
class Entry:
    """One set in one lane. asked: attempts (makes, points) of it, else None."""

    prefix: str
    lane: str
    number: int
    asked: int | None
    sets: int

    @property
    def title(self) -> str:
        """Left, set 2."""
        parts = [self.lane.capitalize()] if self.lane else []
        if self.sets > 1:
            parts.append(f"set {self.number}" if parts else f"Set {self.number}")
        return ", ".join(parts) or "All of it"


def entries_for(rung: Rung) -> list[Entry]:
    """The entries of a rung: set by set, lane by lane inside a set."""
    sets = rung.dose.sets
    asked: int | None = None
    if isinstance(rung.measure, Makes | Points):
        asked = rung.reps_per_set or 10
    elif isinstance(rung.measure, Time):
        sets *= rung.dose.reps or 1
    pairs = [(number, lane) for number in range(1, sets + 1) for lane in (rung.lanes or ("",))]
    return [Entry(f"e{i}", lane, number, asked, sets) for i, (number, lane) in enumerate(pairs)]


def fields_for(rung: Rung) -> tuple[tuple[str, str], ...]:
    """The measured fields of one entry."""
    return FIELDS[type(rung.measure)]
