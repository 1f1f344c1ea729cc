"""Make the demo club."""

import json
import random
from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import date, datetime, time, timedelta
from typing import Any

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.library.files import import_library
from drill_ladder.apps.library.limits import save_limit, save_tool_limit
from drill_ladder.apps.library.models import Drill, Ladder, Routine
from drill_ladder.apps.library.routines import PartInput, RoutineHead, save_routine
from drill_ladder.apps.people.models import Club, Membership, Player, Squad, User
from drill_ladder.apps.people.players import save_player
from drill_ladder.apps.practice.judged import measure_spread
from drill_ladder.apps.practice.learning import learn
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.prescriptions.routines import give_routine
from drill_ladder.apps.prescriptions.services import prescribe
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.apps.weeks.services import solve
from drill_ladder.demo.badminton import DRILLS as BADMINTON
from drill_ladder.demo.families import make_agreements, make_duties
from drill_ladder.demo.hockey import DRILLS as HOCKEY
from drill_ladder.demo.ladders import (
    BEFORE_SCHOOL,
    DO_BOTH,
    HAVE_IT,
    LADDERS,
    STOP_AND_PASS,
)
from drill_ladder.demo.people import COACHES, LIVES, PASSWORD, Life
from drill_ladder.demo.season import CLUB_DAYS, DAYS, Season
from drill_ladder.demo.tests import make_ease, make_tests, open_hall
from drill_ladder.formats.library_file import read_library
from drill_ladder.formats.library_values import FORMAT

CLUB = "Tern Harbour Sports Club"
SEED = 20260306
# an invented governing body's: the program ships none
LIMIT: dict[str, Any] = {
    "strain": "full swings",
    "per_week": 60,
    "body": "Tern Coast Badminton Union",
}
STICKS: dict[str, Any] = {
    "tool": "stick",
    "under": 14,
    "least_cm": None,
    "most_cm": 92.0,
    "body": "Tern Coast Hockey League",
}
LOOK_AGAIN = timedelta(weeks=12)


@transaction.atomic
def load(today: date, tell: Callable[[str], None], lives: Sequence[Life] = LIVES) -> Club:
    """The whole demo: people, library and twelve weeks that end yesterday."""
    club = Club.objects.create(name=CLUB)
    for email, name, role in COACHES:
        Membership.objects.create(
            club=club, user=User.objects.create_user(email, PASSWORD, name), role=role
        )
    coach = Membership.objects.select_related("club", "user").get(club=club, role="owner")
    fill(coach, today, tell, lives)
    open_hall(coach, today)
    return club


def fill(
    coach: Membership, today: date, tell: Callable[[str], None], lives: Sequence[Life]
) -> None:
    """A club that has its owner: library, players and their twelve weeks."""
    club = coach.club
    make_library(coach)
    save_limit(member=coach, **LIMIT, squad=None, of=date(today.year - 1, 9, 1))
    save_tool_limit(member=coach, **STICKS, of=date(today.year - 1, 9, 1))
    first = today - timedelta(days=DAYS)
    for number, life in enumerate(lives, 1):
        tell(f"{number} of {len(lives)}: {life.name}")
        again = first + timedelta(days=life.starts) + LOOK_AGAIN + timedelta(days=3 * number - 6)
        with transaction.atomic():
            live(coach, life, today, again)
    make_tests(coach, today)
    make_ease(coach, today)
    make_duties(club)
    make_agreements(coach, first)
    # what was written before the weekend has been read
    Session.objects.filter(club=club, on__lt=today - timedelta(days=4)).update(word_read=True)
    measure_spread(club, today)
    club.refresh_from_db()
    learn(club, today)


def live(coach: Membership, life: Life, today: date, again: date) -> None:
    """One player's twelve weeks; again: when the coach wants to look at their ladders next."""
    first = today - timedelta(days=DAYS)
    player = make_player(coach, life, first)
    put_on_ladders(coach, life, player, first, again)
    chance = random.Random(f"{SEED} {life.name}")  # noqa: S311
    Season(coach, chance, first).play(life, player)
    give_a_routine(coach, player, today)
    plan_this_week(coach, player, today)


def give_a_routine(coach: Membership, player: Player, today: date) -> None:
    """A routine for whoever has one, new this week: at home, or with the coach."""
    if player.name in HAVE_IT:
        title, made, per_week, place = BEFORE_SCHOOL[0], before_school, 3, "home"
    elif player.name in DO_BOTH:
        title, made, per_week, place = STOP_AND_PASS[0], stop_and_pass, 1, "coached"
    else:
        return
    routine = Routine.objects.filter(club=coach.club, title=title).first() or made(coach)
    monday = today - timedelta(days=today.weekday())
    give_routine(
        member=coach, routine=routine, player=player, per_week=per_week, place=place, on=monday
    )


def before_school(coach: Membership) -> Routine:
    """A ladder, then drills as they are, and five stops in between to see what tiredness costs."""
    title, purpose, first, drills = BEFORE_SCHOOL
    parts = [PartInput(Ladder.objects.get(club=coach.club, title=first), keep=True)]
    parts += [PartInput(Drill.objects.get(club=coach.club, title=name)) for name in drills]
    parts[3] = replace(parts[3], insert_after=True)
    head = RoutineHead(title, purpose, 20, (2, 5, 6))
    return save_routine(member=coach, routine=None, head=head, parts=parts)


def stop_and_pass(coach: Membership) -> Routine:
    """Two ladders that are judged in the same repetitions."""
    title, purpose, names = STOP_AND_PASS
    ladders = [Ladder.objects.get(club=coach.club, title=name) for name in names]
    parts = [PartInput(ladders[0]), PartInput(ladders[1], together=True)]
    head = RoutineHead(title, purpose)
    return save_routine(member=coach, routine=None, head=head, parts=parts)


def plan_this_week(coach: Membership, player: Player, today: date) -> None:
    """The week that today lies in, planned and told; a few wait for the coach to publish them."""
    on_ladders = Prescription.objects.active().filter(player=player).exists()
    if not on_ladders or Player.objects.resting().filter(pk=player.pk).exists():
        return
    solve(member=coach, player=player, monday=today)
    if player.squad and "youth" not in player.squad.name:
        at = datetime.combine(today - timedelta(days=today.weekday() + 1), time(19, 0))
        publish(member=coach, player=player, monday=today, at=timezone.make_aware(at))


def make_library(coach: Membership) -> None:
    """Skills, drills, ladders and rungs, through the same reader as any file."""
    document = {"format": FORMAT, "drills": [*HOCKEY, *BADMINTON], "ladders": LADDERS}
    import_library(member=coach, library=read_library(json.dumps(document).encode()))


def make_player(coach: Membership, life: Life, first: date) -> Player:
    """A player with squad, home and guardian."""
    squad, _ = Squad.objects.get_or_create(club=coach.club, name=life.squad)
    age, month = life.born
    born = date(first.year - age, month, 1)
    joined = first + timedelta(days=life.starts)
    player = Player(
        name=life.name,
        squad=squad,
        birth_month=born,
        dominant_side=life.side,
        joined_on=joined,
        stride_m=life.stride,
        height_on=joined if "height_cm" in life.home_set else None,
        **life.home_set,
    )
    family = {
        "name": f"{life.name.split()[-1]} family",
        "email": f"{life.name.split()[-1].lower()}.family@tern-harbour.example",
        "phone": f"01632 960 {100 + 7 * _number(life):03d}",
        "consent_on": joined,
    }
    return save_player(member=coach, player=player, guardians=[family], days=days_of(life))


# home evenings as families have them: (weekday, minutes); the first is the climber's
EVENINGS = (
    ((0, 15), (2, 15), (5, 20)),
    ((0, 10), (5, 15), (6, 15)),
    ((2, 12), (6, 15)),
    ((0, 10), (2, 8), (6, 15)),
    ((2, 10), (5, 12), (6, 15)),
)
AT_THE_CLUB = 15  # minutes of an evening that are each player's own


def _number(life: Life) -> int:
    """Which family it is: from 0, in the order of the club's list."""
    return [one.name for one in LIVES].index(life.name)


def days_of(life: Life) -> list[dict[str, Any]]:
    """Two evenings at the club, and home evenings as the family has them."""
    adult = bool(life.home_set.get("home_adult"))
    club = [
        {"weekday": n, "minutes": AT_THE_CLUB, "place": "club", "helper": True, "adult": True}
        for n in CLUB_DAYS
    ]
    home = [
        {
            "weekday": n,
            "minutes": minutes,
            "place": "home",
            "helper": n > 4 and adult,
            "adult": adult,
        }
        for n, minutes in EVENINGS[_number(life) % len(EVENINGS)]
    ]
    return sorted(club + home, key=lambda day: day["weekday"])


def put_on_ladders(coach: Membership, life: Life, player: Player, first: date, again: date) -> None:
    """The prescriptions that the player started with; again: when the coach wants to look at them
    next.
    """
    more = {"review_on": again}
    for title, start, per_week, place in life.ladders:
        ladder = Ladder.objects.get(club=coach.club, title=title)
        rung = ladder.rungs.get(position=start)
        on = first + timedelta(days=life.starts)
        given: dict[str, Any] = {"per_week": per_week, "place": place, "on": on, "more": more}
        prescribe(member=coach, player=player, ladder=ladder, rung=rung, **given)
