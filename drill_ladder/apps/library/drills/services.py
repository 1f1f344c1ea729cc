"""Writing drills."""

from typing import Any

from django.db import transaction

from drill_ladder.apps.library.changing import locked, store, tell_needs_changed
from drill_ladder.apps.library.models import Drill, Rung, Skill, Treatment
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.services import by_name, refuse_unless_coach
from drill_ladder.formats.documents import part_faults


@transaction.atomic
def save_drill(
    *,
    member: Membership,
    drill: Drill | None,
    values: dict[str, Any],
    skill: str,
    revision: int = 0,
    treatments: list[dict[str, Any]] | None = None,
) -> Drill:
    """A new drill (None) or a changed one. Raises Refused where a rung's target would not fit any more.

    treatments: what treats its faults, {fault, cue, by_drill_id, by_rung_id}; None leaves them as they are.
    """
    refuse_unless_coach(member)
    current = locked(drill, revision) if drill else Drill(club=member.club)
    for key, value in values.items():
        setattr(current, key, value)
    current.skill = by_name(Skill, member.club, skill)
    if drill:
        refuse_misfits([current])
    store(member, current, "changed a drill" if drill else "added a drill")
    if treatments is not None:
        set_treatments(current, treatments)
    if drill:
        tell_needs_changed(member, [current.pk])
    return current


def set_treatments(drill: Drill, treatments: list[dict[str, Any]]) -> None:
    """What treats the faults of a drill, anew."""
    drill.treatments.all().delete()
    Treatment.objects.bulk_create(Treatment(club_id=drill.club_id, drill=drill, **one) for one in treatments)


def refuse_misfits(drills: list[Drill]) -> None:
    """Every rung that uses one of the drills still has to read with its measure and lanes. Raises Refused."""
    by_pk = {drill.pk: drill for drill in drills}
    for rung in Rung.objects.filter(drill__in=by_pk).select_related("ladder"):
        rung.drill = by_pk[rung.drill_id]
        faults = part_faults("rung", rung.document())
        if faults:
            raise Refused(
                f"Rung {rung.position} of “{rung.ladder}” would not fit any more ({faults[0]}). Nothing was saved: "
                "make a copy of this drill instead, or change that rung first."
            )
