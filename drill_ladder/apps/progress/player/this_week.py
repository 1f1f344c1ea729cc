"""A player's week in a few lines: what is planned on which day, and what has been done of it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.models import Prescription, Status
from drill_ladder.apps.stored import first_with
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.querysets import monday_of


@dataclass(frozen=True, slots=True)
class Line:
    """A planned block, what it is called, and whether it was worked on that day."""

    block: PlannedBlock
    title: str
    done: bool


@dataclass(frozen=True, slots=True)
class ThisWeek:
    """week: None before anything is planned; days: those with blocks, in order; extra: days of work
    not planned.
    """

    week: Week | None
    days: list[tuple[date, list[Line]]]
    extra: int


def this_week(player: Player, ladders: Sequence[Prescription], today: date) -> ThisWeek:
    """The week that a day lies in; ladders: all of the player's, as with_climb gives them."""
    week = first_with(Week.objects.of(player, today), "blocks")
    by_id = {p.pk: p for p in ladders}
    worked = {
        (_work(p), day.on)
        for p in ladders
        for stay in p.stays.all()
        for day in stay.judged.all()
        if day.on >= monday_of(today)
    }
    days: dict[date, list[Line]] = {}
    planned = set()
    for block in list(week.blocks.all()) if week else []:
        ladder = by_id[block.prescription_id]
        place = (_work(ladder), block.on)
        planned.add(place)
        if ladder.status != Status.ACTIVE and place not in worked:
            continue  # the ladder has ended since
        title = f"{ladder.player_routine.routine if ladder.player_routine else ladder.ladder}"
        days.setdefault(block.on, []).append(Line(block, title, place in worked))
    return ThisWeek(week, sorted(days.items()), len(worked - planned))


def _work(p: Prescription) -> tuple[str, int]:
    """What counts as one piece of work: a ladder, or a routine with all its parts."""
    routine = p.player_routine_id
    return ("ladder", p.pk) if routine is None else ("routine", routine)
