"""The club's own record, put together for looking back at rules: stays as they went, proposals and
what became of them (docs/methods.md, 33 and 34).
"""

from collections import Counter, defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from itertools import pairwise

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.people.models import Club, Membership
from drill_ladder.apps.practice.judged import core_sessions
from drill_ladder.apps.practice.models import JudgedDay, Session
from drill_ladder.apps.prescriptions.models import Arrival, Status, Stay
from drill_ladder.apps.review.models import Action, Decision, Proposal
from drill_ladder.core.judging import Kind, Verdict, made_of
from drill_ladder.core.looking_back import Left, PastStay, RungStay

UPWARDS = (Arrival.CLIMB, Arrival.SKIP)
NEXT = 3  # full sessions that are looked at after a move
DONE = (Kind.CLIMB, Kind.SKIP, Kind.FINISH, Kind.CHECK)


@dataclass(frozen=True, slots=True)
class Went:
    """A stay with how it ended, its full days, and the stay after it."""

    stay: Stay
    left: Left
    days: list[JudgedDay]
    after: Stay | None


def how_they_went(ladder: Ladder) -> list[Went]:
    """Every stay on a ladder, player by player in their order, with its full days."""
    stays = list(
        Stay.objects.filter(prescription__ladder=ladder)
        .select_related("rung", "prescription")
        .order_by("prescription", "arrived", "pk")
    )
    days: dict[int, list[JudgedDay]] = defaultdict(list)
    rows = JudgedDay.objects.filter(stay__in=stays, recheck=False)
    for row in rows.exclude(verdict=Verdict.SHORT).order_by("on"):
        days[row.stay_id].append(row)
    found = []
    for stay, after in pairwise([*stays, None]):
        if stay is None:
            continue
        if after is not None and after.prescription_id != stay.prescription_id:
            after = None
        until = [d for d in days[stay.pk] if stay.left is None or d.on <= stay.left]
        found.append(Went(stay, _left(stay, after), until, after))
    return found


def _left(stay: Stay, after: Stay | None) -> Left:
    if after is not None and after.how in UPWARDS:
        return Left.UP
    if after is not None and after.how == Arrival.STEP_DOWN:
        return Left.DOWN
    finished = after is None and stay.left is not None
    return Left.UP if finished and stay.prescription.status == Status.FINISHED else Left.OPEN


def past_stays(ladder: Ladder, rung: Rung) -> list[PastStay]:
    """The finished stays on a rung with everything that was recorded, for a replay."""
    went = how_they_went(ladder)
    by_stay = {gone.stay.pk: gone for gone in went}
    here = [gone for gone in went if gone.stay.rung_id == rung.pk and gone.stay.left is not None]
    sessions: dict[int, list[Session]] = defaultdict(list)
    rows = Session.objects.filter(stay__in=[one.stay for one in here], recheck=False)
    for row in rows.prefetch_related("sets").order_by("on", "recorded_at"):
        sessions[row.stay_id].append(row)
    return [
        PastStay(
            tuple(
                part
                for row in sessions[one.stay.pk]
                if one.stay.left is None or row.on <= one.stay.left
                for part in core_sessions(row, row.sets.all())
            ),
            one.left,
            _came_back(one, by_stay),
        )
        for one in here
    ]


def _came_back(one: Went, by_stay: dict[int, Went]) -> bool | None:
    """Whether who went up came down or was eased within the first three full sessions there."""
    if one.left is not Left.UP or one.after is None:
        return None
    above = by_stay[one.after.pk]
    first = above.days[:NEXT]
    if any(day.eased for day in first):
        return True
    if above.left is Left.DOWN:
        return len(above.days) <= NEXT
    complete = len(above.days) >= NEXT or above.left is Left.UP
    return False if complete else None


def rung_stays(ladder: Ladder) -> list[RungStay]:
    """Every player's first stay on each rung, with their first full sessions there and on the rung
    below.
    """
    firsts: dict[tuple[int, int], Went] = {}
    went = how_they_went(ladder)
    for one in went:
        if one.days:
            place = (one.stay.prescription.player_id, one.stay.rung.position)
            firsts.setdefault(place, one)
    rows = []
    for one in went:
        player, position = one.stay.prescription.player_id, one.stay.rung.position
        is_first = firsts.get((player, position)) is one
        below = firsts.get((player, position - 1)) if is_first else None
        rows.append(
            RungStay(
                str(position),
                len(one.days),
                one.left,
                _rate(one) if is_first else None,
                _rate(below),
                bool(one.days) and one.days[0].verdict == Verdict.LOW,
            )
        )
    return rows


def _rate(one: Went | None) -> float | None:
    if one is None or not one.days:
        return None
    attempts, makes = made_of(one.days[0].sets)
    return makes / attempts if attempts else None


def forecasts_of(club: Club) -> list[tuple[float, bool]]:
    """Each chance that was told for the next full session, and whether that one completed the
    climb; where two days came at once nobody knows of which it was said.
    """
    full: dict[int, list[date]] = defaultdict(list)
    days = JudgedDay.objects.filter(club=club, recheck=False).exclude(verdict=Verdict.SHORT)
    for stay, on in days.order_by("on").values_list("stay", "on"):
        full[stay].append(on)
    last: dict[tuple[int, date], Proposal] = {}
    for row in Proposal.objects.filter(club=club).order_by("stay", "made_on", "pk"):
        last[row.stay_id, row.made_on] = row
    return [
        (now.said.odds_next, Kind(after.kind) in DONE)
        for now, after in pairwise(last.values())
        if now.stay_id == after.stay_id
        and now.said.odds_next is not None
        and sum(now.made_on < on <= after.made_on for on in full[now.stay_id]) == 1
    ]


HOW = {
    Action.CONFIRM: "followed",
    Action.HOLD: "overruled",
    Action.OVERRIDE: "overruled",
    Action.MOVED: "by hand",
}


@dataclass(frozen=True, slots=True)
class Ledger:
    """A coach's own calls. calls: (kind, how) -> times; climbs: how -> (full sessions from the
    decision until the rung that the climb led to was passed, whether it was).
    """

    calls: Counter[tuple[str, str]]
    climbs: dict[str, list[tuple[int, bool]]]


def ledger_of(member: Membership) -> Ledger:
    """From every decision of theirs that stands."""
    decisions = list(
        Decision.objects.filter(club=member.club, by=member.user, undone_at=None)
        .select_related("proposal__stay", "proposal__to_rung")
        .order_by("on")
    )
    calls = Counter(
        (_kind_of(decision).replace("_", " "), HOW[Action(decision.action)])
        for decision in decisions
    )
    asked = [decision for decision in decisions if _is_climb(decision)]
    keys = {one.proposal.stay.prescription_id for one in asked}
    days, passed = _days_of(member.club, keys), _passed_of(keys)
    climbs: dict[str, list[tuple[int, bool]]] = defaultdict(list)
    for one in asked:
        key = one.proposal.stay.prescription_id
        to = one.proposal.to_rung.position if one.proposal.to_rung else 0
        until = next((on for place, on in passed[key] if place >= to and on > one.on), None)
        after = [on for on in days[key] if on > one.on and (until is None or on <= until)]
        climbs[HOW[Action(one.action)]].append((len(after), until is not None))
    return Ledger(calls, climbs)


def _kind_of(one: Decision) -> str:
    return one.applied if one.action == Action.MOVED else one.proposal.kind


def _is_climb(one: Decision) -> bool:
    """A climb that the rule proposed, followed or not: both are asked about the same next rung."""
    return one.action != Action.MOVED and one.proposal.kind in (Kind.CLIMB, Kind.SKIP)


def _days_of(club: Club, prescriptions: Iterable[int]) -> dict[int, list[date]]:
    """Prescription -> its full days, in order."""
    rows = JudgedDay.objects.filter(club=club, recheck=False)
    rows = rows.filter(stay__prescription__in=list(prescriptions)).exclude(verdict=Verdict.SHORT)
    days: dict[int, list[date]] = defaultdict(list)
    for prescription, on in rows.order_by("on").values_list("stay__prescription", "on"):
        days[prescription].append(on)
    return days


def _passed_of(prescriptions: Iterable[int]) -> dict[int, list[tuple[int, date]]]:
    """Prescription -> (position, day) of each rung that was left upwards, in order."""
    rows = Stay.objects.filter(prescription__in=list(prescriptions))
    rows = rows.select_related("rung", "prescription").order_by("prescription", "arrived", "pk")
    passed: dict[int, list[tuple[int, date]]] = defaultdict(list)
    for stay, after in pairwise([*rows, None]):
        if stay is None or stay.left is None:
            continue
        if after is not None and after.prescription_id != stay.prescription_id:
            after = None
        if _left(stay, after) is Left.UP:
            passed[stay.prescription_id].append((stay.rung.position, stay.left))
    return passed
