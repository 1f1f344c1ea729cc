"""What is judged in the same repetitions: parts of a routine that go together, while the player
stands on each of them.
"""

from collections.abc import Iterable

from drill_ladder.apps.library.models import RoutinePart
from drill_ladder.apps.prescriptions.models import Stay, by_routine


def judged_together(stays: Iterable[Stay]) -> dict[int, list[int]]:
    """Stay -> all that each of its repetitions is judged for, itself among them, in the routine's
    order; empty where it stands alone.
    """
    routines = by_routine(stays)
    of = {
        given: parts[0].prescription.player_routine.routine_id
        for given, parts in routines.items()
        if parts[0].prescription.player_routine is not None
    }
    joined = RoutinePart.objects.judged_together(of.values())
    beside: dict[int, list[int]] = {}
    for given, parts in routines.items():
        for group in _groups(parts, {at for routine, at in joined if routine == of.get(given)}):
            for stay in group:
                beside[stay.pk] = [one.pk for one in group] if len(group) > 1 else []
    return beside


def _groups(parts: Iterable[Stay], joined: set[int]) -> list[list[Stay]]:
    """Parts in their order, each with those that follow it in the same repetitions."""
    groups: list[list[Stay]] = []
    last = -1
    for stay in parts:
        at = stay.prescription.part or 0
        if at in joined and at == last + 1 and groups:
            groups[-1].append(stay)
        else:
            groups.append([stay])
        last = at
    return groups
