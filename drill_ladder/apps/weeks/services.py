"""Planning weeks: solve, move, lock, skip, copy, publish. What was told to a player is never changed in silence."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player, Where
from drill_ladder.apps.people.services import refuse_unless_coach
from drill_ladder.apps.prescriptions.demand import Wanted, block_of, wanted_by_id
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.prescriptions.services import more_terms, refuse_resting
from drill_ladder.apps.weeks.days import days_of_week
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.planning import Block, Intent, Part, in_order, plan_week, resolve_band
from drill_ladder.formats.words import dose_words, target_words

PARTS = {
    Intent.SPEED: Part.SPEED_OR_NEW,
    Intent.SKILL: Part.TECHNIQUE,
    Intent.PRESSURE: Part.PRESSURE,
    Intent.ENDURANCE: Part.CONDITIONING,
}


def locked_week(member: Membership, player: Player, monday: date, adds: bool = True) -> Week:
    """The player's week, made if it is new, locked for a change. Raises Refused.

    adds: whether the change may bring drills, which nobody who rests is given.
    """
    refuse_unless_coach(member, "Only a coach plans a week.")
    if player.club_id != member.club_id:
        raise Refused("That player is not of this club.")
    if adds:
        refuse_resting(player)
    week, _ = Week.objects.get_or_create(club_id=player.club_id, player=player, monday=monday_of(monday))
    return Week.objects.select_for_update().select_related("player").get(pk=week.pk)


@transaction.atomic
def solve(*, member: Membership, player: Player, monday: date) -> Week:
    """Plan the week anew around what is locked. Raises Refused."""
    week = locked_week(member, player, monday)
    _solve(week)
    return week


def _solve(week: Week) -> None:
    found = wanted_by_id(week.player, week.monday)
    week.blocks.exclude(prescription_id__in=found).delete()
    week.blocks.filter(locked=False).delete()
    kept = list(week.blocks.all())
    days = days_of_week(week, kept)
    fixed = {(block.on, str(block.prescription_id)) for block in kept}
    blocks, _ = plan_week(days, [one.wish for one in found.values()], fixed)
    places = {day.on: day.place for day in days}
    week.blocks.bulk_create(
        PlannedBlock(
            club_id=week.club_id,
            week=week,
            prescription=found[block.id].prescription,
            on=block.on,
            order=block.order,
            minutes=round(block.minutes),
            place=places[block.on],
        )
        for block in blocks
        if (block.on, block.id) not in fixed
    )
    arrange(week, found)


def arrange(week: Week, found: dict[str, Wanted]) -> None:
    """Order within each day, dose bands from the minutes that are left, and the home version of each block."""
    blocks = list(week.blocks.select_related("prescription"))
    new = _new(found)
    for day in days_of_week(week, blocks):
        here = [block for block in blocks if block.on == day.on]
        left = (day.minutes - sum(block.minutes for block in here)) * 60
        for order, block in enumerate(_ordered(here, found, new), 1):
            one = found.get(str(block.prescription_id))
            block.order, block.place = order, day.place
            block.way = one.way if one and day.place == Where.HOME else ""
            if one:
                left -= _resolve(block, one, left)
            block.save()


def _new(found: dict[str, Wanted]) -> set[str]:
    """The ids of skill work that the player has not done yet on its rung."""
    skill = {id_: one.stay.pk for id_, one in found.items() if one.wish.intent is Intent.SKILL}
    worked = set(Stay.objects.filter(pk__in=skill.values(), sessions__isnull=False).values_list("pk", flat=True))
    return {id_ for id_, stay in skill.items() if stay not in worked}


def _ordered(blocks: Sequence[PlannedBlock], found: dict[str, Wanted], new: set[str]) -> list[PlannedBlock]:
    """Speed and new things while fresh, conditioning last; ties by priority (core, section 13)."""
    by_id = {str(block.pk): block for block in blocks}

    def part(block: PlannedBlock) -> Part:
        one = found.get(str(block.prescription_id))
        if one is None:
            return Part.GAME
        return Part.SPEED_OR_NEW if one.wish.id in new else PARTS[one.wish.intent]

    given = [Block(str(b.pk), part(b), 1, 1, priority=b.prescription.priority) for b in blocks]
    return [by_id[block.id] for block in in_order(given)]


def _resolve(block: PlannedBlock, one: Wanted, seconds_left: float) -> float:
    """The repetitions of a dose band from the time left, and the seconds that this took beyond the block."""
    high = more_terms(one.stay.terms)["reps_high"]
    dose = block_of(one.rung)
    block.reps, block.bound = None, ""
    if high is None or dose.reps is None or one.rung.dose.reps is None:
        return 0.0
    times = dose.sets * dose.lanes
    each = dose.work_s / dose.reps * times
    found = resolve_band(one.rung.dose.reps, high, each, one.rung.dose.reps * each + max(0.0, seconds_left))
    block.reps, block.bound = found.reps, found.bound
    more = (found.reps - one.rung.dose.reps) * each
    block.minutes = round(one.wish.minutes + more / 60)
    return more


@transaction.atomic
def move(*, member: Membership, block: PlannedBlock, on: date) -> Week:
    """Put a block on another day of its week and keep it there. What it breaks is shown, not refused.

    Raises Refused for a day of another week, for a block that is not asked for any more, and for what caution or the
    home rules out.
    """
    week = locked_week(member, block.week.player, block.week.monday)
    if not 0 <= (on - week.monday).days <= 6:
        raise Refused("That day is not in this week. Nothing was moved.")
    day = next((d for d in days_of_week(week, list(week.blocks.all())) if d.on == on), None)
    place = day.place if day else Where.HOME
    found = wanted_by_id(week.player, week.monday)
    refuse_at_home(found.get(str(block.prescription_id)), place, adult=bool(day and day.adult))
    block.on, block.place, block.locked = on, place, True
    block.save()
    arrange(week, found)
    return week


def refuse_at_home(one: Wanted | None, place: str, adult: bool) -> None:
    """Raise Refused for a block at home that caution or the home itself rules out."""
    if one is None:
        raise Refused("This block is not asked for any more: solve the week again. Nothing was moved.")
    if place != Where.HOME:
        return
    drill = one.stay.rung.drill
    if one.home is None or ("not allowed at home" in one.home.lacking and one.home.version is None):
        raise Refused(f"“{drill}” is for coached sessions: it stays at the club. Nothing was moved.")
    if one.home.version is None:
        raise Refused(f"At home there is no {', no '.join(one.home.lacking)}. Nothing was moved.")
    if one.home.version.adult and not adult:
        raise Refused(f"“{drill}” needs an adult, and none is there on that day. Nothing was moved.")


@transaction.atomic
def take_away(*, member: Membership, block: PlannedBlock) -> Week:
    """One block fewer this week. Raises Refused."""
    week = locked_week(member, block.week.player, block.week.monday, adds=False)
    block.delete()
    arrange(week, wanted_by_id(week.player, week.monday))
    return week


def snapshot(week: Week, player: Player) -> list[dict[str, Any]]:
    """The week as it would be told now."""
    found = wanted_by_id(player, week.monday)
    return _snapshot(list(week.blocks.select_related("prescription__ladder")), found)


@transaction.atomic
def set_lock(*, member: Membership, block: PlannedBlock, locked: bool) -> Week:
    """Keep a block where it is when the week is solved again, or let it go. Raises Refused."""
    week = locked_week(member, block.week.player, block.week.monday, adds=False)
    block.locked = locked
    block.save(update_fields=["locked"])
    return week


@transaction.atomic
def skip(*, member: Membership, player: Player, monday: date, weekdays: Sequence[int]) -> Week:
    """Which weekdays are without drills (all seven: a sick week); then the week is planned anew. Raises Refused."""
    week = locked_week(member, player, monday, adds=False)
    week.skipped = sorted({n for n in weekdays if 0 <= n <= 6})
    week.save(update_fields=["skipped"])
    week.blocks.filter(on__in=[week.monday + timedelta(days=n) for n in week.skipped]).delete()
    _solve(week)
    return week


@transaction.atomic
def copy_last(*, member: Membership, player: Player, monday: date) -> Week:
    """Last week's blocks on the same weekdays, kept there; whatever is not asked for any more stays behind.

    Raises Refused where there is nothing to copy.
    """
    week = locked_week(member, player, monday)
    before = Week.objects.of(player, week.monday - timedelta(days=7)).first()
    blocks = list(before.blocks.select_related("prescription")) if before else []
    if not blocks:
        raise Refused("There is no plan of the week before. Nothing was changed.")
    found = wanted_by_id(player, week.monday)
    week.blocks.all().delete()
    days = {day.on: day for day in days_of_week(week, [])}
    for block in blocks:
        on, one = block.on + timedelta(days=7), found.get(str(block.prescription_id))
        day = days.get(on)
        if one is None or day is None or not _may(one, day):
            continue
        same = {"prescription": one.prescription, "order": block.order, "minutes": one.wish.minutes}
        PlannedBlock.objects.create(club_id=week.club_id, week=week, on=on, place=day.place, locked=True, **same)
    arrange(week, found)
    return week


def _may(one: Wanted, day: Any) -> bool:
    if day.on < one.prescription.started_on:
        return False
    try:
        refuse_at_home(one, day.place, day.adult)
    except Refused:
        return False
    return True


@transaction.atomic
def publish(*, member: Membership, player: Player, monday: date, at: datetime) -> Week:
    """Tell the player: the card and the calendar follow. Told again, the player sees what changed. Raises Refused."""
    week = locked_week(member, player, monday)
    found = wanted_by_id(player, week.monday)
    blocks = list(week.blocks.select_related("prescription__ladder"))
    now = _snapshot(blocks, found)
    days = {day.on: day for day in days_of_week(week, blocks)}
    for block in blocks:
        # the last door before a home: whatever moved or changed since the block was placed
        refuse_at_home(found.get(str(block.prescription_id)), block.place, days[block.on].adult)
    if week.published_at is not None:
        lines = changes(week.published, now)
        week.told = [*week.told, {"at": at.date().isoformat(), "lines": lines}] if lines else week.told
    gone = [{**old, "cancelled": True} for old in week.published if old["key"] not in {new["key"] for new in now}]
    week.published, week.published_at, week.revision = now + gone, at, week.revision + 1
    week.save()
    record(club_id=member.club_id, actor=member.user, verb="published a week", subject=week, blocks=len(now))
    return week


def _snapshot(blocks: Sequence[PlannedBlock], found: dict[str, Wanted]) -> list[dict[str, Any]]:
    """The blocks as they are told: which one of its ladder it is in the week gives each a name that stays."""
    seen: dict[int, int] = {}
    told = []
    for block in sorted(blocks, key=lambda b: (b.on, b.order)):
        number = seen[block.prescription_id] = seen.get(block.prescription_id, 0) + 1
        one = found.get(str(block.prescription_id))
        told.append(
            {
                "key": f"{block.prescription_id}-{number}",
                "prescription": block.prescription_id,
                "ladder": str(block.prescription.ladder),
                "title": one.stay.rung.title if one else "",
                "on": block.on.isoformat(),
                "order": block.order,
                "minutes": block.minutes,
                "place": block.place,
                "way": block.way,
                "dose": dose_of(one, block.reps) if one else "",
                "target": target_words(one.rung) if one else "",
                "cancelled": False,
            }
        )
    return told


def dose_of(one: Wanted, reps: int | None) -> str:
    """A block's dose in words, with the repetitions that its band came to."""
    rung = one.rung if reps is None else replace(one.rung, dose=replace(one.rung.dose, reps=reps))
    return dose_words(rung)


def changes(old: Sequence[dict[str, Any]], new: Sequence[dict[str, Any]]) -> list[str]:
    """What a player is told about a week that changed after they were told about it."""
    before = {one["key"]: one for one in old if not one["cancelled"]}
    after = {one["key"]: one for one in new}
    lines = [_changed(before[key], one) for key, one in after.items() if key in before]
    lines += [f"New: {one['ladder']} on {_day(one)}" for key, one in after.items() if key not in before]
    lines += [f"No more: {one['ladder']} on {_day(one)}" for key, one in before.items() if key not in after]
    return [line for line in lines if line]


def _changed(before: dict[str, Any], now: dict[str, Any]) -> str:
    if before["on"] != now["on"]:
        return f"Moved: {now['ladder']} from {_day(before)} to {_day(now)}"
    told = {"minutes": "minutes", "dose": "dose", "target": "target", "place": "place", "way": "way to do it"}
    different = [word for key, word in told.items() if before[key] != now[key]]
    return f"{now['ladder']} on {_day(now)}: another {' and '.join(different)}" if different else ""


def _day(one: dict[str, Any]) -> str:
    return f"{date.fromisoformat(one['on']):%A}"
