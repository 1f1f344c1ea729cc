"""Make the demo club."""

import random
from collections.abc import Callable
from datetime import date, timedelta

from django.db import transaction

from drill_ladder.apps.library.models import Drill, Ladder, Rung, Skill
from drill_ladder.apps.people.models import Club, Membership, Player, SecretLink, Squad, User
from drill_ladder.apps.people.services import save_player
from drill_ladder.apps.prescriptions.services import prescribe
from drill_ladder.demo.drills import DRILLS
from drill_ladder.demo.ladders import LADDERS
from drill_ladder.demo.people import CARD_OF, COACHES, LIVES, PASSWORD, Life
from drill_ladder.demo.plans import PLANS
from drill_ladder.demo.season import DAYS, Season

CLUB = "Tern Harbour Sports Club"
SEED = 20260306
# the one link that is the same in every demo, so that it can be printed and bookmarked
CARD_TOKEN = "demo-card-of-ida"


@transaction.atomic
def load(today: date, tell: Callable[[str], None]) -> Club:
    """The whole demo: people, library and eight weeks that end yesterday."""
    club = Club.objects.create(name=CLUB)
    for email, name, role in COACHES:
        Membership.objects.create(club=club, user=User.objects.create_user(email, PASSWORD, name), role=role)
    coach = Membership.objects.select_related("club", "user").get(club=club, role="owner")
    make_library(club)
    first = today - timedelta(days=DAYS)
    for number, life in enumerate(LIVES, 1):
        player = make_player(coach, life, first)
        tell(f"{number} of {len(LIVES)}: {player}")
        put_on_ladders(coach, life, player, first)
        chance = random.Random(f"{SEED} {life.name}")  # noqa: S311
        Season(coach, chance, first).play(life, player)
    SecretLink.objects.filter(club=club, player__name=CARD_OF).update(token=CARD_TOKEN)
    return club


def make_library(club: Club) -> None:
    """Skills, drills, ladders and rungs."""
    for given in DRILLS:
        skill, _ = Skill.objects.get_or_create(club=club, name=given["skill"])
        drill = Drill(club=club, **{**given, "skill": skill}, plan=PLANS.get(given["title"]))
        drill.full_clean()
        drill.save()
    drills = {drill.title: drill for drill in Drill.objects.filter(club=club)}
    for given in LADDERS:
        skill = Skill.objects.get(club=club, name=given["skill"])
        ladder = Ladder(club=club, skill=skill, title=given["title"], purpose=given["purpose"], rule=given["rule"])
        ladder.full_clean()
        ladder.save()
        for position, terms in enumerate(given["rungs"], 1):
            rung = Rung(club=club, ladder=ladder, position=position, **{**terms, "drill": drills[terms["drill"]]})
            rung.full_clean()
            rung.save()


def make_player(coach: Membership, life: Life, first: date) -> Player:
    """A player with squad, home and guardian."""
    squad, _ = Squad.objects.get_or_create(club=coach.club, name=life.squad)
    age, month = life.born
    born = date(first.year - age, month, 1)
    joined = first + timedelta(days=life.starts)
    player = Player(
        name=life.name, squad=squad, birth_month=born, dominant_side=life.side, joined_on=joined, **life.home_set
    )
    guardian = {"name": f"{life.name.split()[-1]} family", "email": "", "phone": "01632 960 000"}
    return save_player(member=coach, player=player, guardian=guardian)


def put_on_ladders(coach: Membership, life: Life, player: Player, first: date) -> None:
    """The prescriptions that the player started with."""
    for title, start, per_week, place in life.ladders:
        ladder = Ladder.objects.get(club=coach.club, title=title)
        rung = ladder.rungs.get(position=start)
        on = first + timedelta(days=life.starts)
        prescribe(member=coach, player=player, ladder=ladder, rung=rung, per_week=per_week, place=place, on=on)
