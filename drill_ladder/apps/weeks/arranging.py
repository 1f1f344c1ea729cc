"""The days of a week filled: what is asked placed around what is kept, each day in order, each
dose in the minutes that are left. Worked out first, for one week or for many, and stored then.
"""

from collections.abc import Collection, Sequence
from datetime import date

from drill_ladder.apps.prescriptions.dose import beyond, of_the_day
from drill_ladder.apps.prescriptions.minutes import Wanted
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.plan import SOLVER_NODES, WeekPlan
from drill_ladder.core.judging import Intent
from drill_ladder.core.planning import Block, Part, in_order, plan_within
from drill_ladder.core.work import Place

PARTS = {
    Intent.SPEED: Part.SPEED_OR_NEW,
    Intent.SKILL: Part.TECHNIQUE,
    Intent.PRESSURE: Part.PRESSURE,
    Intent.ENDURANCE: Part.CONDITIONING,
}
ARRANGED = ("order", "place", "way", "stay", "sets", "reps", "bound", "minutes")
AT_ONCE = 500


def worked_on(plans: Sequence[WeekPlan]) -> set[int]:
    """Stays of skill work on which anything was done: what is not among them is new."""
    skill = [
        wanted.stay.pk
        for plan in plans
        for wanted in plan.demand.values()
        if wanted.wish.intent is Intent.SKILL
    ]
    return Stay.objects.worked_on_among(skill) if skill else set()


def place(plan: WeekPlan) -> None:
    """What is asked, around what is locked."""
    plan.blocks = [block for block in plan.asked_blocks if block.locked]
    days, kept = plan.days, {(block.on, str(block.prescription_id)) for block in plan.blocks}
    placed, _, plan.proven = plan_within(days, plan.wishes, kept, SOLVER_NODES, True, plan.room)
    places = {day.on: day.place for day in days}
    plan.blocks += [
        PlannedBlock(
            club_id=plan.week.club_id,
            week=plan.week,
            prescription=plan.demand[block.id].prescription,
            stay=plan.demand[block.id].stay,
            on=block.on,
            order=block.order,
            minutes=round(plan.demand[block.id].minutes),
            place=places[block.on],
        )
        for block in placed
        if (block.on, block.id) not in kept
    ]
    _add_tired(plan)


def _add_tired(plan: WeekPlan) -> None:
    """Where a ladder is wanted twice a day, the second one of each day."""
    there = {(block.on, block.prescription_id) for block in plan.blocks if block.tired}
    plan.blocks += [
        PlannedBlock(
            club_id=plan.week.club_id,
            week=plan.week,
            prescription=block.prescription,
            stay=block.stay,
            on=block.on,
            order=block.order,
            minutes=block.minutes,
            place=block.place,
            locked=block.locked,
            tired=True,
        )
        for block in plan.blocks
        if not block.tired and (block.on, block.prescription_id) not in there
        if (wanted := plan.wanted(block)) and wanted.tired_too
    ]


def arrange(plan: WeekPlan, worked: Collection[int]) -> None:
    """Order within each day, dose bands from the minutes that are left, the home version of each
    block, and what then found no place. worked: stays on which anything was done.
    """
    plan.blocks.sort(key=_as_stored)
    for day in plan.days:
        here = [block for block in plan.blocks if block.on == day.on]
        left = (day.minutes - sum(block.minutes for block in here)) * 60
        for order, block in enumerate(_ordered(plan, here, worked), 1):
            wanted = plan.wanted(block)
            block.order, block.place = order, day.place
            block.way = wanted.way if wanted and day.place == Place.HOME else ""
            if wanted:
                left -= _resolve(block, wanted, left)
    plan.blocks.sort(key=lambda block: (block.on, block.order))
    plan.week.unplaced, plan.week.unplaced_of = plan.work_out_unplaced(), plan.sign()


def _as_stored(block: PlannedBlock) -> tuple[date, int, bool, int]:
    return block.on, block.order, block.pk is None, block.pk or 0


def store(plans: Sequence[WeekPlan]) -> None:
    """Their blocks as they are in hand, and no others."""
    blocks = [block for plan in plans for block in plan.blocks]
    known = [block for block in blocks if block.pk]
    gone = PlannedBlock.objects.of_weeks(plan.week for plan in plans)
    gone.exclude(pk__in=[block.pk for block in known]).delete()
    PlannedBlock.objects.bulk_create([b for b in blocks if not b.pk], AT_ONCE)
    PlannedBlock.objects.bulk_update(known, ARRANGED, AT_ONCE)
    Week.objects.bulk_update([plan.week for plan in plans], ["unplaced", "unplaced_of"], AT_ONCE)


def arrange_and_store(plan: WeekPlan) -> None:
    """After a change by hand."""
    arrange(plan, worked_on([plan]))
    store([plan])


def _ordered(
    plan: WeekPlan, blocks: Sequence[PlannedBlock], worked: Collection[int]
) -> list[PlannedBlock]:
    """Speed and new things while fresh, conditioning last; ties by priority (core, section 13).
    What is done tired stands at the end.
    """
    by_id = {str(number): block for number, block in enumerate(blocks)}

    def part(block: PlannedBlock) -> Part:
        wanted = plan.wanted(block)
        if wanted is None:
            return Part.GAME
        intent = wanted.wish.intent
        is_new = intent is Intent.SKILL and wanted.stay.pk not in worked
        return Part.SPEED_OR_NEW if is_new else PARTS[intent]

    def maximal(block: PlannedBlock) -> bool:
        wanted = plan.wanted(block)
        return wanted is not None and wanted.stay.worked_on.drill.only_fresh

    parts = [
        Block(
            number,
            part(b),
            1,
            1,
            priority=b.prescription.priority,
            contact_or_maximal=maximal(b),
        )
        for number, b in by_id.items()
    ]
    ordered = [by_id[block.id] for block in in_order(parts)]
    return sorted(ordered, key=lambda block: block.tired)


def _resolve(block: PlannedBlock, wanted: Wanted, seconds_left: float) -> float:
    """The number that a dose band comes to in the time left, and the seconds that this took beyond
    the block. A block that was planned on another rung is left as it was.
    """
    block.stay = block.stay or wanted.stay
    if wanted.routine is not None:
        return 0.0
    if block.stay_id != wanted.stay.pk:
        return 0.0
    dosed, block.bound = of_the_day(wanted.rung, seconds_left)
    block.sets, block.reps = None, None
    if not wanted.rung.is_open:
        return 0.0
    block.sets, block.reps = dosed.dose.sets, dosed.dose.reps
    more = beyond(wanted.rung, dosed)
    block.minutes = round(wanted.minutes + more / 60)
    return more
