"""Weeks of work: what was done of what was asked, by one rule for the coach and the card."""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import Session, Skip, Stop, Why
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.statistics import Completion, PlannedWeek

LOOKED_AT, FURTHEST = 4, 8  # whole weeks that are told to the player, and how far back they lie


def weeks_done(
    ladders: Sequence[Prescription],
    sessions: Iterable[Session],
    told: Iterable[Week],
    mondays: Sequence[date],
) -> list[Completion]:
    """Days of work on a ladder against those that were planned, week by week: as the week was told,
    else as often as it is wanted.
    """
    done: dict[date, set[tuple[int, date]]] = defaultdict(set)
    for session in sessions:
        if not session.tired:
            done[monday_of(session.on)].add((session.stay.prescription_id, session.on))
    planned = {
        week.monday: sum(not block.cancelled and not block.tired for block in week.published)
        for week in told
        if week.published_at is not None
    }
    return [
        Completion(monday, len(done[monday]), planned.get(monday, _wanted(ladders, monday)), None)
        for monday in mondays
    ]


def _wanted(ladders: Sequence[Prescription], monday: date) -> int:
    sunday = monday + timedelta(days=6)
    return sum(
        PlannedWeek(p.per_week, 0, _days_of(p, monday, sunday)).asked
        for p in ladders
        if p.started_on <= sunday and (p.ended_on is None or p.ended_on >= monday)
    )


def _days_of(p: Prescription, monday: date, sunday: date) -> int:
    """The days of a week on which a ladder was asked for."""
    first, last = max(monday, p.started_on), min(sunday, p.ended_on or sunday)
    return max(1, (last - first).days + 1)


@dataclass(frozen=True, slots=True)
class WeeksKept:
    """Of the last whole weeks that count, how many were kept."""

    kept: int
    of: int


def weeks_kept(player: Player, today: date) -> WeeksKept:
    """The last four whole weeks, looking back eight at most. A week in which something hurt, or in
    which the player told to be ill or away, counts only if it was kept all the same: it never takes
    anything away. A missed week is one of four, and no row that begins anew.
    """
    this = monday_of(today)
    mondays = [this - timedelta(weeks=n) for n in range(1, FURTHEST + 1)]
    rows = Session.objects.of_player(player).since(mondays[-1])
    weeks = weeks_done(
        list(Prescription.objects.of_player(player)),
        rows,
        Week.objects.filter(player=player).since(mondays[-1]),
        mondays,
    )
    excused = _excused(player, mondays)
    counted = [week for week in weeks if week.met or (week.planned and week.start not in excused)]
    last = counted[:LOOKED_AT]
    return WeeksKept(sum(week.met for week in last), len(last))


def _excused(player: Player, mondays: Sequence[date]) -> set[date]:
    first = mondays[-1]
    away = Skip.objects.of_player(player).since(first).filter(why=Why.AWAY)
    found = {monday_of(on) for on in away.values_list("on", flat=True)}
    for begun, ended in Stop.objects.filter(player=player).values_list("opened_on", "ended_on"):
        found |= {
            monday
            for monday in mondays
            if begun <= monday + timedelta(days=6) and (ended is None or ended >= monday)
        }
    return found
