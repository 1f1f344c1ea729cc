"""Rungs passed are not done with: short checks later, and the rung offered back when one fails
(design, section 4).
"""

from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.judged import days_of
from drill_ladder.apps.prescriptions.models import Arrival, Stay
from drill_ladder.core.judging import Check, Verdict, next_check, offer_back

UPWARDS = (Arrival.CLIMB, Arrival.SKIP)


@dataclass(frozen=True, slots=True)
class Passed:
    """A rung that was climbed from: when its next check falls due (None: no more), and whether the
    last one failed.
    """

    stay: Stay
    due: date | None
    failed: bool

    def is_due(self, on: date) -> bool:
        """Whether it should be checked on this day or has been due before."""
        return self.due is not None and self.due <= on


def passed(player: Player) -> list[Passed]:
    """The player's passed rungs, of prescriptions that ask for checks, the ladder's lowest first.

    A check is a session on the rung after it was left; only the last stay on a rung counts, and
    none on the rung where the player stands.
    """
    stays = list(Stay.objects.of_player(player).checked_later())
    rungs: dict[tuple[int, int], Passed] = {}
    for stay, after in zip(stays, [*stays[1:], None], strict=False):
        place = (stay.prescription_id, stay.rung.position)
        climbed = (
            after is not None
            and after.prescription_id == stay.prescription_id
            and after.how in UPWARDS
        )
        finished = stay.prescription.is_finished and (
            after is None or after.prescription_id != stay.prescription_id
        )
        if stay.left is None or not (climbed or finished):
            rungs.pop(place, None)
            continue
        checks = _checks(stay)
        rungs[place] = Passed(stay, next_check(stay.left, checks), offer_back(checks))
    return [rungs[place] for place in sorted(rungs)]


def due_checks(player: Player, today: date) -> list[Passed]:
    """Rungs that did not hold, then those to be checked, the longest due first."""
    due = [check for check in passed(player) if check.is_due(today) or check.failed]
    return sorted(due, key=lambda check: (not check.failed, check.due or date.min))


def _checks(stay: Stay) -> list[Check]:
    return [
        Check(day.on, day.verdict is Verdict.PASS)
        for day in days_of(stay)
        if stay.left and day.on > stay.left
    ]
