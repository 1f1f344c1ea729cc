"""A player comes to another rung in the middle of a week: what is over keeps the rung that it was
done or planned on, what is to come is planned on the new one, and what was told is told anew.
"""

from dataclasses import replace
from datetime import date, timedelta

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.weeks.arranging import arrange_and_store
from drill_ladder.apps.weeks.board import changes
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.plan import WeekPlan, week_plan
from drill_ladder.apps.weeks.publishing import snapshot
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.planning import ToldBlock

# what of a told block belongs to its rung
OF_THE_RUNG = ("title", "minutes", "way", "dose", "target", "sets", "reps", "stay")


def move_on(*, prescription: Prescription, first: bool, **_: object) -> None:
    """Plan and tell what is to come on the rung where the player stands now."""
    if first:
        return
    today = prescription.player.club.today()
    rows = Week.objects.select_for_update(of=("self",)).filter(
        player=prescription.player_id, monday__gte=monday_of(today)
    )
    for week in rows:
        _replan(week, prescription, today)


@transaction.atomic
def _replan(week: Week, prescription: Prescription, today: date) -> None:
    week.player = prescription.player
    plan = week_plan(week.player, week.monday, week)
    wanted = plan.demand.get(str(prescription.pk))
    if wanted is None:
        return
    done = _is_done(prescription, wanted.stay, today)
    first = today + timedelta(days=1) if done else today
    for block in plan.blocks:
        if block.prescription_id == prescription.pk and block.on >= first:
            block.stay, block.minutes = wanted.stay, round(wanted.minutes)
    arrange_and_store(plan)
    if week.published_at is not None:
        _tell(plan, prescription, first, today)


def _is_done(prescription: Prescription, stay: Stay, today: date) -> bool:
    """Whether today's work was done on another rung."""
    before = Stay.objects.filter(prescription=prescription, sessions__on=today)
    return before.exclude(pk=stay.pk).exists()


def _tell(plan: WeekPlan, prescription: Prescription, first: date, today: date) -> None:
    """Take the new rung into what was told, and say so; nothing else that was planned since is
    told with it.
    """
    week, now = plan.week, {block.key: block for block in snapshot(plan)}

    def told(block: ToldBlock) -> ToldBlock:
        own = block.prescription == prescription.pk and not block.cancelled
        fresh = now.get(block.key)
        if not own or fresh is None or block.on < first:
            return block
        return replace(block, **{name: getattr(fresh, name) for name in OF_THE_RUNG})

    published = tuple(told(block) for block in week.published)
    lines = changes(week.published, published)
    if lines:
        week.tell(published, lines, today, timezone.now())
