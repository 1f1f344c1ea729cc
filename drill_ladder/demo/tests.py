"""The demo club's tests: the badminton juniors on their corners, tested, tested again within the
week, and tested now.
"""

import random
from datetime import date, datetime, time, timedelta
from uuid import uuid5

from django.utils import timezone

from drill_ladder.apps.floor.models import Battery, FloorTap, Protocol
from drill_ladder.apps.floor.tap_rows import SPACE, hold_day
from drill_ladder.apps.floor.test_days import (
    Conditions,
    TrialInput,
    add_trial,
    new_battery,
    save_protocol,
)
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.practice.models import Felt, Stop
from drill_ladder.apps.practice.observations import keep_felt
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.review.models import Proposal, State

SQUADS = ("Badminton juniors", "Badminton youth")
DAYS = ((70, "Start of term", False), (66, "Start of term, again", True), (1, "Half term", False))


def make_ease(coach: Membership, today: date) -> None:
    """How at ease the juniors said they were, once in three weeks."""
    chance = random.Random("ease")  # noqa: S311
    for player in Player.objects.filter(club=coach.club, squad__name__in=SQUADS):
        level = chance.choice((2, 3))
        for back in (64, 43, 22, 2):
            on = today - timedelta(days=back)
            Felt.objects.create(club=coach.club, player=player, on=on, level=level)
            level = min(5, level + chance.choice((0, 1)))
    _make_uneasy(coach, today)


def _make_uneasy(coach: Membership, today: date) -> None:
    """One of them was twice not at ease: that rung is easier now, and waits for the coach."""
    stays = Stay.objects.of_club(coach.club).current().filter(eased=False, recheck=False)
    stays = stays.filter(prescription__player__squad__name__in=SQUADS).exclude(rung__ease_note="")
    for stay in stays.with_all().order_by("pk"):
        if not Proposal.objects.filter(stay=stay, state=State.OPEN).exists():
            for back, level in ((5, 2), (2, 1)):
                keep_felt(stay, today - timedelta(days=back), level)
            return


def open_hall(coach: Membership, today: date) -> None:
    """Whoever is well has come to the hall today, whatever day it is; nothing is counted yet."""
    hold_day(coach.club_id, today)
    hurt = Stop.objects.filter(club=coach.club).open().values("player")
    for player in Player.objects.filter(club=coach.club).exclude(pk__in=hurt):
        FloorTap.objects.create(
            uid=uuid5(SPACE, f"here {player.pk} {today}"),
            club=coach.club,
            player=player,
            on=today,
            at=timezone.now(),
            act="here",
            value={"word": "in"},
            by=coach.user,
            as_coach=True,
        )


def make_tests(coach: Membership, today: date) -> None:
    """Two tests and three days of them."""
    corners = save_protocol(
        member=coach,
        protocol=None,
        values={
            "title": "Six corners, fresh",
            "drill": Drill.objects.get(club=coach.club, title="Six-corner footwork"),
            "trials": 2,
            "score_by": "best",
            "rest_s": 180,
            "counts": "Every corner touched with the racket foot",
            "ends": "Back in the middle",
        },
    )
    serve = save_protocol(
        member=coach,
        protocol=None,
        values={
            "title": "Ten low serves",
            "drill": Drill.objects.get(club=coach.club, title="Low serve to the box"),
            "trials": 2,
            "attempts": 10,
            "score_by": "mean",
            "rest_s": 60,
            "sides": "own",
            "counts": "Under the tape and into the box",
        },
    )
    juniors = Player.objects.filter(club=coach.club, squad__name__in=SQUADS)
    players = list(juniors.exclude(pk__in=Player.objects.resting()).order_by("name"))
    if not players:
        return
    chance = random.Random("tests")  # noqa: S311
    pace = {player.pk: chance.uniform(13.5, 17.5) for player in players}
    for back, title, retest in DAYS:
        on = today - timedelta(days=back)
        day = new_battery(
            member=coach,
            title=title,
            on=on,
            protocols=[corners, serve],
            players=players,
            conditions=Conditions(surface="hall floor", light="bright"),
            retest=retest,
        )
        gain = 0.9 if back == 1 else 0.0
        for number, player in enumerate(players):
            seconds = [pace[player.pk] - gain + chance.gauss(0, 0.25) for _ in range(2)]
            _ran(day, corners, player, [round(s, 2) for s in seconds], number)
            good = [min(10, max(0, round(chance.gauss(6, 1.3)))) for _ in range(2)]
            _ran(day, serve, player, [float(n) for n in good], number, "right")


def _ran(
    day: Battery,
    protocol: Protocol,
    player: Player,
    values: list[float],
    number: int,
    side: str = "",
) -> None:
    begin = timezone.make_aware(datetime.combine(day.on, time(17, 30)))
    for trial, value in enumerate(values):
        at = begin + timedelta(minutes=2 * number + 20 * trial)
        uid = uuid5(SPACE, f"demo {day.pk} {protocol.pk} {player.pk} {trial}")
        given = TrialInput(uid, player, protocol, value, at, side)
        add_trial(battery=day, trial=given, by=None)
