"""Telling a player their week. What was told is never changed in silence."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime

from django.db import transaction

from drill_ladder.apps.history.services import record_each
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AgreedTo, Agreement, Membership, Player
from drill_ladder.apps.prescriptions.dose import fixed
from drill_ladder.apps.prescriptions.minutes import Wanted
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.board import changes
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.plan import WeekPlan
from drill_ladder.apps.weeks.services import locked_plan, refuse_at_home
from drill_ladder.core.judging import Rung
from drill_ladder.core.planning import ToldBlock
from drill_ladder.core.work import Place
from drill_ladder.formats.rung_words import dose_words, target_words


@transaction.atomic
def publish(*, member: Membership, player: Player, monday: date, at: datetime) -> WeekPlan:
    """Tell the player: the card and the calendar follow. Told again, the player sees what changed.
    Raises Refused.
    """
    plan = locked_plan(member, player, monday)
    for why in tell_locked(member, [plan], at).values():
        raise Refused(why)
    return plan


def tell_locked(member: Membership, plans: Sequence[WeekPlan], at: datetime) -> dict[int, str]:
    """Weeks that are locked already are told, by a handful of questions however many they are; by
    the player's id, why one was not.
    """
    players = [plan.player for plan in plans if _has_home(plan)]
    agreements = Agreement.objects.taken_back(players, AgreedTo.HOME) if players else {}
    refused: dict[int, str] = {}
    told = []
    for plan in plans:
        why = _why_not_told(plan, agreements.get(plan.player.pk))
        if why:
            refused[plan.player.pk] = why
        else:
            told.append((plan.week, *_news(plan)))
    Week.objects.tell(told, at.date(), at, by_coach=True)
    record_each(
        actor=member.user,
        entries=[
            ("published a week", week, {"blocks": sum(not block.cancelled for block in blocks)})
            for week, blocks, _ in told
        ],
    )
    return refused


def _news(plan: WeekPlan) -> tuple[tuple[ToldBlock, ...], list[str]]:
    """The week as it is told now, what was told before and is gone as called off; and the lines of
    what changed.
    """
    week, now = plan.week, snapshot(plan)
    lines = changes(week.published, now) if week.published_at else []
    keys = {block.key for block in now}
    gone = [replace(block, cancelled=True) for block in week.published if block.key not in keys]
    return (*now, *gone), lines


def _has_home(plan: WeekPlan) -> bool:
    return any(block.place == Place.HOME for block in plan.blocks)


def _why_not_told(plan: WeekPlan, taken_back: Agreement | None) -> str:
    """The last door before a home: whatever moved or changed since a block was placed, the club's
    limits on what strains a body, and an agreement that a guardian took back. Empty: none of it.
    """
    days = {day.on: day for day in plan.days}
    try:
        for block in plan.blocks:
            refuse_at_home(plan.wanted(block), block.place, days[block.on].adult)
    except Refused as error:
        return str(error)
    over = [one.words for one in plan.strain if one.over and one.planned]
    if over:
        return f"Not told. {' '.join(over)} Take something out of this week first."
    if taken_back is not None:
        return (
            f"Not told. The agreement to work at home is withdrawn ({taken_back.words}). Plan "
            "these days at the club, or note a new agreement."
        )
    return ""


def snapshot(plan: WeekPlan) -> tuple[ToldBlock, ...]:
    """The week as it would be told now: which one of its ladder a block is in the week gives it a
    name that stays.
    """
    seen: dict[int, int] = {}
    blocks = []
    for block in sorted(plan.blocks, key=lambda b: (b.on, b.order)):
        number = seen.get(block.prescription_id, 0) + (not block.tired)
        seen[block.prescription_id] = number
        stay, wanted = plan.stay_of(block), plan.wanted(block)
        rung = fixed(stay.terms.rung, block.sets, block.reps) if stay else None
        blocks.append(
            ToldBlock(
                key=f"{block.prescription_id}-{number}{'t' if block.tired else ''}",
                prescription=block.prescription_id,
                ladder=block.prescription.block_title,
                title=_title(stay, wanted),
                on=block.on,
                order=block.order,
                minutes=block.minutes,
                place=str(block.place),
                way=block.way,
                dose=_dose(rung, wanted),
                target=target_words(rung) if rung and not _is_routine(wanted) else "",
                sets=block.sets,
                reps=block.reps,
                stay=stay.pk if stay else None,
                tired=block.tired,
            )
        )
    return tuple(blocks)


def _is_routine(wanted: Wanted | None) -> bool:
    return wanted is not None and wanted.routine is not None


def _title(stay: Stay | None, wanted: Wanted | None) -> str:
    if wanted is not None and wanted.routine is not None:
        return str(wanted.routine.routine)
    return stay.rung.title if stay else ""


def _dose(rung: Rung | None, wanted: Wanted | None) -> str:
    if wanted is not None and wanted.routine is not None:
        return f"{len(wanted.parts)} parts"
    return dose_words(rung) if rung else ""


def is_stale(plan: WeekPlan) -> bool:
    """Whether the week changed since the player was told it."""
    return plan.week.published_at is not None and bool(changes(plan.week.published, snapshot(plan)))
