"""Today in the hall: who is planned, what each of them should do now, and everything tapped so far,
as one document that a device can work from without a network.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from datetime import date, timedelta
from typing import Any

from drill_ladder.apps.floor.models import FloorTap, HallDay
from drill_ladder.apps.library.models import LanesAre, People
from drill_ladder.apps.people.models import Club, Player, Squad
from drill_ladder.apps.practice.asked import rung_of_day
from drill_ladder.apps.practice.technique import MOST_FAULTS
from drill_ladder.apps.practice.tempos import tempo_choices
from drill_ladder.apps.prescriptions.models import Place, Stay
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.apps.weeks.services import PARTS
from drill_ladder.core.floor import swapped
from drill_ladder.core.judging import Intent, Rung, Trust
from drill_ladder.core.planning import Block, in_order
from drill_ladder.formats.words import dose_words, target_words

SEEN = (Trust.LAST_PASS_OBSERVED, Trust.OBSERVED_ONLY)
ASK_AGAIN = timedelta(days=7)  # comfort, at most so often
Document = dict[str, Any]


def hall_of(club: Club, on: date) -> Document:
    """Everybody who is on a ladder, each with their work in its order."""
    players = list(Player.objects.of_club(club).with_squad().by_name())
    pks = [player.pk for player in players]
    resting = set(Player.objects.resting().among(players).values_list("pk", flat=True))
    stays: dict[int, list[Stay]] = defaultdict(list)
    for stay in Stay.objects.for_weeks(pks):
        if stay.prescription.place != Place.HOME and stay.prescription.started_on <= on:
            stays[stay.prescription.player_id].append(stay)
    weeks = {w.player_id: w for w in Week.objects.beginning(monday_of(on)).of_players(players)}
    planned = _planned(club, on)
    told = set(FloorTap.objects.of_club(club).comfort_since(on - ASK_AGAIN))
    day = HallDay.objects.filter(club=club, on=on).first()
    return {
        "on": on.isoformat(),
        "goal": day.goal if day else None,
        "squads": [{"id": row.pk, "name": row.name} for row in Squad.objects.of_club(club)],
        "players": [
            _player(p, stays[p.pk], planned, weeks.get(p.pk), on)
            | {"rests": p.pk in resting, "comfort": p.pk not in told}
            for p in players
            if stays[p.pk] or p.pk in resting
        ],
    }


def _planned(club: Club, on: date) -> dict[int, dict[int, int]]:
    """Player -> prescription -> its place in the order of the day."""
    found: dict[int, dict[int, int]] = defaultdict(dict)
    for block in PlannedBlock.objects.at_club(club, on).for_sheet():
        if not block.tired:
            found[block.week.player_id][block.prescription_id] = block.order
    return found


def _player(
    player: Player,
    stays: Sequence[Stay],
    planned: dict[int, dict[int, int]],
    week: Week | None,
    on: date,
) -> Document:
    order = planned.get(player.pk, {})
    ordered = sorted(_in_order(stays), key=lambda s: order.get(s.prescription_id, 99))
    told = week if week is not None and week.published_at else None
    return {
        "id": player.pk,
        "name": player.name,
        "squad": player.squad_id,
        "planned": player.pk in planned,
        "work": [work_document(stay, rung_of_day(stay, on, told)) for stay in ordered],
    }


def _in_order(stays: Sequence[Stay]) -> list[Stay]:
    """Speed while fresh, conditioning last (core, section 13)."""
    by_id = {str(stay.pk): stay for stay in stays}
    blocks = [
        Block(
            *(id, PARTS[_intent(stay)], 1, 1),
            priority=stay.prescription.priority,
            contact_or_maximal=stay.worked_on.drill.only_fresh,
        )
        for id, stay in by_id.items()
    ]
    return [by_id[block.id] for block in in_order(blocks)]


def _intent(stay: Stay) -> Intent:
    own = stay.prescription.intent
    return Intent(own) if own else stay.terms.rung.intent


def work_document(stay: Stay, rung: Rung) -> Document:
    """One piece of work, with everything that an instrument needs."""
    worked = stay.worked_on
    drill, player = worked.drill, stay.prescription.player
    mirrored = player.is_left_handed and drill.lanes_are == LanesAre.SIDES
    measure = rung.measure
    return {
        "stay": stay.pk,
        "drill": drill.pk,
        "ladder": stay.prescription.ladder.title,
        "position": worked.position,
        "title": worked.title,
        "kind": measure.kind,
        "lanes": list(rung.lanes),
        "said": [swapped(lane) if mirrored else lane for lane in rung.lanes],
        "sets": rung.dose.sets,
        "reps": rung.reps_per_set,
        "rest": rung.dose.rest_s,
        "dose": dose_words(rung),
        "target": target_words(rung),
        "faults": list(drill.faults[:MOST_FAULTS]),
        "fed": drill.people in (People.FEEDER, People.PARTNER),
        "watch": stay.terms.rule.trust in SEEN,
        "tempos": tempo_choices(rung),
        "reads": rung.caller is not None,
        "tired_too": stay.prescription.tired_too and not drill.only_fresh,
        "worn": list(drill.worn),
        "top": getattr(measure, "max", None),
        "items": list(getattr(measure, "items", ())),
        "window": getattr(measure, "window_s", None),
        "cap": getattr(measure, "cap", None),
        "n": getattr(measure, "n", None),
    }


def taps_document(taps: Iterable[FloorTap]) -> list[Document]:
    """Taps as devices read them."""
    return [
        {
            "id": str(tap.uid),
            "at": tap.at.isoformat(),
            "player": tap.player_id,
            "stay": tap.stay_id,
            "act": tap.act,
            "lane": tap.lane,
            "value": tap.value,
            "n": tap.pk,
        }
        for tap in taps
    ]
