"""Caution that is raised later: what may no longer be done at home is taken back from card,
calendar and plan.

Runs whenever something changes that made home work possible: a drill's caution or needs, a player's
home or days, the rung that a player stands on. The coach gets a list of who is concerned; the card
says what is off and what replaces it.
"""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import date

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.models import Player, PlayerDay, User
from drill_ladder.apps.prescriptions.home import home_way
from drill_ladder.apps.prescriptions.models import Prescription, Setting, Stay
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.planning import AtHome, ToldBlock
from drill_ladder.core.work import Place
from drill_ladder.formats.home_words import why_not

NO_ADULT_THAT_DAY = "no adult is there on that day"
MOST = 300


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
    for prescription in rows.select_related("player__club", "ladder"):
        check_home(prescription, prescription.player.club.today(), actor)


@transaction.atomic
def check_home(prescription: Prescription, today: date, actor: User | None = None) -> bool:
    """Take back what may not be done at home any more, from today on; whether anything was, or is
    to be seen to.
    """
    stays = Stay.objects.filter(prescription=prescription, left__isnull=True)
    stay = stays.select_related("rung__drill", "rung__ladder", "prescription__player").first()
    if stay is None:
        return False
    home = home_way(stay)
    why = "" if home.version else f"“{stay.worked_on.drill}”: {why_not(home)}"
    off = _withdraw(prescription, home, why, today)
    # with both places, a rung that never was one for home is done at the club, and nobody has to
    # see to it
    bar = (why or off)[:MOST] if off or prescription.place == Setting.HOME else ""
    if bar != prescription.not_at_home:
        Prescription.objects.filter(pk=prescription.pk).update(not_at_home=bar)
        prescription.not_at_home = bar
        verb = "barred from home" if bar else "allowed at home again"
        record(club_id=prescription.club_id, actor=actor, verb=verb, subject=prescription, why=bar)
    return bool(bar)


def _withdraw(prescription: Prescription, home: AtHome, why: str, today: date) -> str:
    """Cancel the blocks at home that may not be done, planned and told ones; why, or "" where there
    were none.
    """
    with_adult = set(
        PlayerDay.objects.filter(player=prescription.player, adult=True).values_list(
            "weekday", flat=True
        )
    )
    needs_adult = bool(home.version and home.version.adult)

    def barred(on: date) -> bool:
        return on >= today and (bool(why) or (needs_adult and on.weekday() not in with_adult))

    off = ""
    weeks = Week.objects.select_for_update(of=("self",)).filter(
        player=prescription.player, monday__gte=monday_of(today)
    )
    for week in weeks:
        planned = PlannedBlock.objects.filter(
            week=week, prescription=prescription, place=Place.HOME
        )
        gone = [block.pk for block in planned if barred(block.on)]
        PlannedBlock.objects.filter(pk__in=gone).delete()
        withdrawn = [b for b in week.published if _is_home_of(b, prescription) and barred(b.on)]
        if withdrawn:
            _cancel(week, withdrawn, why or NO_ADULT_THAT_DAY, today)
        if gone or withdrawn:
            off = why or f"“{prescription.ladder}”: {NO_ADULT_THAT_DAY}"
    return off


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
