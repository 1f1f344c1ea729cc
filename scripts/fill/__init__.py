"""A large club for measuring: players who worked for as many days as asked, with everything that
lies beside the work, in bulk and with every constraint on; and copies of it beside it.

Invented data for ./ladder bench --large and ./ladder check; nothing of it is shown anywhere.
"""

import random
from datetime import date, timedelta

from django.db import connection, transaction

from drill_ladder.apps.people.models import (
    Club,
    Guardian,
    Membership,
    Player,
    PlayerDay,
    SecretLink,
    Squad,
)
from drill_ladder.apps.practice.judged.days import rejudge
from drill_ladder.apps.prescriptions.models import PlayerRoutine
from scripts.fill.beside import lie_beside
from scripts.fill.weeks import told_weeks
from scripts.fill.work import AT_CLUB, WORK_DAYS, put_on_ladders, work
from tests.make import drill, ladder, member

SQUADS, RUNGS = 8, 6


def fill(name: str, players: int, days: int, today: date, seed: int = 1) -> Membership:
    """A club whose players worked three days a week on each of two ladders up to yesterday, on a
    third for the first half; its coach.
    """
    draw = random.Random(seed)  # noqa: S311  (data to measure with)
    club = Club.objects.create(name=name, night_on=today)
    coach = member(club, f"Coach{seed}", "coach")
    people = _people(club, players, today)
    ladders = [ladder(club, drill(club, f"Drill {i}"), f"Ladder {i}", RUNGS) for i in (1, 2, 3)]
    began = today - timedelta(days=days)
    with transaction.atomic():
        routines = _routines(club, people, ladders[:2], began)
        climbed = put_on_ladders(people, ladders, routines, began, today)
        work(coach, climbed, today, draw)
        told_weeks(club, people, [p for p in climbed if p.ended_on is None], began, today)
    for _ in rejudge(club):
        pass
    _last_days(club)
    with transaction.atomic():
        lie_beside(coach, people, began, today, draw)
    return coach


def _people(club: Club, count: int, today: date) -> list[Player]:
    squads = Squad.objects.bulk_create(
        [Squad(club=club, name=f"Squad {i + 1}") for i in range(SQUADS)]
    )
    people = Player.objects.bulk_create(
        Player(club=club, squad=squads[i % SQUADS], name=f"Player {i:03}", joined_on=today)
        for i in range(count)
    )
    SecretLink.objects.bulk_create(
        SecretLink(club=club, player=p, opens=kind) for p in people for kind in ("card", "calendar")
    )
    PlayerDay.objects.bulk_create(
        PlayerDay(
            club=club, player=p, weekday=d, minutes=40, place="club" if d == AT_CLUB else "home"
        )
        for p in people
        for d in WORK_DAYS
    )
    Guardian.objects.bulk_create(
        Guardian(club=club, player=p, name="Family", email=f"family.{p.pk}@example.org")
        for p in people
    )
    return people


def _routines(
    club: Club, people: list[Player], ladders: list, began: date
) -> dict[int, PlayerRoutine]:
    """Every third player has both ladders as one routine."""
    routine = club.routines.create(title="Both of them")
    for position, of in enumerate(ladders, 1):
        routine.parts.create(club=club, ladder=of, position=position)
    given = PlayerRoutine.objects.bulk_create(
        PlayerRoutine(club=club, player=p, routine=routine, started_on=began) for p in people[::3]
    )
    return {one.player_id: one for one in given}


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
