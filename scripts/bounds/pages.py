"""The pages that are asked, each with what it may cost."""

from dataclasses import dataclass, field
from datetime import date, timedelta

from drill_ladder.apps.floor.models import Battery, Protocol
from drill_ladder.apps.library.models import Drill, Ladder, Routine
from drill_ladder.apps.people.models import Membership, Player, SecretLink
from drill_ladder.apps.prescriptions.models import PlayerRoutine, Stay
from drill_ladder.apps.review.models import Decision, Proposal
from drill_ladder.apps.weeks.models import PlannedBlock, Week


@dataclass(frozen=True)
class Page:
    """questions, blocks: at most; whole: the growing tables of which it reads all that a club has,
    each with the reason.
    """

    name: str
    address: str
    questions: int
    blocks: int
    whole: dict[str, str] = field(default_factory=dict)


class Scene:
    """A filled club's rows, one of each kind, as pages and methods are asked about them."""

    def __init__(self, coach: Membership, today: date) -> None:
        club = coach.club
        self.coach, self.club, self.today = coach, club, today
        self.players = list(Player.objects.of_club(club).order_by("pk"))
        self.player = self.players[0]
        self.squad = self.player.squad_id
        self.ladder = Ladder.objects.of_club(club).order_by("pk")[0]
        self.drill = Drill.objects.of_club(club).order_by("pk")[0]
        self.routine = Routine.objects.of_club(club).get()
        self.given = PlayerRoutine.objects.of_club(club).order_by("pk")[0]
        self.battery = Battery.objects.of_club(club).latest("pk")
        self.protocol = Protocol.objects.of_club(club).order_by("pk")[0]
        self.stay = Stay.objects.filter(left=None, prescription__player=self.players[1]).first()
        self.stays = list(Stay.objects.filter(prescription__player=self.player).order_by("pk"))
        self.proposal = Proposal.objects.of_club(club).order_by("pk")[0]
        self.decision = Decision.objects.of_club(club).order_by("pk")[0]
        self.week = Week.objects.of_club(club).filter(player=self.player).latest("monday")
        self.block = PlannedBlock.objects.filter(week=self.week).order_by("pk")[0]
        links = SecretLink.objects.of_club(club).filter(player=self.players[1])
        self.card = links.get(opens="card").token
        self.calendar = links.get(opens="calendar").token


def pages(at: Scene) -> list[Page]:
    """Every kind of page."""
    return [*_of_players(at), *_of_work(at), *_of_the_library(at), *_of_the_club(at), *_open(at)]


MIRROR = "what came of a coach's decisions is counted over all of them, until it is kept by night"
PAGER = "counted for the list's pages"
ASKED = "all of it is what was asked for"
STATE = "whether anything changed is one sum over the weeks since spring"


def _of_players(at: Scene) -> list[Page]:
    who = f"/players/{at.player.pk}/"
    year = at.today - timedelta(days=364)
    return [
        Page("overview", "/", 13, 1500),
        Page("players", "/players/", 9, 400),
        Page("search", "/find/?q=Player", 2, 50),
        Page("a player", who, 12, 2150),
        Page("their family's page", f"{who}family/", 5, 50),
        Page("is it working", f"{who}progress/", 21, 1450),
        Page("a year of it", f"{who}progress/?since={year}", 22, 4700),
        Page("a player's week", f"{who}week/", 13, 200),
        Page("a player's sessions", f"{who}sessions/", 7, 750),
        Page("a player's decisions", f"{who}decisions/", 6, 2500),
        Page("coverage", f"{who}coverage/", 9, 2300),
        Page("a report", f"{who}report/", 13, 1300),
        Page("who changed what", f"{who}trail/", 7, 150),
        Page("a player is changed", f"{who}edit/", 8, 50),
        Page("their records", f"{who}records/", 4, 50),
        Page("what to prescribe", f"{who}prescribe/", 7, 150),
        Page("a squad at one look", f"/squads/{at.squad}/progress/", 12, 450),
        Page("a squad's term", f"/squads/{at.squad}/term/", 10, 900),
    ]


def _of_work(at: Scene) -> list[Page]:
    return [
        Page("log", f"/log/{at.stay.pk}/", 10, 150),
        Page("log a routine", f"/log/routine/{at.given.pk}/", 19, 200),
        Page("why", f"/stays/{at.stay.pk}/why/", 7, 100),
        Page("review", "/review/", 12, 7050),
        Page("decided lately", "/review/lately/", 4, 250),
        Page(
            "own decisions",
            "/own-decisions/",
            9,
            19050,
            {"practice_judgedday": MIRROR, "review_proposal": MIRROR},
        ),
        Page("everybody's week", "/weeks/", 10, 550),
        Page("hall", "/floor/", 17, 1700),
        Page("what is new in the hall", "/floor/feed/?after=0", 4, 50),
        Page("turns", "/floor/turns/", 3, 50),
        Page("stations", "/stations/", 7, 50),
        Page("tests", "/tests/", 9, 100),
        Page("a test day", f"/test-days/{at.battery.pk}/", 11, 100),
    ]


def _of_the_library(at: Scene) -> list[Page]:
    ladder = f"/ladders/{at.ladder.pk}/"
    return [
        Page("ladders", "/ladders/", 5, 50),
        Page("a ladder", ladder, 7, 50),
        Page("who stands on a ladder", f"{ladder}players/", 6, 750),
        Page("are its steps well chosen", f"{ladder}steps/", 10, 950),
        Page("a ladder is changed", f"{ladder}edit/", 8, 100),
        Page("drills", "/drills/", 6, 50),
        Page("a drill", f"/drills/{at.drill.pk}/", 6, 50),
        Page("routines", "/routines/", 6, 50),
        Page("a routine", f"/routines/{at.routine.pk}/", 12, 550),
        Page("insights", "/insights/", 5, 100),
    ]


def _of_the_club(at: Scene) -> list[Page]:
    return [
        Page("club", "/club/", 4, 100),
        Page("mail", "/club/outbox/", 6, 150, {"outbox_message": PAGER}),
        Page("history", "/club/history/", 7, 150, {"history_event": PAGER}),
        Page(
            "results as a table",
            "/results.csv",
            4,
            42600,
            {"practice_session": ASKED, "practice_setrow": ASKED},
        ),
    ]


def _open(at: Scene) -> list[Page]:
    """Of whoever has the link."""
    card = f"/card/{at.card}/"
    return [
        Page(
            "coach's feed",
            f"/feed/{at.coach.feed_token}/sessions.ics",
            7,
            1450,
            {"weeks_week": STATE},
        ),
        Page("card", card, 11, 450),
        Page("a block of it", f"{card}{at.stay.pk}/", 11, 350),
        Page("run", f"{card}{at.stay.pk}/run/", 11, 350),
        Page("climb on the card", f"{card}climb/", 11, 2100),
        Page("calendar", f"/calendar/{at.calendar}/drills.ics", 7, 500),
    ]
