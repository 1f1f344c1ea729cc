"""What a form asks for, by kind of measure: one entry for each set and lane; and the numbers that
are asked about once before they are stored: a slip of the thumb would climb a ladder. Asked,
never refused for good.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice, product
from typing import Any

from drill_ladder.core.judging import Rung
from drill_ladder.core.plans import Plan, implausible, mean_speed, swapped
from drill_ladder.formats.measures import form_of

MOST_ROWS = 200  # of one page: a phone has to show them, and a server to read them
HOUR = 3600.0
FASTEST_HANDS = 10.0  # repetitions a second: our choice, over anything a hand does
MANY_TIMES = 5  # as often as asked


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


def questions(
    values: dict[str, Any], rung: Rung, asked: int | None, plan: Plan | None
) -> Iterator[tuple[str, str]]:
    """(field, what is asked) of one set."""
    seconds, count, attempts = (values.get(key) for key in ("seconds", "count", "attempts"))
    if seconds is not None:
        yield from _of_seconds(seconds, plan)
    if count is not None and rung.measure.window:
        yield from _of_count(count, rung.measure.window, plan)
    if attempts is not None and asked and attempts > MANY_TIMES * asked:
        yield "attempts", f"{attempts} attempts where {asked} are asked."


def _of_seconds(seconds: float, plan: Plan | None) -> Iterator[tuple[str, str]]:
    if seconds == 0:
        yield "seconds", "Nothing takes no time at all."
    elif seconds > HOUR:
        yield "seconds", "That is over an hour."
    elif plan is not None and plan.legs and implausible(plan, seconds):
        speed = f"{mean_speed(plan, seconds):.1f}"
        yield "seconds", f"That would be {speed}\u00a0m/s over this floor plan."


def _of_count(count: float, window_s: float, plan: Plan | None) -> Iterator[tuple[str, str]]:
    """A count over a path implies a speed, one without it a pace."""
    if count / window_s > FASTEST_HANDS:
        yield "count", f"That would be {count / window_s:.0f} a second."
    elif count and plan is not None and plan.legs and implausible(plan, window_s / count):
        speed = f"{mean_speed(plan, window_s / count):.1f}"
        yield "count", f"That would be {speed}\u00a0m/s over this floor plan."
