"""From stored sessions to the core's answer."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date

from django.db.models import Max

from drill_ladder.apps.library.models import Rung as StoredRung
from drill_ladder.apps.practice.models import Session, SetRow, Stop
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import (
    PRODUCT,
    Decision,
    Judged,
    Ladder,
    Observer,
    Rule,
    Rung,
    SetResult,
    Yardstick,
    by_day,
    decide,
    judge_day,
)
from drill_ladder.core.judging import Session as CoreSession


def terms(stay: Stay) -> tuple[Rung, Rule]:
    """The rung and the rule that the stay is judged by."""
    return stay.terms.rung, stay.terms.rule


def work_rung(stay: Stay, recheck: bool) -> tuple[StoredRung, Rung]:
    """The rung that is worked on, as stored and as the core's value: the one below for a recheck."""
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


def core_session(session: Session) -> CoreSession:
    """A stored session as the core's value. Voided attempts are neither makes nor misses: they stay behind."""
    sets = tuple(core_set(s) for s in session.sets.all())
    return CoreSession(session.on, Observer(session.observer), sets, session.eased, session.form)


def core_set(s: SetRow) -> SetResult:
    """A stored set as the core's value."""
    measured = (s.attempts, s.makes, s.points, s.seconds, s.count, s.best_run, s.ticks, s.share)
    return SetResult(s.lane or None, *measured, s.faults, s.voids)


def sessions_of(stay: Stay) -> Iterable[Session]:
    """The sessions that count for the stay, with their sets."""
    return stay.sessions.filter(recheck=False).prefetch_related("sets")


def decide_stay(stay: Stay, on: date) -> Decision:
    """What the core says about a stay on a day. Only the ids of the ladder's other rungs matter to it."""
    rung, rule = terms(stay)
    rungs = [replace(rung, id=rung_key(r.pk)) for r in stay.prescription.ladder.rungs.all()]
    last = Session.objects.filter(stay__prescription_id=stay.prescription_id).aggregate(last=Max("on"))["last"]
    stop = Stop.objects.open().filter(player_id=stay.prescription.player_id).exists()
    sessions = [core_session(s) for s in sessions_of(stay)]
    return decide(Ladder(tuple(rungs), rule), rung_key(stay.rung_id), sessions, on, last, stop, PRODUCT)


def judge_days(stay: Stay, sessions: Iterable[Session], recheck: bool = False) -> list[Judged]:
    """The verdict of each day of a stay, oldest first; of its recheck days where those are asked for."""
    rule = stay.terms.rule
    rung = work_rung(stay, recheck)[1]
    chosen = [core_session(s) for s in sessions if s.recheck == recheck]
    yardstick = Yardstick(rung, rule.min_share)
    return [judge_day(yardstick, day, PRODUCT) for day in by_day(chosen)]
