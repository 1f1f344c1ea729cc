"""A climb that a coach has confirmed, told at the next opening of the card."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from drill_ladder.apps.card.today.blocks import CardBlock
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.prescriptions.models import Arrival, Stay

UP = (Arrival.CLIMB, Arrival.SKIP)
NEWS = timedelta(days=14)


@dataclass(frozen=True, slots=True)
class Risen:
    """A ladder on which the player came up. at: the rung of now, from 1; by: how many rungs."""

    ladder: str
    title: str
    at: int
    rungs: int
    by: int


def risen(blocks: Sequence[CardBlock], today: date) -> list[Risen]:
    """Those climbs on whose new rung nothing was done yet: from the first session on it is the rung
    of every day.
    """
    new = {b.stay.pk: b for b in blocks if b.stay.how in UP and today - b.stay.arrived <= NEWS}
    if not new:
        return []
    begun = Session.objects.filter(stay__in=new).values_list("stay", flat=True)
    below = _below([block.stay for block in new.values()])
    return [
        Risen(
            str(block.stay.prescription.ladder),
            block.stay.rung.title,
            block.stay.rung.position,
            block.rungs,
            block.stay.rung.position - below.get(block.stay.prescription_id, 1),
        )
        for pk, block in new.items()
        if pk not in set(begun)
    ]


def _below(stays: Sequence[Stay]) -> dict[int, int]:
    """Prescription -> the rung that was left last."""
    left = Stay.objects.filter(
        prescription__in=[stay.prescription_id for stay in stays], left__isnull=False
    )
    rows = left.order_by("left", "id").values_list("prescription", "rung__position")
    return dict(rows)
