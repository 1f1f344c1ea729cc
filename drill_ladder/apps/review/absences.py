"""Who has been away too long: what no session tells, and the night's work finds."""

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, timedelta

from django.db import transaction
from django.db.models import prefetch_related_objects

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.models import Club
from drill_ladder.apps.practice.judged import decide_on, ladder_of
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.review.models import Proposal, State
from drill_ladder.apps.review.services import proposal_of
from drill_ladder.core.judging import Kind

AT_ONCE = 200


def notice_absences(club: Club, on: date) -> int:
    """Propose the rung below to whoever has been away too long; the number of new proposals.

    A few questions for all of them, however many come back from a holiday. An absence that a coach
    has decided about is not brought up again.
    """
    stays = [stay for stay in Stay.objects.of_club(club).may_be_away() if _is_away(stay, on)]
    decided = Proposal.objects.filter(stay__in=stays, kind=Kind.RECHECK, state=State.DECIDED)
    latest = dict(decided.order_by("made_on").values_list("stay", "made_on"))
    new = [s for s in stays if latest.get(s.pk, date.min) <= _last_of(s)]
    prefetch_related_objects(new, "judged")
    return sum(_propose(new[i : i + AT_ONCE], on) for i in range(0, len(new), AT_ONCE))


def _last_of(stay: Stay) -> date:
    return stay.prescription.last_on or date.max


def _is_away(stay: Stay, on: date) -> bool:
    limit = stay.terms.rule.layoff_days
    return limit is not None and on - _last_of(stay) >= timedelta(days=limit)


@transaction.atomic
def _propose(stays: Sequence[Stay], on: date) -> int:
    """One proposal for each; of two who notice it at once, the second finds it made."""
    keys = [stay.pk for stay in stays]
    locked = Stay.objects.with_player_held().filter(pk__in=keys, left__isnull=True)
    there = {stay.pk for stay in locked.order_by("pk")}
    waiting = Proposal.objects.filter(stay__in=keys, state=State.OPEN, kind=Kind.RECHECK)
    there -= set(waiting.values_list("stay", flat=True))
    resting = set(
        Stop.objects.open()
        .filter(player__in=[stay.prescription.player_id for stay in stays])
        .values_list("player", flat=True)
    )
    rungs = _rungs_of({stay.prescription.ladder_id for stay in stays})
    proposals = []
    for stay in stays:
        if stay.pk in there and stay.prescription.player_id not in resting:
            ladder = ladder_of(stay, rungs[stay.prescription.ladder_id])
            decision = decide_on(ladder, stay, on, False)
            if decision.kind is Kind.RECHECK:
                proposals.append(proposal_of(stay, on, decision))
    told = [proposal.stay_id for proposal in proposals]
    Proposal.objects.filter(stay__in=told, state=State.OPEN).update(state=State.REPLACED)
    Proposal.objects.bulk_create(proposals)
    return len(proposals)


def _rungs_of(ladders: set[int]) -> dict[int, list[int]]:
    """Ladder id -> its rungs' ids from the bottom."""
    rungs: dict[int, list[int]] = defaultdict(list)
    rows = Rung.objects.filter(ladder__in=ladders).order_by("ladder", "position")
    for ladder, pk in rows.values_list("ladder", "pk"):
        rungs[ladder].append(pk)
    return rungs
