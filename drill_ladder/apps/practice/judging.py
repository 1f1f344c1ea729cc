"""From stored sessions to the core's answer."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date
from itertools import groupby

from drill_ladder.apps.library.models import Rung as StoredRung
from drill_ladder.apps.practice.models import Session, SetRow, Stop
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import (
    PRODUCT,
    Decision,
    Judged,
    Ladder,
    Observer,
    Rung,
    SetResult,
    Yardstick,
    by_day,
    decide,
    judge_day,
)
from drill_ladder.core.judging import Session as CoreSession


def work_rung(stay: Stay, recheck: bool) -> tuple[StoredRung, Rung]:
    """The rung that is worked on, as stored and as the core's value: the one below for a
    recheck.
    """
    stored = stay.rung_for(recheck)
    if stored.pk == stay.rung_id:
        return stored, stay.terms.rung
    return stored, replace(stored.core, rule=None, reps_high=None, success=None)


def rung_key(pk: int) -> str:
    """A stored rung's id in the core."""
    return f"r{pk}"


def rung_pk(key: str) -> int:
    """The stored rung of an id in the core."""
    return int(key[1:])


def core_session(session: Session, sets: Iterable[SetRow]) -> CoreSession:
    """A stored session as the core's value. Voided attempts are neither makes nor misses: they stay
    behind.
    """
    results = tuple(core_set(row) for row in sets)
    return CoreSession(session.on, Observer(session.observer), results, session.eased, session.form)


def core_set(s: SetRow) -> SetResult:
    """A stored set as the core's value."""
    measured = (s.attempts, s.makes, s.points, s.seconds, s.count, s.best_run, s.ticks, s.share)
    return SetResult(s.lane or None, *measured, s.faults, s.voids)


def sessions_of(stay: Stay) -> Iterable[Session]:
    """The sessions that count for the stay, with their sets."""
    return stay.sessions.counted().with_sets()


def counted_sessions(stay: Stay) -> list[CoreSession]:
    """The sessions that count for the stay as the core's values, by one question."""
    rows = SetRow.objects.counted_for(stay)
    return [core_session(sets[0].session, sets) for sets in by_session(rows)]


def by_session(rows: Iterable[SetRow]) -> list[list[SetRow]]:
    """Sets, in the order of their sessions, session by session."""
    return [list(sets) for _, sets in groupby(rows, key=lambda row: row.session_id)]


def decide_stay(stay: Stay, on: date, stopped: bool | None = None) -> Decision:
    """What the core says about a stay on a day. Only the ids of the ladder's other rungs matter to
    it.

    stopped: whether a stop is open, where that is known already.
    """
    rungs = [
        replace(stay.terms.rung, id=rung_key(pk)) for pk in stay.prescription.ladder.rung_ids()
    ]
    last = Session.objects.last_of(stay.prescription)
    if stopped is None:
        stopped = Stop.objects.open().filter(player_id=stay.prescription.player_id).exists()
    ladder = Ladder(tuple(rungs), stay.terms.rule)
    return decide(
        ladder, rung_key(stay.rung_id), counted_sessions(stay), on, last, stopped, PRODUCT
    )


def judge_days(stay: Stay, sessions: Iterable[Session], recheck: bool = False) -> list[Judged]:
    """The verdict of each day of a stay, oldest first; of its recheck days where those are asked
    for.
    """
    rule = stay.terms.rule
    rung = work_rung(stay, recheck)[1]
    chosen = [core_session(s, s.sets.all()) for s in sessions if s.recheck == recheck]
    yardstick = Yardstick(rung, rule.min_share)
    return [judge_day(yardstick, day, PRODUCT) for day in by_day(chosen)]
