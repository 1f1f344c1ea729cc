"""What stands on a player's card of a week: its blocks with their days. Paper shows it, and the
grid that takes paper back in has the same rows.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from drill_ladder.apps.card.today import barred, published_week
from drill_ladder.apps.library.models import Caution
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.work import rung_of_day
from drill_ladder.apps.prescriptions.models import Stay, by_routine
from drill_ladder.apps.weeks.models import Week
from drill_ladder.core.judging import Rung

MOST_BLOCKS = 10


@dataclass(frozen=True, slots=True)
class OnPaper:
    """A block of the week with its dose. days: on which it is done; empty where no week was told,
    and then as often as `times`.
    """

    stay: Stay
    rung: Rung
    days: tuple[date, ...]
    times: int


def week_on_paper(player: Player, monday: date) -> list[OnPaper]:
    """The home work of a week, block by block; one whose dose is a band comes to another number on
    another day, and is then two.
    """
    sunday, week = monday + timedelta(days=6), published_week(player, monday)
    stays = list(Stay.objects.of_player(player).current().begun(sunday).for_home())
    days = _days(stays, week)
    shown = [stay for stay in stays if week is None or stay.prescription_id in days]
    return [
        OnPaper(stay, rung, tuple(on), len(on) or stay.prescription.per_week)
        for stay in shown[:MOST_BLOCKS]
        if stay.worked_on.drill.caution != Caution.COACHED_ONLY and not barred(stay)
        for rung, on in _by_dose(stay, days.get(stay.prescription_id, []), monday, week)
    ]


def _days(stays: Sequence[Stay], week: Week | None) -> dict[int, list[date]]:
    """Prescription -> its days of the week as it was told; every part of a routine has those of its
    block.
    """
    days: dict[int, list[date]] = {}
    for block in week.published if week else ():
        if block.place == "home" and not block.cancelled:
            days.setdefault(block.prescription, []).append(block.on)
    for parts in by_routine(stays).values():
        first = next((days[p] for p in prescriptions_of(parts) if p in days), None)
        if first is not None:
            days |= dict.fromkeys(prescriptions_of(parts), first)
    return days


def prescriptions_of(stays: Iterable[Stay]) -> list[int]:
    """The ladders of some stays, by the ids of their prescriptions."""
    return [stay.prescription_id for stay in stays]


def _by_dose(
    stay: Stay, days: Sequence[date], monday: date, week: Week | None
) -> list[tuple[Rung, list[date]]]:
    told: dict[Rung, list[date]] = {}
    for day in days:
        told.setdefault(rung_of_day(stay, day, week), []).append(day)
    return list(told.items()) or [(rung_of_day(stay, monday, week), [])]
