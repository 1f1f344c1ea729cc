"""Planning weeks: solve, move, lock, skip, copy. How a week is filled: arranging.py; telling the
player: publishing.py.
"""

from collections.abc import Sequence
from datetime import date, timedelta

from django.db import transaction

from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players import refuse_unless_coach, why_resting
from drill_ladder.apps.prescriptions.minutes import Wanted
from drill_ladder.apps.weeks.arranging import arrange, arrange_and_store, place, store, worked_on
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.plan import WeekPlan, week_plans
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.planning import Day
from drill_ladder.core.work import Place
from drill_ladder.formats.home_words import why_not


def locked_plan(member: Membership, player: Player, monday: date, adds: bool = True) -> WeekPlan:
    """The player's week in hand, made if it is new, locked for a change. Raises Refused.

    adds: whether the change may bring drills, which nobody who rests is given.
    """
    plans, resting = locked_plans(member, [player], monday, adds)
    for why in resting.values():
        raise Refused(f"{why} Nothing was changed.")
    return plans[0]


def locked_plans(
    member: Membership, players: Sequence[Player], monday: date, adds: bool = True
) -> tuple[list[WeekPlan], dict[int, str]]:
    """The weeks of many, locked in one order, by a handful of questions; and why nothing is planned
    for those who rest, by their ids. Raises Refused for whoever may not.
    """
    refuse_unless_coach(member, "Only a coach plans a week.")
    if any(player.club_id != member.club_id for player in players):
        raise Refused("That player is not of this club.")
    resting = why_resting(players) if adds else {}
    asked = [player for player in players if player.pk not in resting]
    monday = monday_of(monday)
    weeks = list(Week.objects.locked(asked, monday))
    there = {week.player_id for week in weeks}
    new = [player for player in asked if player.pk not in there]
    if new:
        made = [Week(club_id=one.club_id, player=one, monday=monday) for one in new]
        Week.objects.bulk_create(made, ignore_conflicts=True)
        weeks += Week.objects.locked(new, monday)
    plans = week_plans(asked, monday, weeks)
    for plan in plans:
        plan.week.player = plan.player
        plan.rests = False if adds else None
    return plans, resting


@transaction.atomic
def solve(*, member: Membership, player: Player, monday: date) -> WeekPlan:
    """Plan the week anew around what is locked. Raises Refused."""
    plan = locked_plan(member, player, monday)
    solve_locked([plan])
    return plan


def solve_locked(plans: Sequence[WeekPlan]) -> None:
    """Weeks that are locked already, planned and stored."""
    worked = worked_on(plans)
    for plan in plans:
        place(plan)
        arrange(plan, worked)
    store(plans)


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
    arrange_and_store(plan)
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
    arrange_and_store(plan)
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
    solve_locked([plan])
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
        plan.blocks.append(copied)
    arrange_and_store(plan)
    return plan


def _may(wanted: Wanted, day: Day) -> bool:
    if day.on < wanted.prescription.started_on:
        return False
    try:
        refuse_at_home(wanted, day.place, day.adult)
    except Refused:
        return False
    return True
