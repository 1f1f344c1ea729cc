"""Judged days as rows, and the decision that rests on them: made by the write that causes them,
read by everything that looks back.

Nothing here decides anything: a row holds what the core said about the sessions of one day, and is
made anew from them whenever one is added or changed. `./ladder manage rejudge` makes all of them
anew.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from datetime import date
from itertools import groupby

from django.db import transaction

from drill_ladder.apps.library.models import Rung as StoredRung
from drill_ladder.apps.people.models import Club
from drill_ladder.apps.practice.learning import form_of, outlook_of
from drill_ladder.apps.practice.models import JudgedDay, Session, SetRow, Stop
from drill_ladder.apps.prescriptions.dose import fixed
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import (
    PRODUCT,
    Decision,
    Judged,
    Ladder,
    Observer,
    Rung,
    SetResult,
    Settings,
    Stopping,
    Verdict,
    Yardstick,
    by_day,
    decide_days,
    judge_days,
)
from drill_ladder.core.judging import Session as CoreSession

ExtraWork = tuple[tuple[bool, tuple[SetResult, ...]], ...]
BY_HAND = replace(PRODUCT, stopping=Stopping(adds_up=True))
AT_ONCE = 500  # stays whose days are made anew together
WRITTEN = [
    *("observer", "eased", "form", "verdict", "met", "score", "lanes"),
    *("sets", "beside", "extra", "stopped"),
]


def work_rung(stay: Stay, recheck: bool) -> tuple[StoredRung, Rung]:
    """The rung that is worked on, as stored and as the core's value: the one below for a
    recheck.
    """
    stored = stay.rung_for(recheck)
    if stored.pk == stay.rung_id:
        return stored, stay.terms.rung
    return stored, fixed(replace(stored.core, rule=None, success=None), None, None)


def asked_of(session: Session, rung: Rung) -> Rung:
    """The rung with the dose that a session was asked for."""
    if session.asked_sets is None and session.asked_reps is None:
        return rung
    return fixed(rung, session.asked_sets, session.asked_reps)


def core_sessions(session: Session, sets: Iterable[SetRow]) -> list[CoreSession]:
    """A stored session as the core's values: two of them where some of its sets were done easier
    than the others, or with a gentler feed. Voided attempts are neither makes nor misses: they stay
    behind.
    """
    parts: dict[bool, list[SetResult]] = {}
    for row in sets:
        eased = session.eased if row.eased is None else row.eased
        parts.setdefault(eased or bool(row.feed), []).append(core_set(row))
    return [
        CoreSession(
            session.on,
            Observer(session.observer),
            tuple(results),
            eased,
            session.form,
            session.tired,
            session.extra,
        )
        for eased, results in sorted(parts.items())
    ]


def core_set(s: SetRow) -> SetResult:
    """A stored set as the core's value."""
    measured = (s.attempts, s.makes, s.points, s.seconds, s.count, s.best_run, s.ticks, s.share)
    return SetResult(s.lane or None, *measured, s.faults, s.voids, s.heard is not None)


def judge_sessions(
    stay: Stay, rung: Rung, sessions: Iterable[CoreSession], asked: Mapping[date, Rung]
) -> list[tuple[Judged, ExtraWork]]:
    """The verdict of each day by the terms of a stay on one rung, oldest first, each with the extra
    practice of that day. asked: the rung by the dose of a day, where it is another one.
    """
    settings = settings_of(stay)
    judged = []
    for same_day in by_day(sessions):
        yardstick = Yardstick(asked.get(same_day[0].on, rung), stay.terms.rule.min_share)
        days, extra = judge_days(yardstick, same_day, settings)
        work = tuple((observed, tuple(sets)) for observed, sets in extra)
        judged += [(day, work) for day in days]
    return judged


def settings_of(stay: Stay) -> Settings:
    """The product's settings; a thumb on a stop watch errs by a tenth, so that a speed block needs
    two slow rounds running.
    """
    return BY_HAND if stay.terms.rung.dose.stop_drop is not None else PRODUCT


def counted_rows(stay: Stay) -> list[JudgedDay]:
    """The days that count for a stay as rows, oldest first: verdict and score without the sets."""
    return [row for row in stay.judged.all() if not row.recheck]


def extra_of(rows: Iterable[JudgedDay]) -> ExtraWork:
    """The extra practice of some days."""
    return tuple(work for row in rows for work in row.extra)


def days_of(stay: Stay, recheck: bool = False) -> list[Judged]:
    """The judged days of a stay, oldest first; of its recheck days where those are asked for."""
    return [row.value for row in stay.judged.all() if row.recheck == recheck]


def keep_day(
    session: Session, sets: Sequence[SetRow] | None, known: Sequence[JudgedDay] | None = None
) -> list[JudgedDay]:
    """Judge the day of a new session and keep it; the days that count for the stay now, oldest
    first.

    sets: those of the session as they were stored; None where others may have kept some of them
    out. known: the judged days of the stay before, where they were read already.
    """
    stay, recheck = session.stay, session.recheck
    rows = list(stay.judged.all()) if known is None else known
    others = {row.on for row in rows if row.recheck == recheck}
    if sets is None or session.on in others:
        done = by_session(SetRow.objects.of_day(session))
        sessions = [one for part in done for one in core_sessions(part[0].session, part)]
        whole = [part[0].session for part in done]
    else:
        sessions, whole = core_sessions(session, sets), [session]
    rung = work_rung(stay, recheck)[1]
    judged = judge_sessions(stay, rung, sessions, _asked_on_days(whole, rung))
    made = [_row(stay, recheck, day, extra) for day, extra in judged]
    _store(made)
    days = {row.on: row for row in rows if not row.recheck}
    if not recheck:
        days |= {row.on: row for row in made}
    return [days[on] for on in sorted(days)]


def drop_day(stay: Stay, recheck: bool, on: date) -> None:
    """A day on which nothing was done after all."""
    stay.judged.filter(recheck=recheck, on=on).delete()
    stay.__dict__.get("_prefetched_objects_cache", {}).pop("judged", None)


def by_session(rows: Iterable[SetRow]) -> list[list[SetRow]]:
    """Sets, in the order of their sessions, session by session."""
    return [list(sets) for _, sets in groupby(rows, key=lambda row: row.session_id)]


def _row(stay: Stay, recheck: bool, judged: Judged, extra: ExtraWork) -> JudgedDay:
    day = judged.day
    judged_sets = {id(s) for s in day.sets}
    return JudgedDay(
        club_id=stay.club_id,
        stay=stay,
        on=day.on,
        recheck=recheck,
        observer=day.observer.value,
        eased=day.eased,
        form=day.form,
        verdict=judged.verdict.value,
        met=judged.met,
        score=judged.score,
        lanes=dict(judged.lanes),
        sets=day.sets,
        beside=tuple(s for s in day.all_sets if id(s) not in judged_sets),
        extra=extra,
        stopped=sorted(day.stopped, key=str),
    )


def _store(rows: Sequence[JudgedDay]) -> None:
    JudgedDay.objects.bulk_create(
        rows,
        AT_ONCE,
        update_conflicts=True,
        unique_fields=["stay", "recheck", "on"],
        update_fields=WRITTEN,
    )


def rejudge(club: Club, missing: bool = False) -> Iterator[int]:
    """Make all judged days of a club anew from its sessions, some hundred stays at a time; yields
    how many stays are done. missing: only those with sessions of which no day is judged.
    """
    stays = Stay.objects.of_club(club).with_sessions(unjudged=missing)
    keys = list(stays.order_by("pk").values_list("pk", flat=True))
    for start in range(0, len(keys), AT_ONCE):
        part = keys[start : start + AT_ONCE]
        with transaction.atomic():
            rows = [row for stay in Stay.objects.to_judge(part) for row in _anew(stay)]
            JudgedDay.objects.filter(stay__in=part).delete()
            JudgedDay.objects.bulk_create(rows, AT_ONCE)
        yield start + len(part)


def _anew(stay: Stay) -> Iterator[JudgedDay]:
    sessions = stay.sessions.all()
    for recheck in sorted({session.recheck for session in sessions}):
        same = [session for session in sessions if session.recheck == recheck]
        rung = work_rung(stay, recheck)[1]
        done = [one for s in same for one in core_sessions(s, s.sets.all())]
        for day, extra in judge_sessions(stay, rung, done, _asked_on_days(same, rung)):
            yield _row(stay, recheck, day, extra)


def _asked_on_days(sessions: Iterable[Session], rung: Rung) -> dict[date, Rung]:
    """The rung by the dose of each day: what its first session was asked for."""
    asked: dict[date, Rung] = {}
    for session in sessions:
        asked.setdefault(session.on, asked_of(session, rung))
    return asked


def rung_key(pk: int) -> str:
    """A stored rung's id in the core."""
    return f"r{pk}"


def rung_pk(key: str) -> int:
    """The stored rung of an id in the core."""
    return int(key[1:])


def decide_stay(
    stay: Stay, on: date, stopped: bool | None = None, rows: Sequence[JudgedDay] | None = None
) -> Decision:
    """What the core says about a stay on a day. Only the ids of the ladder's other rungs matter to
    it.

    stopped, rows: whether a stop is open, and the judged days, where they are known already.
    """
    if stopped is None:
        stopped = Stop.objects.open().filter(player_id=stay.prescription.player_id).exists()
    steps = getattr(stay, "steps", None) or stay.prescription.ladder.rung_ids()
    return decide_on(ladder_of(stay, steps), stay, on, stopped, rows)


def ladder_of(stay: Stay, rung_ids: Sequence[int]) -> Ladder:
    """The ladder of a stay as the core needs it: the terms of the player's arrival on every rung,
    from the bottom.
    """
    rungs = tuple(replace(stay.terms.rung, id=rung_key(pk)) for pk in rung_ids)
    return Ladder(rungs, stay.terms.rule)


def decide_on(
    ladder: Ladder, stay: Stay, on: date, stopped: bool, rows: Sequence[JudgedDay] | None = None
) -> Decision:
    """What the core says where the ladder is at hand, without a question when the days are too."""
    rows = counted_rows(stay) if rows is None else rows
    days, extra = [row.value for row in rows], extra_of(rows)
    last, key = stay.prescription.last_on, rung_key(stay.rung_id)
    return decide_days(ladder, key, days, on, last, stopped, knowing(stay, rows), extra)


def knowing(stay: Stay, rows: Sequence[JudgedDay]) -> Settings:
    """The product's settings with what the club's record knows: by how much days differ, the
    player's form and, where a stall may be said, their outlook.
    """
    full = [row for row in rows if row.verdict != Verdict.SHORT]
    limit, outlook = stay.terms.rule.stall_after, None
    if limit is not None and len(full) >= limit:
        outlook = outlook_of(stay, full)
    return replace(
        settings_of(stay),
        day_spread=stay.club.day_spread,
        form=form_of(stay, full),
        outlook=outlook.chance if outlook is not None else None,
    )
