"""Routines as players have them: given, timed as one block, ended."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from math import ceil

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Routine as StoredRoutine
from drill_ladder.apps.library.models import RoutinePart as StoredPart
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players import refuse_unless_coach
from drill_ladder.apps.prescriptions.dose import SETUP_S, SHORTEST, block_of
from drill_ladder.apps.prescriptions.models import PlayerRoutine, Prescription, Status, Stay
from drill_ladder.apps.prescriptions.services import end_prescription, prescribe
from drill_ladder.core.judging import Rung
from drill_ladder.core.planning import Insert, Routine, RoutinePart, routine_of


@transaction.atomic
def give_routine(
    *,
    member: Membership,
    routine: StoredRoutine,
    player: Player,
    per_week: int,
    place: str,
    on: date,
) -> PlayerRoutine:
    """A player gets a routine: on ladders that they are on already they go on where they stand, on
    the others they begin at the first rung. Raises Refused, and then nothing has changed.
    """
    refuse_unless_coach(member, "Only a coach prescribes.")
    if {player.club_id, routine.club_id} != {member.club_id}:
        raise Refused("That routine is not of this club.")
    if routine.archived_on is not None:
        raise Refused(f"{routine} is archived: restore it first. Nothing was changed.")
    Player.objects.select_for_update().get(pk=player.pk)
    if PlayerRoutine.objects.going().filter(player=player, routine=routine).exists():
        raise Refused(f"{player} has {routine} already. Nothing was changed.")
    given = PlayerRoutine.objects.create(
        club=member.club, player=player, routine=routine, started_on=on
    )
    there = {p.ladder_id: p for p in Prescription.objects.active().of_player(player)}
    for part in routine.parts.select_related("ladder"):
        prescription = there.get(part.ladder_id)
        if prescription is not None and prescription.player_routine_id is not None:
            raise Refused(
                f"{player} has {part.ladder} in another routine already. Nothing was changed."
            )
        made = prescription or _begin(member, part, player, per_week, place, on)
        made.player_routine, made.part, made.made_for_it = (
            given,
            part.position,
            prescription is None,
        )
        made.per_week, made.place = per_week, place
        made.save(update_fields=["player_routine", "part", "made_for_it", "per_week", "place"])
    record(club_id=member.club_id, actor=member.user, verb="gave a routine", subject=given)
    return given


def _begin(
    member: Membership, part: StoredPart, player: Player, per_week: int, place: str, on: date
) -> Prescription:
    first = part.ladder.rungs.order_by("position").first()
    if first is None:
        raise Refused(f"{part.ladder} has no rungs. Nothing was changed.")
    return prescribe(
        member=member,
        player=player,
        ladder=part.ladder,
        rung=first,
        per_week=per_week,
        place=place,
        on=on,
    )


@transaction.atomic
def end_routine(*, member: Membership, given: PlayerRoutine, on: date) -> None:
    """Take a routine from a player. Ladders that came with it end with it, those that the player
    was on before stand for themselves again. Raises Refused.
    """
    refuse_unless_coach(member, "Only a coach ends a routine.")
    row = PlayerRoutine.objects.select_for_update().get(pk=given.pk)
    if row.ended_on is not None:
        raise Refused("This routine has ended already. Nothing was changed.")
    row.ended_on = on
    row.save(update_fields=["ended_on"])
    for prescription in row.prescriptions.filter(status=Status.ACTIVE):
        if prescription.made_for_it:
            end_prescription(member=member, prescription=prescription, on=on)
        else:
            prescription.player_routine, prescription.part = None, None
            prescription.save(update_fields=["player_routine", "part"])
    record(club_id=member.club_id, actor=member.user, verb="ended a routine", subject=row)


@dataclass(frozen=True, slots=True)
class PartInHand:
    """A part as one player has it today. rung: with the sets that the routine asks; together:
    judged in the same repetitions as the part before it.
    """

    position: int
    stay: Stay
    rung: Rung
    keep: bool
    insert_after: bool
    together: bool = False

    @property
    def id(self) -> str:
        """Its name in the core's routine."""
        return str(self.position)


def parts_in_hand(given: PlayerRoutine, stays: Iterable[Stay]) -> list[PartInHand]:
    """The parts in their order; stays: where the player stands on its ladders. A part whose ladder
    is finished or ended is none any more.
    """
    by_part = {stay.prescription.part: stay for stay in stays}
    hand: list[PartInHand] = []
    for part in given.routine.parts.all():
        stay = by_part.get(part.position)
        if stay is None:
            continue
        rung = stay.terms.rung
        if part.sets is not None:
            rung = replace(rung, dose=replace(rung.dose, sets=part.sets), sets_high=None)
        # with nothing before it, it stands for itself
        together = part.together and bool(hand) and hand[-1].position == part.position - 1
        hand.append(PartInHand(part.position, stay, rung, part.keep, part.insert_after, together))
    return hand


def timed(
    given: PlayerRoutine, parts: Sequence[PartInHand], minutes: float | None = None
) -> Routine:
    """The routine in time, cut to the minutes where they do not suffice; set-up is paid once."""
    dosed = [block_of(part.rung) for part in parts]
    dosed = [replace(dose, setup_s=SETUP_S * (i == 0)) for i, dose in enumerate(dosed)]
    asked = [
        RoutinePart(part.id, dose, part.keep, part.together)
        for part, dose in zip(parts, dosed, strict=True)
    ]
    routine, after = given.routine, frozenset(part.id for part in parts if part.insert_after)
    insert = None
    if routine.insert_of_id is not None and routine.insert_reps and routine.insert_s:
        insert = Insert(routine.insert_reps * routine.insert_s, after)
    return routine_of(asked, insert, routine.change_s, minutes)


def minutes_of_routine(
    given: PlayerRoutine, stays: Iterable[Stay], most: float | None = None
) -> int:
    """Whole minutes of the routine, cut to the most that a day has."""
    whole = timed(given, parts_in_hand(given, stays), most)
    return max(SHORTEST, ceil(whole.seconds / 60 - 1e-9))


def told_cuts(routine: Routine, parts: Sequence[PartInHand]) -> list[str]:
    """What was cut and left out, in words."""
    titles = {part.id: str(part.stay.prescription.ladder) for part in parts}
    lines = [f"{titles[cut.id]}: {cut.to} of {cut.from_} sets" for cut in routine.cut]
    return lines + [f"{titles[id_]}: left out today" for id_ in routine.left_out]
