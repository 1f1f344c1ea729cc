"""Sessions, and how those of one calendar day become one."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from enum import StrEnum
from typing import NamedTuple

from drill_ladder.core.judging.measures import Dose, Measure, SetResult
from drill_ladder.core.judging.stopping import ALONE, Stopping, stop_after


class Observer(StrEnum):
    """Who saw the results, the most trusted first. EAR: a phone heard them, and the player looked
    them over.
    """

    COACH = "coach"
    DEVICE = "device"
    HELPER = "helper"
    EAR = "ear"
    SELF = "self"


OBSERVED = frozenset({Observer.COACH, Observer.DEVICE})
_TRUST = {observer: rank for rank, observer in enumerate(Observer)}


@dataclass(frozen=True, slots=True)
class Session:
    """Sets done on one day, seen by one observer. form: share 0..1 of technique checkpoints, None
    if not looked at; tired: done at the end of other work; extra: done when the day's dose was full
    already.
    """

    on: date
    observer: Observer
    sets: tuple[SetResult, ...]
    eased: bool = False
    form: float | None = None
    tired: bool = False
    extra: bool = False


class Day(NamedTuple):
    """The pooled sessions of one day: `sets` are judged, `all_sets` count as work done. stopped:
    lanes whose rounds got slower until the block ended (None: a series without a lane).
    """

    on: date
    observer: Observer
    eased: bool
    form: float | None
    sets: tuple[SetResult, ...]
    all_sets: tuple[SetResult, ...]
    stopped: frozenset[str | None] = frozenset()

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


def pool(same_day: list[Session], measure: Measure, dose: Dose, stopping: Stopping = ALONE) -> Day:
    """One day from its sessions.

    Fresh sessions alone are judged where there are tired ones too, and of these the not eased ones
    where both sorts exist; the least trusted observer counts; form is the mean weighted by dose
    done, sessions without a form left out. Rounds after a speed block has stopped itself are work
    done and no more.
    """
    if len(same_day) == 1 and dose.stop_drop is None:
        only = same_day[0]
        return Day(only.on, only.observer, only.eased, only.form, only.sets, only.sets)
    every = tuple(s for session in same_day for s in session.sets)
    fresh = [s for s in same_day if not s.tired] or same_day
    judged, stopped = [s for s in fresh if not s.eased] or fresh, frozenset[str | None]()
    if dose.stop_drop is not None:
        judged, stopped = until_stop(judged, dose.stop_drop, stopping)
    return Day(
        on=same_day[0].on,
        observer=max((s.observer for s in judged), key=_TRUST.__getitem__),
        eased=judged[0].eased,
        form=_weighted_form(judged, measure, dose),
        sets=tuple(s for session in judged for s in session.sets),
        all_sets=every,
        stopped=stopped,
    )


def until_stop(
    sessions: Sequence[Session], limit: float, stopping: Stopping
) -> tuple[list[Session], frozenset[str | None]]:
    """The sessions without the rounds after a stop, each lane of each by itself, and the lanes that
    stopped.
    """
    kept, stopped = [], set()
    for session in sessions:
        late: set[int] = set()
        for lane in {s.lane for s in session.sets}:
            rounds = [
                (i, s.seconds)
                for i, s in enumerate(session.sets)
                if s.lane == lane and s.seconds is not None
            ]
            after = stop_after([t for _, t in rounds], limit, stopping)
            if after is not None:
                stopped.add(lane)
                late |= {i for i, _ in rounds[after:]}
        sets = tuple(s for i, s in enumerate(session.sets) if i not in late)
        kept.append(replace(session, sets=sets))
    return kept, frozenset(stopped)


def _weighted_form(sessions: list[Session], measure: Measure, dose: Dose) -> float | None:
    seen = [(s.form, measure.done(s.sets, dose)) for s in sessions if s.form is not None]
    if not seen:
        return None
    total = sum(work for _, work in seen)
    if total <= 0:
        return sum(form for form, _ in seen) / len(seen)
    return sum(form * work for form, work in seen) / total
