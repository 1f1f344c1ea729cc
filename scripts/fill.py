"""A large club for measuring: players on two ladders each, for as many days as asked, in bulk and
with every constraint on; and copies of it beside it.

Invented data for ./ladder bench --large; nothing of it is shown anywhere.
"""

import random
from collections.abc import Iterator
from datetime import date, datetime, time, timedelta
from typing import Any
from uuid import UUID

from django.apps import apps
from django.db import connection, models, transaction
from django.utils import timezone

from drill_ladder.apps.people.models import Club, Membership, Player, PlayerDay, SecretLink, Squad
from drill_ladder.apps.practice.judged.days import rejudge
from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.prescriptions.services import personal_terms
from drill_ladder.apps.review.models import Proposal, State
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.core.judging import Ahead, Kind, Said
from drill_ladder.core.planning import ToldBlock
from tests.make import LANES, drill, ladder, member

AT_ONCE = 2000
SQUADS, RUNGS, LADDERS = 8, 6, 2
WORK_DAYS = (0, 2, 5)  # weekdays: home, club, home
SHIFT = 10_000_000  # between the numbers of a club and those of its copy


def fill(name: str, players: int, days: int, today: date, seed: int = 1) -> Membership:
    """A club whose players worked three days a week on each of two ladders up to yesterday; its
    coach.
    """
    draw = random.Random(seed)  # noqa: S311  (data to measure with)
    club = Club.objects.create(name=name, night_on=today)
    coach = member(club, f"Coach{seed}", "coach")
    squads = Squad.objects.bulk_create(
        [Squad(club=club, name=f"Squad {i + 1}") for i in range(SQUADS)]
    )
    ladders = [ladder(club, drill(club, f"Drill {i}"), f"Ladder {i}", RUNGS) for i in (1, 2)]
    people = [
        Player(club=club, squad=squads[i % SQUADS], name=f"Player {i:03}", joined_on=today)
        for i in range(players)
    ]
    Player.objects.bulk_create(people)
    SecretLink.objects.bulk_create(
        [
            SecretLink(club=club, player=p, opens=kind)
            for p in people
            for kind in ("card", "calendar")
        ]
    )
    PlayerDay.objects.bulk_create(
        PlayerDay(club=club, player=p, weekday=d, minutes=40, place="club" if d == 2 else "home")
        for p in people
        for d in WORK_DAYS
    )
    began = today - timedelta(days=days)
    on_ladders = [
        Prescription(club=club, player=p, ladder=of, per_week=3, started_on=began, last_on=today)
        for p in people
        for of in ladders
    ]
    Prescription.objects.bulk_create(on_ladders)
    with transaction.atomic():
        _work(club, on_ladders, began, today, draw)
        _weeks(club, people, on_ladders, began, today)
    for _ in rejudge(club):
        pass
    _last_days(club)
    return coach


def _work(
    club: Club, prescriptions: list[Prescription], began: date, today: date, draw: random.Random
) -> None:
    """Stays up the ladder, each with its sessions, sets and what was said."""
    step = (today - began) / RUNGS
    sessions: list[Session] = []
    sets: list[SetRow] = []
    said: list[Proposal] = []
    for p in prescriptions:
        terms = [personal_terms(p, rung) for rung in p.ladder.rungs.all()]
        rungs = list(p.ladder.rungs.all())
        stays = [
            Stay(
                club=club,
                prescription=p,
                rung=rung,
                terms=terms[i],
                arrived=began + i * step,
                left=None if i == RUNGS - 1 else began + (i + 1) * step,
                how="placed" if i == 0 else "climb",
            )
            for i, rung in enumerate(rungs)
        ]
        Stay.objects.bulk_create(stays)
        for stay in stays:
            for on in _days(stay.arrived, stay.left or today):
                session = Session(
                    id=UUID(int=draw.getrandbits(128), version=4),
                    club=club,
                    stay=stay,
                    on=on,
                    observer="coach" if on.weekday() == 2 else "self",
                    effort=draw.randint(2, 8),
                )
                sessions.append(session)
                for order, lane in enumerate(LANES, 1):
                    made = draw.randint(5, 9)
                    faults = {"wide": 9 - made} if made < 9 else {}
                    sets.append(
                        SetRow(
                            id=UUID(int=draw.getrandbits(128), version=4),
                            club=club,
                            session=session,
                            order=order,
                            lane=lane,
                            attempts=10,
                            makes=made,
                            faults=faults,
                        )
                    )
                said.append(_said(stay, on, State.NOTED))
        if draw.random() < 0.2:
            said[-1] = _said(stays[-1], today, State.OPEN)
    Session.objects.bulk_create(sessions, AT_ONCE)
    SetRow.objects.bulk_create(sets, AT_ONCE)
    Proposal.objects.bulk_create(said, AT_ONCE)


def _said(stay: Stay, on: date, state: str) -> Proposal:
    kind = Kind.STALLED if state == State.OPEN else Kind.HOLD
    return Proposal(
        club_id=stay.club_id,
        player_id=stay.prescription.player_id,
        stay=stay,
        kind=kind.value,
        said=Said(Ahead(kind, None), ()),
        made_on=on,
        state=state,
    )


def _days(first: date, until: date) -> Iterator[date]:
    for n in range((until - first).days):
        on = first + timedelta(days=n)
        if on.weekday() in WORK_DAYS:
            yield on


def _weeks(
    club: Club,
    players: list[Player],
    prescriptions: list[Prescription],
    began: date,
    today: date,
) -> None:
    """Every week as it was planned and told, this one too."""
    mine: dict[int, list[Prescription]] = {}
    for p in prescriptions:
        mine.setdefault(p.player_id, []).append(p)
    monday = began - timedelta(days=began.weekday())
    while monday <= today:
        told_at = timezone.make_aware(datetime.combine(monday, time(6)))
        weeks = [
            Week(
                club=club,
                player=player,
                monday=monday,
                revision=1,
                published_at=told_at,
                published=tuple(_told(p, monday, d) for p in mine[player.pk] for d in WORK_DAYS),
            )
            for player in players
        ]
        Week.objects.bulk_create(weeks, AT_ONCE)
        blocks = [
            PlannedBlock(
                club=club,
                week=week,
                prescription_id=told.prescription,
                on=told.on,
                order=told.order,
                minutes=told.minutes,
                place=told.place,
            )
            for week in weeks
            for told in week.published
        ]
        PlannedBlock.objects.bulk_create(blocks, AT_ONCE)
        monday += timedelta(days=7)


def _told(p: Prescription, monday: date, weekday: int) -> ToldBlock:
    on, place = monday + timedelta(days=weekday), "club" if weekday == 2 else "home"
    key = f"{p.pk}-{weekday}"
    return ToldBlock(
        key, p.pk, str(p.ladder), "Gate", on, 1, 4, place, "", "10 left, 10 right", "8 of 10", False
    )


def _last_days(club: Club) -> None:
    """As the sessions would have left them."""
    with connection.cursor() as cursor:
        cursor.execute(
            'UPDATE prescriptions_prescription p SET last_on = (SELECT max(j."on") FROM '
            "practice_judgedday j JOIN prescriptions_stay s ON s.id = j.stay_id "
            "WHERE s.prescription_id = p.id) WHERE p.club_id = %s",
            [club.pk],
        )
        cursor.execute(
            "UPDATE people_player SET seen_on = current_date - 5 WHERE club_id = %s", [club.pk]
        )


def copies(of: Club, first: int, last: int) -> None:
    """Copies of a club with everything in it, made inside the database: the n-th has every number
    shifted by n times SHIFT.
    """
    with transaction.atomic(), connection.cursor() as cursor:
        for table, columns, values, where in _tables():
            for n in range(first, last + 1):
                # only names of our own tables
                sql = f"INSERT INTO {table} ({columns}) SELECT {values} FROM {table} WHERE {where}"  # noqa: S608
                cursor.execute(sql, {"n": n, "shift": n * SHIFT, "club": of.pk})


def _tables() -> Iterator[tuple[str, str, str, str]]:
    """(table, columns, what they become, which rows), parents first."""
    for model in _with_club():
        columns = list(model._meta.concrete_fields)
        where = "club_id = %(club)s"
        if model._meta.label == "people.Club":
            where = "id = %(club)s"
        if model._meta.label == "people.User":
            where = "id IN (SELECT user_id FROM people_membership WHERE club_id = %(club)s)"
        yield (
            model._meta.db_table,
            ", ".join(f'"{f.column}"' for f in columns),
            ", ".join(_shifted(f) for f in columns),
            where,
        )


def _shifted(field: Any) -> str:
    column = f'"{field.column}"'
    key = field.target_field if field.is_relation else field
    if field.is_relation or field.primary_key:
        if isinstance(key, models.UUIDField):
            return f"md5({column}::text || %(n)s)::uuid"
        return f"{column} + %(shift)s"
    if field.name == "email" and field.unique:
        return f"{column} || '.' || %(n)s"
    return column


def _with_club() -> list[Any]:
    names = (
        "people.Club people.User people.Membership people.Squad people.Player people.PlayerDay "
        "people.SecretLink library.Drill library.Ladder library.Rung prescriptions.Prescription "
        "prescriptions.Stay practice.Session practice.SetRow practice.JudgedDay review.Proposal "
        "weeks.Week weeks.PlannedBlock"
    )
    return [apps.get_model(name) for name in names.split()]
