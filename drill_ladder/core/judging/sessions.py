"""Sessions, and how those of one calendar day become one."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from typing import NamedTuple

from drill_ladder.core.judging.measures import Dose, Measure, SetResult


class Observer(StrEnum):
    """Who saw the results, the most trusted first."""

    COACH = "coach"
    DEVICE = "device"
    HELPER = "helper"
    SELF = "self"


OBSERVED = frozenset({Observer.COACH, Observer.DEVICE})
_TRUST = {observer: rank for rank, observer in enumerate(Observer)}


@dataclass(frozen=True, slots=True)
class Session:
    """Sets done on one day, seen by one observer. form: share 0..1 of technique checkpoints, None
    if not looked at.
    """

    on: date
    observer: Observer
    sets: tuple[SetResult, ...]
    eased: bool = False
    form: float | None = None


class Day(NamedTuple):
    """The pooled sessions of one day: `sets` are judged, `all_sets` count as work done."""

    on: date
    observer: Observer
    eased: bool
    form: float | None
    sets: tuple[SetResult, ...]
    all_sets: tuple[SetResult, ...]

    @property
    def observed(self) -> bool:
        """Whether a coach or a device saw all of it."""
        return self.observer in OBSERVED


def by_day(sessions: Iterable[Session]) -> list[list[Session]]:
    """Sessions grouped by day, oldest day first; their order in the input never matters."""
    days: dict[date, list[Session]] = {}
    for session in sessions:
        days.setdefault(session.on, []).append(session)
    return [days[on] for on in sorted(days)]


def pool(same_day: list[Session], measure: Measure, dose: Dose) -> Day:
    """One day from its sessions.

    Not eased sessions alone are judged where both sorts exist; the least trusted observer counts;
    form is the mean weighted by dose done, sessions without a form left out.
    """
    if len(same_day) == 1:
        only = same_day[0]
        return Day(only.on, only.observer, only.eased, only.form, only.sets, only.sets)
    judged = [s for s in same_day if not s.eased] or same_day
    return Day(
        on=same_day[0].on,
        observer=max((s.observer for s in judged), key=_TRUST.__getitem__),
        eased=judged[0].eased,
        form=_weighted_form(judged, measure, dose),
        sets=tuple(s for session in judged for s in session.sets),
        all_sets=tuple(s for session in same_day for s in session.sets),
    )


def _weighted_form(sessions: list[Session], measure: Measure, dose: Dose) -> float | None:
    seen = [(s.form, measure.done(s.sets, dose)) for s in sessions if s.form is not None]
    if not seen:
        return None
    total = sum(work for _, work in seen)
    if total <= 0:
        return sum(form for form, _ in seen) / len(seen)
    return sum(form * work for form, work in seen) / total
