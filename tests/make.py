"""A small club for tests: what each test needs, made through the services that the product uses."""

from dataclasses import dataclass
from datetime import date
from typing import Any
from unittest import mock
from uuid import uuid4

from django.db.models import Model
from django.http import HttpResponse

from drill_ladder.apps.library.models import Drill, Ladder, Rung
from drill_ladder.apps.people.models import Club, Membership, Player, SecretLink, User
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput, record_session
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.prescriptions.services import prescribe

PASSWORD = "a long password"
LANES = ["left", "right"]


@dataclass
class World:
    """A club with a coach, an assistant, one player and one ladder."""

    club: Club
    coach: Membership
    assistant: Membership
    player: Player
    ladder: Ladder
    drill: Drill

    @property
    def rungs(self) -> list[Rung]:
        """Bottom first."""
        return list(self.ladder.rungs.all())

    @property
    def token(self) -> str:
        """Of the player's open link."""
        return SecretLink.objects.get(
            player=self.player, opens="card", closed_at__isnull=True
        ).token

    @property
    def calendar(self) -> str:
        """Address of the player's calendar."""
        secret = SecretLink.objects.get(
            player=self.player, opens="calendar", closed_at__isnull=True
        ).token
        return f"/calendar/{secret}/drills.ics"


def member(club: Club, name: str, role: str) -> Membership:
    """A user with a role."""
    user = User.objects.create_user(f"{name.lower()}.{club.pk}@example.org", PASSWORD, name)
    return Membership.objects.create(club=club, user=user, role=role)


def owner_of(club: Club) -> Membership:
    """The club's owner, made on the first call."""
    known = Membership.objects.of_club(club).owners().first()
    return known or member(club, "Olive", "owner")


def drill(club: Club, title: str = "Push pass", **more: Any) -> Drill:
    """Makes in two lanes unless said otherwise."""
    given = {
        "measure": {"kind": "makes"},
        "lanes": LANES,
        "faults": ["wide", "late"],
        "cues": ["Look first"],
    } | more
    made = Drill(club=club, title=title, **given)
    made.full_clean()
    made.save()
    return made


def ladder(
    club: Club, of: Drill, title: str = "Gate", rungs: int = 3, passes: int = 2, **terms: Any
) -> Ladder:
    """Eight of ten in each lane, two passes in a row, floor 40 %, an easier variant on
    every rung.
    """
    made = Ladder.objects.create(
        club=club, title=title, rule={"school": "in_a_row", "passes": passes}
    )
    given = {
        "dose": {"sets": 1, "reps": 10},
        "target": {"makes": 8, "of": 10, "each_lane": True},
        "floor": 0.4,
        "ease_note": "bigger gate",
    } | terms
    for position in range(1, rungs + 1):
        rung = Rung(
            club=club, ladder=made, drill=of, position=position, title=f"Gate {position}", **given
        )
        rung.full_clean()
        rung.save()
    return made


def world(name: str = "Tern Harbour") -> World:
    """Everything. What the database refuses anyway is not asked twice here: that was half of the
    time of a thousand tests' beginnings.
    """
    with mock.patch.object(Model, "validate_constraints"):
        return _world(name)


def _world(name: str) -> World:
    club = Club.objects.create(name=name)
    coach = member(club, "Ruth", "coach")
    of = drill(club)
    player = Player(name="Ida Marlow", joined_on=date(2026, 1, 1))
    save_player(
        member=coach,
        player=player,
        guardians=[{"name": "Marlow family", "email": "", "phone": "1"}],
    )
    return World(club, coach, member(club, "Mila", "assistant"), player, ladder(club, of), of)


def put_on(
    w: World, rung: int = 1, on: date = date(2026, 3, 1), place: str = "both", **more: Any
) -> Prescription:
    """The player on a rung of the ladder."""
    given = {"player": w.player, "ladder": w.ladder} | more
    at = given["ladder"].rungs.get(position=rung)
    return prescribe(member=w.coach, rung=at, per_week=3, place=place, on=on, **given)


def current(p: Prescription) -> Stay:
    """Where the player stands."""
    return p.stays.select_related("rung__drill", "prescription__player").get(left__isnull=True)


def climbs(player: Player) -> list[Prescription]:
    """A player's ladders with everything that was done on them."""
    return list(Prescription.objects.filter(player=player).with_climb())


def given(on: date, *makes: int, observer: str = "coach", **more: Any) -> SessionInput:
    """Ten attempts in each lane."""
    lanes = more.pop("lanes", LANES)
    sets = [SetInput(uuid4(), lanes[i], {"attempts": 10, "makes": m}) for i, m in enumerate(makes)]
    return SessionInput(id=uuid4(), on=on, observer=observer, sets=sets, **more)


def log(p: Prescription, on: date, *makes: int, **more: Any) -> Session:
    """A session at the rung where the player stands, recorded on its own day."""
    return record_session(stay=current(p), entry=given(on, *makes, **more), today=on, actor=None)[0]


def text(response: HttpResponse) -> str:
    """What a page says."""
    return response.content.decode()
