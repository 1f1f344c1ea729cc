"""Telling a player their week. What was told is never changed in silence."""

from dataclasses import replace
from datetime import date, datetime

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AgreedTo, Agreement, Membership, Player
from drill_ladder.apps.prescriptions.dose import fixed
from drill_ladder.apps.prescriptions.minutes import Wanted
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.board import changes
from drill_ladder.apps.weeks.plan import WeekPlan
from drill_ladder.apps.weeks.services import locked_plan, refuse_at_home
from drill_ladder.core.judging import Rung
from drill_ladder.core.planning import ToldBlock
from drill_ladder.formats.rung_words import dose_words, target_words


@transaction.atomic
def publish(*, member: Membership, player: Player, monday: date, at: datetime) -> WeekPlan:
    """Tell the player: the card and the calendar follow. Told again, the player sees what changed.
    Raises Refused.
    """
    plan = locked_plan(member, player, monday)
    week, now = plan.week, snapshot(plan)
    days = {day.on: day for day in plan.days}
    for block in plan.blocks:
        # the last door before a home: whatever moved or changed since the block was placed
        refuse_at_home(plan.wanted(block), block.place, days[block.on].adult)
    refuse_over_limits(plan)
    refuse_withdrawn(plan)
    lines = changes(week.published, now) if week.published_at else []
    keys = {block.key for block in now}
    gone = tuple(
        replace(block, cancelled=True) for block in week.published if block.key not in keys
    )
    week.told_at = at
    week.tell(now + gone, lines, at.date(), at)
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="published a week",
        subject=week,
        blocks=len(now),
    )
    return plan


def refuse_over_limits(plan: WeekPlan) -> None:
    """A week over a limit of the club on what strains a body is not told. Raises Refused."""
    over = [one.words for one in plan.strain if one.over and one.planned]
    if over:
        raise Refused(f"Not told. {' '.join(over)} Take something out of this week first.")


def refuse_withdrawn(plan: WeekPlan) -> None:
    """No work at home is told where a guardian took the agreement to it back. Raises Refused."""
    if not any(block.place == "home" for block in plan.blocks):
        return
    taken_back = Agreement.objects.taken_back(plan.week.player, AgreedTo.HOME)
    if taken_back is not None:
        raise Refused(
            f"Not told. The agreement to work at home is withdrawn ({taken_back.words}). Plan "
            "these days at the club, or note a new agreement."
        )


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
