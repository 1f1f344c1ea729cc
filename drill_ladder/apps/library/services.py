"""Changing the library. Players keep the terms they arrived with (Stay.terms): nothing here touches results."""

from typing import Any, TypeVar

from django.db import transaction

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.services import refuse_unless_coach

Changing = TypeVar("Changing", Drill, Ladder)


def locked(row: Changing, revision: int) -> Changing:
    """The row, locked for a change that began at a revision. Raises Refused when somebody was quicker."""
    current = type(row)._default_manager.select_for_update().get(pk=row.pk)
    if current.revision != revision:
        last = Event.objects.filter(club_id=row.club_id, subject=str(row)).select_related("actor").first()
        who = f"{last.actor} ({last.verb})" if last and last.actor else "Somebody"
        raise Refused(
            f"{who} changed this while you had it open. Nothing of theirs was overwritten, and what you typed "
            "is still here: look at it as it is now, then send it again."
        )
    return current


@transaction.atomic
def save_plan(*, member: Membership, drill: Drill, plan: dict[str, Any] | None, revision: int) -> Drill:
    """Give a drill another floor plan (None takes it away). Raises Refused."""
    refuse_unless_coach(member)
    current = locked(drill, revision)
    current.plan = plan
    current.revision += 1
    current.full_clean()
    current.save()
    record(club_id=member.club_id, actor=member.user, verb="changed the floor plan", subject=current)
    return current


@transaction.atomic
def take_rule(*, member: Membership, ladder: Ladder, rule: dict[str, Any], revision: int) -> Ladder:
    """Give a ladder another rule, for everybody who arrives on a rung from now on. Raises Refused."""
    refuse_unless_coach(member)
    current = locked(ladder, revision)
    before = current.rule
    current.rule = rule
    current.revision += 1
    current.full_clean()
    current.save()
    record(
        club_id=member.club_id, actor=member.user, verb="changed the rule", subject=current, before=before, after=rule
    )
    return current
