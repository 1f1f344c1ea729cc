"""Today in the hall: who is planned, what each of them should do now, and everything tapped so far,
as one document that a device can work from without a network.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from datetime import date
from typing import Any

from drill_ladder.apps.floor.hall.said import said_to_all
from drill_ladder.apps.floor.hall.together import judged_together
from drill_ladder.apps.floor.models import FloorTap, GoalKind, HallDay
from drill_ladder.apps.people.models import Club, Player, Squad
from drill_ladder.apps.practice.observations import asks_again
from drill_ladder.apps.practice.work import works_of
from drill_ladder.apps.prescriptions.models import Setting, Stay
from drill_ladder.apps.weeks.arranging import PARTS
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.judging import Intent
from drill_ladder.core.planning import Block, in_order
from drill_ladder.core.work import Place
from drill_ladder.formats.work_words import work_document

Document = dict[str, Any]


def hall_of(club: Club, on: date) -> Document:
    """Everybody who is on a ladder, each with their work in its order."""
    players = list(Player.objects.of_club(club).for_the_hall())
    pks = [player.pk for player in players]
    stays: dict[int, list[Stay]] = defaultdict(list)
    for stay in Stay.objects.for_weeks(pks):
        if stay.prescription.place != Setting.HOME and stay.prescription.started_on <= on:
            stays[stay.prescription.player_id].append(stay)
    weeks = {w.player_id: w for w in Week.objects.beginning(monday_of(on)).of_players(players)}
    planned = _planned(club, on)
    said = said_to_all(club, pks, on)
    day = HallDay.objects.filter(club=club, on=on).first()
    ordered = {p.pk: _ordered(stays[p.pk], planned.get(p.pk, {})) for p in players}
    flat = [stay for rows in ordered.values() for stay in rows]
    published = {pk: week for pk, week in weeks.items() if week.published_at}
    works = works_of(flat, on, Place.CLUB, weeks=published)
    beside = judged_together(flat)
    by_stay = {
        work.what.stay: {**work_document(work), "beside": beside.get(work.what.stay, [])}
        for work in works
    }
    return {
        "on": on.isoformat(),
        "goal": day.goal if day else None,
        "goal_kind": day.goal_kind if day else GoalKind.SUM,
        "goal_worth": day.goal_worth if day else 1,
        "squads": [{"id": row.pk, "name": row.name} for row in Squad.objects.of_club(club)],
        "players": [
            {
                "id": p.pk,
                "name": p.name,
                "squad": p.squad_id,
                "planned": p.pk in planned,
                "guest": p.guest_on is not None,
                "work": [by_stay[stay.pk] for stay in ordered[p.pk]],
                "rests": p.rests,
                "comfort": asks_again(p.felt_on, p.felt_level, on),
                "say": [one.words for one in said[p.pk] if one.next_time and one.on < on],
            }
            for p in players
        ],
    }


def _planned(club: Club, on: date) -> dict[int, dict[int, int]]:
    """Player -> prescription -> its place in the order of the day."""
    counts: dict[int, dict[int, int]] = defaultdict(dict)
    for block in PlannedBlock.objects.at_club(club, on).for_sheet():
        if not block.tired:
            counts[block.week.player_id][block.prescription_id] = block.order
    return counts


def _ordered(stays: Sequence[Stay], order: dict[int, int]) -> list[Stay]:
    """As the day was planned, then by what they are for."""
    return sorted(_in_order(stays), key=lambda s: order.get(s.prescription_id, 99))


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
