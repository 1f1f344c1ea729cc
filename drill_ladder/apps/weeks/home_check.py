"""Caution that is raised later: what may no longer be done at home is taken back from card,
calendar and plan.

Runs whenever something changes that made home work possible: a drill's caution or needs, a player's
home or days, the rung that a player stands on. The coach gets a list of who is concerned; the card
says what is off and what replaces it.
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from drill_ladder.apps.history.services import record_each
from drill_ladder.apps.people.models import Player, User
from drill_ladder.apps.prescriptions.home import home_way
from drill_ladder.apps.prescriptions.models import Prescription, Setting, Stay
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.planning import AtHome, ToldBlock
from drill_ladder.core.work import Place
from drill_ladder.formats.home_words import why_not

NO_ADULT_THAT_DAY = "no adult is there on that day"
MOST = 300
VERBS = {True: "barred from home", False: "allowed at home again"}


def check_players(*, players: Sequence[Player], actor: User | None, **_: object) -> None:
    """The homes or days of players are others than before."""
    _check(Q(player__in=players), actor)


def check_drills(*, drills: Iterable[int], actor: User | None, **_: object) -> None:
    """Drills ask for more caution, or for other things, than before."""
    below = Q(stays__recheck=True, ladder__rungs__drill__in=drills)
    _check(Q(stays__left__isnull=True) & (Q(stays__rung__drill__in=drills) | below), actor)


def check_arrival(*, prescription: Prescription, first: bool, **_: object) -> None:
    """A player stands on another rung, whose drill may not be one for home.

    On the first one the coach has just been told what the home lacks, and prescribed it all the
    same.
    """
    if not first:
        _check(Q(pk=prescription.pk), None)


def _check(which: Q, actor: User | None) -> None:
    rows = Prescription.objects.active().exclude(place=Setting.COACHED).filter(which).distinct()
    by_club: dict[int, list[Prescription]] = defaultdict(list)
    for prescription in rows.select_related("player__club", "ladder"):
        by_club[prescription.club_id].append(prescription)
    for concerned in by_club.values():
        _check_all(concerned, concerned[0].player.club.today(), actor)


def check_home(prescription: Prescription, today: date, actor: User | None = None) -> bool:
    """Take back what may not be done at home any more, from today on; whether anything was, or is
    to be seen to.
    """
    _check_all([prescription], today, actor)
    return bool(prescription.not_at_home)


@dataclass(frozen=True, slots=True)
class _Off:
    """What one prescription loses of one week: planned blocks by id, and told ones. why: it may not
    be done at home at all, "" where only no adult is there on those days.
    """

    prescription: Prescription
    week: Week
    planned: list[int]
    told: list[ToldBlock]
    why: str


@transaction.atomic
def _check_all(rows: Sequence[Prescription], today: date, actor: User | None) -> None:
    """Those of one club, looked up by a handful of questions however many they are; `not_at_home`
    of each says then why it may not be done at home, empty where it may.
    """
    around = _Around.of(rows, today)
    homes = {pk: home_way(stay) for pk, stay in around.stays.items()}
    standing = [row for row in rows if row.pk in homes]
    whys = {row.pk: _why(around.stays[row.pk], homes[row.pk]) for row in standing}
    off = [one for row in standing for one in _off(row, homes[row.pk], whys[row.pk], around, today)]
    PlannedBlock.objects.filter(pk__in=[pk for one in off for pk in one.planned]).delete()
    for one in off:
        if one.told:
            _cancel(one.week, one.told, one.why or NO_ADULT_THAT_DAY, today)
    lost = {one.prescription.pk: one for one in off}
    changed = [row for row in standing if _bar(row, whys[row.pk], lost.get(row.pk))]
    Prescription.objects.bulk_update(changed, ["not_at_home"])
    record_each(
        actor=actor,
        entries=[
            (
                "barred from home" if row.not_at_home else "allowed at home again",
                row,
                {"why": row.not_at_home},
            )
            for row in changed
        ],
    )


@dataclass(frozen=True, slots=True)
class _Around:
    """What is looked up for all of them: prescription -> where the player stands; player -> weeks
    from this one on, held; (week, prescription) -> blocks planned at home.
    """

    stays: dict[int, Stay]
    weeks: dict[int, list[Week]]
    planned: dict[tuple[int, int], list[PlannedBlock]]

    @classmethod
    def of(cls, rows: Sequence[Prescription], today: date) -> "_Around":
        """By four questions."""
        stays = Stay.objects.filter(prescription__in=rows, left__isnull=True)
        stays = stays.select_related("rung__drill", "rung__ladder", "prescription__player")
        weeks: dict[int, list[Week]] = defaultdict(list)
        held = Week.objects.select_for_update(of=("self",)).order_by("pk")
        players = {row.player_id for row in rows}
        for week in held.filter(player__in=players, monday__gte=monday_of(today)):
            weeks[week.player_id].append(week)
        planned: dict[tuple[int, int], list[PlannedBlock]] = defaultdict(list)
        at_home = PlannedBlock.objects.filter(prescription__in=rows, place=Place.HOME)
        for block in at_home.filter(week__monday__gte=monday_of(today)):
            planned[block.week_id, block.prescription_id].append(block)
        days = stays.prefetch_related("prescription__player__days")
        return cls({stay.prescription_id: stay for stay in days}, weeks, planned)


def _why(stay: Stay, home: AtHome) -> str:
    return "" if home.version else f"“{stay.worked_on.drill}”: {why_not(home)}"


def _off(
    prescription: Prescription, home: AtHome, why: str, around: _Around, today: date
) -> Iterator[_Off]:
    """What is taken back of each week."""
    days = around.stays[prescription.pk].prescription.player.days.all()
    with_adult = {day.weekday for day in days if day.adult}
    needs_adult = bool(home.version and home.version.adult)

    def barred(on: date) -> bool:
        return on >= today and (bool(why) or (needs_adult and on.weekday() not in with_adult))

    for week in around.weeks.get(prescription.player_id, ()):
        planned = around.planned.get((week.pk, prescription.pk), ())
        gone = [block.pk for block in planned if barred(block.on)]
        told = [b for b in week.published if _is_home_of(b, prescription) and barred(b.on)]
        if gone or told:
            yield _Off(prescription, week, gone, told, why)


def _bar(prescription: Prescription, why: str, lost: _Off | None) -> bool:
    """Say on the prescription why it may not be done at home; whether that is news. With both
    places, a rung that never was one for home is done at the club, and nobody has to see to it.
    """
    off = (why or f"“{prescription.ladder}”: {NO_ADULT_THAT_DAY}") if lost else ""
    seen_to = off or prescription.place == Setting.HOME
    bar = (why or off)[:MOST] if seen_to else ""
    if bar == prescription.not_at_home:
        return False
    prescription.not_at_home = bar
    return True


def _is_home_of(block: ToldBlock, prescription: Prescription) -> bool:
    return (
        block.prescription == prescription.pk and block.place == Place.HOME and not block.cancelled
    )


def _cancel(week: Week, blocks: list[ToldBlock], why: str, today: date) -> None:
    """Told blocks are called off: calendars follow, and the card says so."""
    keys = {block.key for block in blocks}
    left = tuple(replace(b, cancelled=True) if b.key in keys else b for b in week.published)
    days = ", ".join(f"{block.on:%A}" for block in blocks)
    line = f"Not at home any more: {blocks[0].ladder} on {days}. {why[:1].upper()}{why[1:]}"
    week.tell(left, [line], today, timezone.now())
