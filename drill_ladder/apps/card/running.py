"""One run through today: block after block in their order, and why one was left out."""

from collections.abc import Sequence
from datetime import date

from drill_ladder.apps.card.blocks import CardBlock
from drill_ladder.apps.practice.models import Skip
from drill_ladder.apps.practice.routine_log import stays_of
from drill_ladder.apps.prescriptions.dosing import minutes_of
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.prescriptions.routines import minutes_of_routine


def _place(block: CardBlock) -> tuple[int, str, int]:
    return block.order, block.title, block.stay.pk


def due_today(blocks: Sequence[CardBlock]) -> list[CardBlock]:
    """What is asked for today, in its order."""
    return sorted((block for block in blocks if block.due), key=_place)


def next_after(blocks: Sequence[CardBlock], stay: int) -> CardBlock | None:
    """The next of today's blocks after one of them, done or skipped; None after the last."""
    here = next((block for block in blocks if block.stay.pk == stay), None)
    later = [b for b in due_today(blocks) if here is None or _place(b) > _place(here)]
    return next((block for block in later if block.stay.pk != stay), None)


def before(blocks: Sequence[CardBlock], stay: int) -> CardBlock | None:
    """The block of today before one of them, done or not; None before the first."""
    here = next((block for block in blocks if block.stay.pk == stay), None)
    if here is None:
        return None
    earlier = [b for b in blocks if (b.due or b.done_today) and _place(b) < _place(here)]
    return max(earlier, key=_place, default=None)


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
    given = stay.prescription.player_routine
    for one in stays_of(given) if given else [stay]:
        Skip.objects.get_or_create(club_id=one.club_id, stay=one, on=on, why=reason)
