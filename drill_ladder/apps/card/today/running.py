"""One run through today: block after block in their order, and why one was left out."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.card.today.blocks import CardBlock
from drill_ladder.apps.library.models import Caution
from drill_ladder.apps.practice.models import Skip
from drill_ladder.apps.practice.routines import stays_of
from drill_ladder.apps.prescriptions.dose import minutes_of
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.prescriptions.routines import minutes_of_routine


def due_today(blocks: Sequence[CardBlock]) -> list[CardBlock]:
    """What is asked for today, in its order."""
    return sorted((block for block in blocks if block.due), key=lambda block: block.place)


def next_after(blocks: Sequence[CardBlock], stay: int) -> CardBlock | None:
    """The next of today's blocks after one of them, done or skipped; None after the last."""
    here = next((block for block in blocks if block.stay.pk == stay), None)
    later = [b for b in due_today(blocks) if here is None or b.place > here.place]
    return next((block for block in later if block.stay.pk != stay), None)


def before(blocks: Sequence[CardBlock], stay: int) -> CardBlock | None:
    """The block of today before one of them, done or not; None before the first."""
    here = next((block for block in blocks if block.stay.pk == stay), None)
    if here is None:
        return None
    earlier = [b for b in blocks if (b.due or b.done_today) and b.place < here.place]
    return max(earlier, key=lambda block: block.place, default=None)


def minutes_today(blocks: Sequence[CardBlock]) -> int:
    """Minutes of what is asked for today."""
    return sum(_minutes(block) for block in due_today(blocks))


def _minutes(block: CardBlock) -> int:
    if block.told:
        return block.told.minutes
    if block.routine:
        return minutes_of_routine(block.routine, stays_of(block.routine))
    return minutes_of(block.rung)


def skip(stay: Stay, reason: str, on: date) -> None:
    """For the coaches, that a block was left out and why; once a day for each reason. A routine is
    left out with all of its parts.
    """
    routine = stay.prescription.player_routine
    for one in stays_of(routine) if routine else [stay]:
        Skip.objects.get_or_create(club_id=one.club_id, stay=one, on=on, why=reason)


@dataclass(frozen=True, slots=True)
class Needed:
    """What is got ready once, before the first block: tools of all of them, and for which an adult
    has to be there; minutes: of all of it; blocks: how many there are.
    """

    tools: list[str]
    adult: list[str]
    minutes: int
    blocks: int


def what_is_needed(blocks: Sequence[CardBlock]) -> Needed:
    """For everything that is asked for today."""
    due = due_today(blocks)
    drills = [(block, stay.worked_on.drill) for block in due for stay in _stays(block)]
    tools = dict.fromkeys(tool for _, drill in drills for tool in drill.tools)
    adult = dict.fromkeys(
        block.title for block, drill in drills if drill.caution == Caution.HOME_WITH_ADULT
    )
    return Needed(list(tools), list(adult), minutes_today(blocks), len(due))


def _stays(block: CardBlock) -> list[Stay]:
    return stays_of(block.routine) if block.routine else [block.stay]


def place_in_day(blocks: Sequence[CardBlock], stay: int) -> dict[str, int]:
    """The number of a block among those of today, from 1, and of how many: done or not."""
    today = sorted((b for b in blocks if b.due or b.done_today), key=lambda block: block.place)
    number = next((i for i, b in enumerate(today, 1) if b.stay.pk == stay), 0)
    return {"number": number, "of": len(today)}


@dataclass(frozen=True, slots=True)
class DayDone:
    """A day as a whole, for its end. blocks: (title, why it was left out, "" for what was done);
    week: sessions done, and asked; goes_on: the next planned day.
    """

    blocks: list[tuple[str, str]]
    week: tuple[int, int]
    goes_on: date | None


def day_done(blocks: Sequence[CardBlock]) -> DayDone:
    """What came of today."""
    shown = [b for b in sorted(blocks, key=lambda b: b.place) if b.done_today or b.left_out]
    asked = sum(len(b.planned) or b.stay.prescription.per_week for b in blocks)
    later = [b.upcoming for b in blocks if b.upcoming]
    return DayDone(
        [(b.title, "" if b.done_today else b.left_out) for b in shown],
        (sum(min(b.done, len(b.planned) or b.stay.prescription.per_week) for b in blocks), asked),
        min(later, default=None),
    )
