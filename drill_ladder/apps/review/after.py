"""After the hour: what everybody came to today at the club, what many share, and what can be
decided now.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.judged import days_of, work_rung
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.words import Outcome, outcome
from drill_ladder.apps.practice.work import mirrors
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.weeks.models import PlannedBlock
from drill_ladder.core.judging import Ahead, Kind, faults_by_name

SHARED = 2  # players at least, for a fault to be one that many share


@dataclass(frozen=True, slots=True)
class After:
    """One player's work on one rung today. proposal: what can be decided now, or nothing; faults:
    by their counts, the commonest first.
    """

    stay: Stay
    outcome: Outcome
    faults: list[tuple[str, int]]
    proposal: Proposal | None


@dataclass(frozen=True, slots=True)
class AfterHour:
    """players: each with their work, by name; absent: planned, and neither here nor counted;
    shared: (fault, how many players); passed: of how many pieces of work.
    """

    players: list[tuple[Player, list[After]]]
    absent: list[Player]
    shared: list[tuple[str, int]]
    passed: int
    of: int


def after_hour(club: Club, on: date) -> AfterHour:
    """Everything that was seen at the club on a day."""
    sessions = list(Session.objects.of_club(club).seen_at_club(on))
    open_ones = Proposal.objects.of_club(club).awaiting_review().with_all()
    proposals = {row.stay_id: row for row in open_ones}
    rows: dict[int, tuple[Player, list[After]]] = {}
    faults: dict[str, set[int]] = {}
    for stay, done in _by_stay(sessions).items():
        player = stay.prescription.player
        one = _after(stay, done, on, proposals.get(stay.pk))
        rows.setdefault(player.pk, (player, []))[1].append(one)
        for name, _ in one.faults:
            faults.setdefault(name, set()).add(player.pk)
    shared = [(name, len(who)) for name, who in faults.items() if len(who) >= SHARED]
    works = [one for _, works_of in rows.values() for one in works_of]
    return AfterHour(
        sorted(rows.values(), key=lambda row: row[0].name),
        _absent(club, on, set(rows)),
        sorted(shared, key=lambda one: (-one[1], one[0])),
        sum(work.outcome.kind == "pass" for work in works),
        len(works),
    )


def _absent(club: Club, on: date, counted: set[int]) -> list[Player]:
    """Who was planned at the club, was not said to be here and has nothing recorded; by name.
    Whoever rests was not expected.
    """
    planned = set(PlannedBlock.objects.at_club(club, on).values_list("week__player", flat=True))
    here = set(FloorTap.objects.of_club(club).said_here(on))
    away = Player.objects.of_club(club).by_name().filter(pk__in=planned - here - counted)
    resting = set(Player.objects.resting().among(away).values_list("pk", flat=True))
    return [player for player in away if player.pk not in resting]


def _by_stay(sessions: Sequence[Session]) -> dict[Stay, list[Session]]:
    by_stay: dict[Stay, list[Session]] = {}
    for session in sessions:
        by_stay.setdefault(session.stay, []).append(session)
    return by_stay


def _after(stay: Stay, done: Sequence[Session], on: date, proposal: Proposal | None) -> After:
    recheck = done[-1].recheck
    judged = next(day for day in days_of(stay, recheck) if day.on == on)
    ahead = next(
        (session.ahead for session in reversed(done) if session.ahead), Ahead(Kind.WAIT, None, ())
    )
    words = outcome(judged, ahead, work_rung(stay, recheck)[1], None, mirrors(stay))
    counts = Counter(faults_by_name(row.faults for session in done for row in session.sets.all()))
    return After(stay, words, [pair for pair in counts.most_common() if pair[1]], proposal)
