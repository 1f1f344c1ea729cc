"""The work of a large club: ladders, stays, sessions with their sets, and what was said of them."""

import random
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import date, timedelta
from uuid import UUID

from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.prescriptions.models import PlayerRoutine, Prescription, Stay
from drill_ladder.apps.prescriptions.services import personal_terms
from drill_ladder.apps.review.models import Decision, Proposal, State
from drill_ladder.core.judging import Advice, Ahead, Kind, Said, SaidReason
from tests.make import LANES

AT_ONCE = 2000
AT_CLUB = 2  # the weekday of the club's hall
WORK_DAYS = (0, AT_CLUB, 5)
CAME, TWICE, WAITS = 0.85, 0.05, 0.2  # shares: of days somebody worked; twice; of open proposals


def on_holiday(on: date) -> bool:
    """In the first three weeks of August and around the turn of the year."""
    return (on.month, on.day // 22) == (8, 0) or (on.month, on.day) >= (12, 24)


def put_on_ladders(
    people: list[Player],
    ladders: list[Ladder],
    routines: dict[int, PlayerRoutine],
    began: date,
    today: date,
) -> list[Prescription]:
    """On two that go on, as parts of a routine where there is one; on a third that has ended."""
    half = began + (today - began) / 2
    made = []
    for player in people:
        for part, of in enumerate(ladders, 1):
            p = Prescription(club_id=player.club_id, player=player, ladder=of, per_week=3)
            p.started_on = began
            if of is ladders[-1]:
                p.status, p.ended_on = "ended", half
            elif player.pk in routines:
                p.player_routine, p.part = routines[player.pk], part
            made.append(p)
    return Prescription.objects.bulk_create(made)


@dataclass
class _Made:
    """Rows that are put into the database together."""

    sessions: list[Session] = field(default_factory=list)
    sets: list[SetRow] = field(default_factory=list)
    said: list[Proposal] = field(default_factory=list)


def work(coach: Membership, climbed: list[Prescription], today: date, draw: random.Random) -> None:
    """Stays up the ladder, each with its sessions, sets and what was said and decided."""
    made = _Made()
    for p in climbed:
        stays = _stays(p, today)
        for stay in stays:
            last = stay.left or p.ended_on or today
            for on in _days(stay.arrived, last):
                if draw.random() > CAME:
                    continue
                twice = draw.random() < TWICE and on.weekday() != AT_CLUB
                for _ in range(1 + twice):
                    _session(made, stay, on, draw)
                made.said.append(_said(stay, on, Kind.HOLD, State.NOTED))
            if stay.left:
                made.said.append(_said(stay, stay.left, Kind.CLIMB, State.DECIDED))
        if p.ended_on is None and draw.random() < WAITS:
            made.said.append(_said(stays[-1], today, Kind.STALLED, State.OPEN))
    Session.objects.bulk_create(made.sessions, AT_ONCE)
    SetRow.objects.bulk_create(made.sets, AT_ONCE)
    said = Proposal.objects.bulk_create(made.said, AT_ONCE)
    Decision.objects.bulk_create(
        (
            Decision(
                club_id=one.club_id,
                proposal=one,
                action="confirm",
                applied="climb",
                by=coach.user,
                on=one.made_on,
            )
            for one in said
            if one.state == State.DECIDED
        ),
        AT_ONCE,
    )


def _stays(p: Prescription, today: date) -> list[Stay]:
    rungs = list(p.ladder.rungs.all())
    until = p.ended_on or today
    step = (until - p.started_on) / len(rungs)
    stays = [
        Stay(
            club_id=p.club_id,
            prescription=p,
            rung=rung,
            terms=personal_terms(p, rung),
            arrived=p.started_on + i * step,
            left=p.started_on + (i + 1) * step,
            how="placed" if i == 0 else "climb",
        )
        for i, rung in enumerate(rungs)
    ]
    if p.ended_on is None:
        stays[-1].left = None
    return Stay.objects.bulk_create(stays)


def _session(made: _Made, stay: Stay, on: date, draw: random.Random) -> None:
    at_club = on.weekday() == AT_CLUB
    session = Session(
        id=UUID(int=draw.getrandbits(128), version=4),
        club_id=stay.club_id,
        stay=stay,
        on=on,
        observer="coach" if at_club else "self",
        hall=at_club,
        effort=draw.randint(2, 8),
    )
    made.sessions.append(session)
    for order, lane in enumerate(LANES, 1):
        good = draw.randint(5, 9)
        row = SetRow(id=UUID(int=draw.getrandbits(128), version=4), club_id=stay.club_id)
        row.session, row.order, row.lane, row.attempts, row.makes = session, order, lane, 10, good
        row.faults = {"wide": 9 - good} if good < 9 else {}
        made.sets.append(row)


def _said(stay: Stay, on: date, kind: Kind, state: str) -> Proposal:
    reason = SaidReason(
        Advice.WEAKEST_LANE, "The left lane is behind.", {"score": 0.7, "passes": 1}
    )
    return Proposal(
        club_id=stay.club_id,
        player_id=stay.prescription.player_id,
        stay=stay,
        kind=kind.value,
        said=Said(Ahead(kind, None), (reason,)),
        made_on=on,
        state=state,
    )


def _days(first: date, until: date) -> Iterator[date]:
    for n in range((until - first).days):
        on = first + timedelta(days=n)
        if on.weekday() in WORK_DAYS and not on_holiday(on):
            yield on
