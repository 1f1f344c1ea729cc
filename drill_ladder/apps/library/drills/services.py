"""Writing drills."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass

from django.db import transaction

from drill_ladder.apps.library.changing import locked, store, tell_needs_changed
from drill_ladder.apps.library.models import Drill, Rung, Skill, Treatment
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.players import by_name, refuse_unless_coach
from drill_ladder.formats.documents import RUNG


@dataclass(frozen=True, slots=True)
class TreatmentInput:
    """What treats a fault: a cue, another drill, a rung, the last two by their stored ids."""

    fault: str
    cue: str = ""
    by_drill_id: int | None = None
    by_rung_id: int | None = None


@transaction.atomic
def save_drill(
    *,
    member: Membership,
    drill: Drill | None,
    values: Mapping[str, object],
    skill: str,
    revision: int = 0,
    treatments: Sequence[TreatmentInput] | None = None,
) -> Drill:
    """A new drill (None) or a changed one. Raises Refused where a rung's target would not fit any
    more.

    values: its columns by name; treatments: what treats its faults, None leaves them as they are.
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


def set_treatments(drill: Drill, treatments: Sequence[TreatmentInput]) -> None:
    """What treats the faults of a drill, anew."""
    drill.treatments.all().delete()
    Treatment.objects.bulk_create(
        Treatment(club_id=drill.club_id, drill=drill, **asdict(row)) for row in treatments
    )


def refuse_misfits(drills: list[Drill]) -> None:
    """Every rung that uses one of the drills still has to read with its measure and lanes. Raises
    Refused.
    """
    by_pk = {drill.pk: drill for drill in drills}
    for rung in Rung.objects.filter(drill__in=by_pk).select_related("ladder"):
        rung.drill = by_pk[rung.drill_id]
        faults = RUNG.faults_of(rung.core)
        if faults:
            raise Refused(
                f"Rung {rung.position} of “{rung.ladder}” would not fit any more ({faults[0]}). "
                "Nothing was saved: "
                "make a copy of this drill instead, or change that rung first."
            )
