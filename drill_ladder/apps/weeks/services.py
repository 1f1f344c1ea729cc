"""Planning weeks: solve, move, lock, skip, copy. Telling the player is publishing.py."""

from collections.abc import Sequence
from datetime import date, timedelta

from django.db import transaction

from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players import refuse_resting, refuse_unless_coach
from drill_ladder.apps.prescriptions.dose import beyond, of_the_day
from drill_ladder.apps.prescriptions.minutes import Wanted
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.plan import SOLVER_NODES, WeekPlan, week_plan
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.judging import Intent
from drill_ladder.core.planning import Block, Day, Part, in_order, plan_within
from drill_ladder.core.work import Place
from drill_ladder.formats.home_words import why_not

PARTS = {
    Intent.SPEED: Part.SPEED_OR_NEW,
    Intent.SKILL: Part.TECHNIQUE,
    Intent.PRESSURE: Part.PRESSURE,
    Intent.ENDURANCE: Part.CONDITIONING,
}
ARRANGED = ("order", "place", "way", "stay", "sets", "reps", "bound", "minutes")


def locked_plan(member: Membership, player: Player, monday: date, adds: bool = True) -> WeekPlan:
    """The player's week in hand, made if it is new, locked for a change. Raises Refused.

    adds: whether the change may bring drills, which nobody who rests is given.
    """
    refuse_unless_coach(member, "Only a coach plans a week.")
    if player.club_id != member.club_id:
        raise Refused("That player is not of this club.")
    if adds:
        refuse_resting(player)
    monday = monday_of(monday)
    locked = Week.objects.of(player, monday).select_for_update()
    week = locked.first()
    if week is None:
        Week.objects.get_or_create(club_id=player.club_id, player=player, monday=monday)
        week = locked.get()
    week.player = player
    plan = week_plan(player, monday, week)
    plan.rests = False if adds else None
    return plan


@transaction.atomic
def solve(*, member: Membership, player: Player, monday: date) -> WeekPlan:
    """Plan the week anew around what is locked. Raises Refused."""
    plan = locked_plan(member, player, monday)
    _solve(plan)
    return plan


def _solve(plan: WeekPlan) -> None:
    plan.blocks = [block for block in plan.asked_blocks if block.locked]
    plan.week.blocks.exclude(pk__in=[block.pk for block in plan.blocks]).delete()
    days, kept = plan.days, {(block.on, str(block.prescription_id)) for block in plan.blocks}
    placed, _, plan.proven = plan_within(days, plan.wishes, kept, SOLVER_NODES, True, plan.room)
    places = {day.on: day.place for day in days}
    new = [
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
    plan.blocks += PlannedBlock.objects.bulk_create(new)
    _add_tired(plan)
    arrange(plan)


def _add_tired(plan: WeekPlan) -> None:
    """Where a ladder is wanted twice a day, the second one of each day."""
    there = {(block.on, block.prescription_id) for block in plan.blocks if block.tired}
    new = [
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
    plan.blocks += PlannedBlock.objects.bulk_create(new)


def arrange(plan: WeekPlan) -> None:
    """Order within each day, dose bands from the minutes that are left, the home version of each
    block; what then found no place is kept with the week.
    """
    new = _new(plan)
    plan.blocks.sort(key=lambda block: (block.on, block.order, block.pk))
    for day in plan.days:
        here = [block for block in plan.blocks if block.on == day.on]
        left = (day.minutes - sum(block.minutes for block in here)) * 60
        for order, block in enumerate(_ordered(plan, here, new), 1):
            wanted = plan.wanted(block)
            block.order, block.place = order, day.place
            block.way = wanted.way if wanted and day.place == Place.HOME else ""
            if wanted:
                left -= _resolve(block, wanted, left)
    plan.blocks.sort(key=lambda block: (block.on, block.order))
    PlannedBlock.objects.bulk_update(plan.blocks, ARRANGED)
    _keep_unplaced(plan)


def _keep_unplaced(plan: WeekPlan) -> None:
    plan.week.unplaced, plan.week.unplaced_of = plan.work_out_unplaced(), plan.sign()
    plan.week.save(update_fields=["unplaced", "unplaced_of"])


def _new(plan: WeekPlan) -> set[str]:
    """The ids of skill work that the player has not done yet on its rung."""
    skill = {
        id_: wanted.stay.pk
        for id_, wanted in plan.demand.items()
        if wanted.wish.intent is Intent.SKILL
    }
    worked = Stay.objects.worked_on_among(skill.values())
    return {id_ for id_, stay in skill.items() if stay not in worked}


def _ordered(plan: WeekPlan, blocks: Sequence[PlannedBlock], new: set[str]) -> list[PlannedBlock]:
    """Speed and new things while fresh, conditioning last; ties by priority (core, section 13).
    What is done tired stands at the end.
    """
    by_id = {str(block.pk): block for block in blocks}

    def part(block: PlannedBlock) -> Part:
        wanted = plan.wanted(block)
        if wanted is None:
            return Part.GAME
        return Part.SPEED_OR_NEW if wanted.wish.id in new else PARTS[wanted.wish.intent]

    def maximal(block: PlannedBlock) -> bool:
        wanted = plan.wanted(block)
        return wanted is not None and wanted.stay.worked_on.drill.only_fresh

    parts = [
        Block(
            *(str(b.pk), part(b), 1, 1),
            priority=b.prescription.priority,
            contact_or_maximal=maximal(b),
        )
        for b in blocks
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


@transaction.atomic
def move(*, member: Membership, block: PlannedBlock, on: date) -> WeekPlan:
    """Put a block on another day of its week and keep it there. What it breaks is shown, not
    refused.

    Raises Refused for a day of another week, for a block that is not asked for any more, and for
    what caution or the home rules out.
    """
    plan = locked_plan(member, block.week.player, block.week.monday)
    if not 0 <= (on - plan.monday).days <= 6:
        raise Refused("That day is not in this week. Nothing was moved.")
    day = next((d for d in plan.days if d.on == on), None)
    place = day.place if day else Place.HOME
    refuse_at_home(plan.wanted(block), place, adult=bool(day and day.adult))
    moved = next((b for b in plan.blocks if b.pk == block.pk), None)
    if moved is None:
        raise Refused("This block was taken away meanwhile. Nothing was moved.")
    for one in _pair(plan, moved):
        one.on, one.place, one.locked = on, place, True
        if wanted := plan.wanted(one):
            one.stay = wanted.stay
        one.save(update_fields=["on", "place", "locked", "stay"])
    arrange(plan)
    return plan


def _pair(plan: WeekPlan, block: PlannedBlock) -> list[PlannedBlock]:
    """A block with the one that is done tired on the same day: they belong together."""
    same = block.on, block.prescription_id
    tired = [b for b in plan.blocks if b.tired and (b.on, b.prescription_id) == same]
    return [block, *(other for other in tired if other.pk != block.pk)]


def refuse_at_home(wanted: Wanted | None, place: str, adult: bool) -> None:
    """Raise Refused for a block at home that caution or the home itself rules out."""
    if wanted is None:
        raise Refused(
            "This block is not asked for any more: solve the week again. Nothing was moved."
        )
    if place != Place.HOME:
        return
    drill = wanted.stay.rung.drill
    if wanted.home is None or (
        "not allowed at home" in wanted.home.lacking and wanted.home.version is None
    ):
        raise Refused(
            f"“{drill}” is for coached sessions: it stays at the club. Nothing was moved."
        )
    if wanted.home.version is None:
        why = why_not(wanted.home)
        raise Refused(f"{why[:1].upper()}{why[1:]}. Nothing was moved.")
    if wanted.home.version.adult and not adult:
        raise Refused(
            f"“{drill}” needs an adult, and none is there on that day. Nothing was moved."
        )


@transaction.atomic
def take_away(*, member: Membership, block: PlannedBlock) -> WeekPlan:
    """One block fewer this week. Raises Refused."""
    plan = locked_plan(member, block.week.player, block.week.monday, adds=False)
    plan.blocks = [other for other in plan.blocks if other.pk != block.pk]
    block.delete()
    arrange(plan)
    return plan


@transaction.atomic
def set_lock(*, member: Membership, block: PlannedBlock, locked: bool) -> WeekPlan:
    """Keep a block where it is when the week is solved again, or let it go. Raises Refused."""
    plan = locked_plan(member, block.week.player, block.week.monday, adds=False)
    for mine in plan.blocks:
        if mine.pk == block.pk:
            mine.locked = locked
            mine.save(update_fields=["locked"])
    return plan


@transaction.atomic
def skip(*, member: Membership, player: Player, monday: date, weekdays: Sequence[int]) -> WeekPlan:
    """Which weekdays are without drills (all seven: a sick week); then the week is planned anew.
    Raises Refused.
    """
    plan = locked_plan(member, player, monday, adds=False)
    plan.week.skipped = tuple(sorted({n for n in weekdays if 0 <= n <= 6}))
    plan.week.save(update_fields=["skipped"])
    plan.blocks = [block for block in plan.blocks if block.on.weekday() not in plan.week.skipped]
    _solve(plan)
    return plan


@transaction.atomic
def copy_last(*, member: Membership, player: Player, monday: date) -> WeekPlan:
    """Last week's blocks on the same weekdays, kept there; whatever is not asked for any more stays
    behind.

    Raises Refused where there is nothing to copy.
    """
    plan = locked_plan(member, player, monday)
    last = PlannedBlock.objects.of_week(player, plan.monday - timedelta(days=7))
    if not last:
        raise Refused("There is no plan of the week before. Nothing was changed.")
    plan.week.blocks.all().delete()
    plan.blocks = []
    days = {day.on: day for day in plan.days}
    for block in last:
        on, wanted = block.on + timedelta(days=7), plan.wanted(block)
        day = days.get(on)
        if wanted is None or day is None or not _may(wanted, day):
            continue
        same = {
            "prescription": wanted.prescription,
            "stay": wanted.stay,
            "order": block.order,
            "minutes": wanted.minutes,
            "tired": block.tired,
        }
        copied = PlannedBlock(
            club_id=plan.week.club_id, week=plan.week, on=on, place=day.place, locked=True, **same
        )
        copied.save()
        plan.blocks.append(copied)
    arrange(plan)
    return plan


def _may(wanted: Wanted, day: Day) -> bool:
    if day.on < wanted.prescription.started_on:
        return False
    try:
        refuse_at_home(wanted, day.place, day.adult)
    except Refused:
        return False
    return True
