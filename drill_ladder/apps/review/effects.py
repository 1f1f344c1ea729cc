"""What a decision does to a player's standing, and how it is taken back."""

from dataclasses import replace
from datetime import date

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.prescriptions.models import Arrival, Prescription, Status, Stay
from drill_ladder.apps.prescriptions.services import arrive, came_back, leave
from drill_ladder.apps.review.before import Before
from drill_ladder.core.judging import Kind

_ARRIVALS = {Kind.CLIMB: Arrival.CLIMB, Kind.SKIP: Arrival.SKIP, Kind.STEP_DOWN: Arrival.STEP_DOWN}


def apply_move(stay: Stay, kind: str, to_rung: Rung | None, on: date) -> Before:
    """Change the stay by a decided kind; what undo needs. Kinds that change nothing return the stay
    as it was.
    """
    before = Before(stay.eased, stay.recheck)
    if stay.left is not None:
        raise Refused("The player is not on this rung any more. Nothing was changed.")
    match Kind(kind):
        case Kind.CLIMB | Kind.SKIP | Kind.STEP_DOWN:
            if to_rung is None:
                raise Refused("There is no rung in that direction. Nothing was changed.")
            leave(stay, on)
            before = replace(
                before, new_stay=arrive(stay.prescription, to_rung, on, _ARRIVALS[Kind(kind)]).pk
            )
        case Kind.FINISH:
            leave(stay, on)
            before = replace(before, finished=True)
            Prescription.objects.filter(pk=stay.prescription_id).update(
                status=Status.FINISHED, ended_on=on
            )
        case Kind.EASE:
            Stay.objects.filter(pk=stay.pk).update(eased=True)
        case Kind.RECHECK:
            Stay.objects.filter(pk=stay.pk).update(recheck=True)
    return before


def take_back(stay: Stay, before: Before) -> None:
    """Put a stay back to what it was. Raises Refused when results were recorded since."""
    if before.new_stay is not None:
        new = Stay.objects.get(pk=before.new_stay)
        if new.sessions.exists() or new.left is not None:
            raise Refused(
                "Results were recorded on the new rung since: move the player by hand instead."
            )
        new.delete()
    if before.finished:
        Prescription.objects.filter(pk=stay.prescription_id).update(
            status=Status.ACTIVE, ended_on=None
        )
    Stay.objects.filter(pk=stay.pk).update(left=None, eased=before.eased, recheck=before.recheck)
    if before.new_stay is not None:
        came_back(stay)
