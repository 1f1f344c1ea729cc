"""Rungs passed are not done with: short checks later, and the rung offered back when one fails
(docs/methods.md, 4).
"""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.practice.judged.days import counted_rows
from drill_ladder.apps.prescriptions.models import Arrival, Prescription, Status, Stay
from drill_ladder.core.judging import Check, Verdict, next_check, offer_back

UPWARDS = (Arrival.CLIMB, Arrival.SKIP)


@dataclass(frozen=True, slots=True)
class Passed:
    """A rung that was climbed from: when its next check falls due (None: it failed), whether the
    last one failed, and when it was checked last (None: never).
    """

    stay: Stay
    due: date | None
    failed: bool
    checked: date | None

    def is_due(self, on: date) -> bool:
        """Whether it should be checked on this day or has been due before."""
        return self.due is not None and self.due <= on


def passed(ladders: Iterable[Prescription]) -> list[Passed]:
    """The passed rungs of a player's ladders (as with_climb gives them) that ask for checks, the
    lowest of each ladder first.

    A check is a session on the rung after it was left; only the last stay on a rung counts, and
    none on the rung where the player stands.
    """
    asked = [p for p in ladders if p.retention and p.status != Status.ENDED]
    stays = [stay for p in sorted(asked, key=lambda p: p.pk) for stay in p.stays.all()]
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
        last = max((check.on for check in checks), default=None)
        rungs[place] = Passed(stay, next_check(stay.left, checks), offer_back(checks), last)
    return [rungs[place] for place in sorted(rungs)]


def due_checks(ladders: Iterable[Prescription], today: date) -> list[Passed]:
    """Rungs that did not hold, then those to be checked, the longest due first."""
    due = [check for check in passed(ladders) if check.is_due(today) or check.failed]
    return sorted(due, key=lambda check: (not check.failed, check.due or date.min))


def _checks(stay: Stay) -> list[Check]:
    return [
        Check(day.on, day.verdict == Verdict.PASS)
        for day in counted_rows(stay)
        if stay.left and day.on > stay.left
    ]
