"""Changing the floor plan of a drill or of one rung."""

from django.db import transaction

from drill_ladder.apps.library.changing import (
    locked,
    locked_rung,
    store,
    store_rung,
    tell_needs_changed,
)
from drill_ladder.apps.library.models import Drill, Rung
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.players import refuse_unless_coach
from drill_ladder.core.plans import FloorPlan


@transaction.atomic
def save_plan(*, member: Membership, drill: Drill, plan: FloorPlan | None, revision: int) -> Drill:
    """Give a drill another floor plan (None takes it away). Raises Refused."""
    refuse_unless_coach(member)
    current = locked(drill, revision)
    current.plan = plan
    store(member, current, "changed the floor plan")
    tell_needs_changed(member, [current.pk])
    return current


@transaction.atomic
def save_rung_plan(
    *, member: Membership, rung: Rung, plan: FloorPlan | None, revision: int
) -> Rung:
    """Set a drill up otherwise on one rung (None: as the drill has it). revision: the ladder's.
    Raises Refused.
    """
    refuse_unless_coach(member)
    current, rung_row = locked_rung(rung, revision)
    rung_row.plan = None if plan == rung_row.drill.plan else plan
    store_rung(member, current, rung_row, "changed a rung's floor plan")
    tell_needs_changed(member, [rung_row.drill_id])
    return rung_row
