"""Finding the rung to start on: guided probing, a first result, or the last time on the ladder."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players import refuse_resting, refuse_unless_coach
from drill_ladder.apps.prescriptions.models import Placement, Stay
from drill_ladder.core.judging import (
    PRODUCT_ZONE,
    Probe,
    place,
)
from drill_ladder.core.statistics import wilson
from drill_ladder.core.thresholds import at_least
from drill_ladder.formats.measures import form_of

A_LANE = 5  # attempts in one lane: enough to move up or down, few enough to stay fresh
MOST = 1000


@dataclass(frozen=True, slots=True)
class Fitted:
    """A rung as the probes see it: rate 0..1, and for probed rungs the counts with their 95 %
    interval.
    """

    rung: Rung
    rate: float | None
    attempts: int
    makes: int
    low: float | None
    high: float | None


@dataclass(frozen=True, slots=True)
class Found:
    """What to try next (None: it knows enough, or nothing can be tried), what is known, where to
    start.
    """

    upcoming: Rung | None
    fitted: list[Fitted]
    start: Rung | None


def counted(rungs: list[Rung]) -> list[Rung]:
    """The rungs that results can tell about: shadow and dry rungs at the foot of a ladder (ticked,
    rated or just done) are passed over.
    """
    first = next((i for i, rung in enumerate(rungs) if not rung.drill.measure.rated), 0)
    return rungs[first:]


def by_probing(rungs: list[Rung]) -> bool:
    """Whether the ladder is scored in makes, so that short sets tell where to start."""
    counts = counted(rungs)
    return bool(counts) and all(rung.drill.measure.counts_makes for rung in counts)


def by_baseline(rungs: list[Rung]) -> bool:
    """Whether one trial of one drill can be held against the targets of all rungs."""
    counts = counted(rungs)
    one_drill = len({rung.drill_id for rung in counts}) == 1
    return one_drill and form_of(counts[0].drill.measure).trial is not None


def found(placement: Placement, rungs: list[Rung]) -> Found:
    """What the probes say. Who does not hold even the first rung that counts starts on the last dry
    one below it.
    """
    dry, rungs = rungs[: len(rungs) - len(counted(rungs))], counted(rungs)
    index = {rung.pk: i for i, rung in enumerate(rungs)}
    probes = [
        replace(probe, rung=index[probe.rung]) for probe in placement.probes if probe.rung in index
    ]
    guess = index.get(placement.guess_id or 0)
    answer = place(len(rungs), probes, guess, PRODUCT_ZONE)
    rates = dict(answer.fitted)
    fitted = [_fitted(rung, i, rates.get(i), probes) for i, rung in enumerate(rungs)]
    upcoming = None if answer.next is None else rungs[answer.next]
    start = None if answer.start is None else rungs[answer.start]
    if dry and answer.start == 0 and not at_least(rates.get(0, 1.0), PRODUCT_ZONE[0]):
        start = dry[-1]
    return Found(upcoming, fitted, start)


def _fitted(rung: Rung, index: int, rate: float | None, probes: list[Probe]) -> Fitted:
    attempts = sum(p.attempts for p in probes if p.rung == index)
    makes = sum(p.makes for p in probes if p.rung == index)
    low, high = wilson(makes, attempts) if attempts else (None, None)
    return Fitted(rung, rate, attempts, makes, low, high)


def current(player: Player, ladder: Ladder, on: date) -> Placement:
    """The placement that is under way today, or a new one that is not stored yet."""
    under_way = Placement.objects.filter(
        player=player, ladder=ladder, on=on, chosen__isnull=True
    ).first()
    return under_way or Placement(club_id=player.club_id, player=player, ladder=ladder, on=on)


@transaction.atomic
def add_probe(
    *, member: Membership, placement: Placement, rung: Rung, attempts: int, makes: int, number: int
) -> Placement:
    """One short set more. number: how many there were when it was asked for; sent twice, it is kept
    once.

    Raises Refused for counts that cannot be.
    """
    refuse_unless_coach(member, "Only a coach places players.")
    refuse_resting(placement.player, "Nothing was kept.")
    if not 0 < attempts <= MOST or not 0 <= makes <= attempts:
        raise Refused(f"{makes} good ones of {attempts} cannot be. Nothing was kept.")
    Player.objects.select_for_update().get(pk=placement.player_id)
    placement = current(placement.player, placement.ladder, placement.on)
    if number == len(placement.probes):
        placement.probes = (*placement.probes, Probe(rung.pk, attempts, makes))
        placement.save()
    return placement


@transaction.atomic
def take_back(*, member: Membership, placement: Placement) -> Placement:
    """The last set was wrong."""
    refuse_unless_coach(member, "Only a coach places players.")
    placement.probes = placement.probes[:-1]
    if placement.pk:
        placement.save()
    return placement


@transaction.atomic
def choose(
    *, member: Membership, placement: Placement, rung: Rung, proposed: Rung | None, reason: str
) -> Placement:
    """Where the player starts. Raises Refused for another rung than the proposed one without a
    reason.
    """
    refuse_unless_coach(member, "Only a coach places players.")
    refuse_resting(placement.player, "Nothing was kept.")
    if proposed is not None and rung.pk != proposed.pk and not reason.strip():
        raise Refused(
            "Another rung than the proposed one: why? You will want to know later. Nothing was "
            "kept."
        )
    placement.chosen, placement.reason = rung, reason.strip()[:300]
    placement.save()
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="placed",
        subject=placement,
        rung=rung.position,
    )
    return placement


def last_time(player: Player, ladder: Ladder) -> Stay | None:
    """Where the player stood when they were last on the ladder."""
    return last_times([player], ladder).get(player.pk)


def last_times(players: Sequence[Player], ladder: Ladder) -> dict[int, Stay]:
    """Where players stood when they were last on the ladder, by player id; nobody who was never on
    it.
    """
    stays = Stay.objects.filter(prescription__player__in=players, prescription__ladder=ladder)
    stays_ = stays.select_related("rung", "prescription").order_by("arrived", "id")
    return {stay.prescription.player_id: stay for stay in stays_}
