"""What was recorded is put right: corrected, taken away, brought back. Nothing is lost by it: what
it was before stands in the trail, and judging follows.
"""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime
from typing import Any
from uuid import UUID, uuid4

from django.db import transaction
from django.db.models import Max
from django.utils import timezone
from django.utils.dateparse import parse_datetime

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player, User
from drill_ladder.apps.practice.judged import decide_stay, drop_day, keep_day
from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.practice.sessions.services import SessionInput, put_sets
from drill_ladder.apps.practice.signals import changing, session_recorded
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.core.judging import OBSERVED
from drill_ladder.formats.decision_documents import ahead
from drill_ladder.formats.documents import READS

CORRECTED, AWAY, BACK = "corrected a session", "took a session away", "brought a session back"
FIELDS = (
    *("on", "observer", "eased", "recheck", "tired", "extra", "form", "effort", "word", "way"),
    *("recorded_by_id", "recorded_at", "asked_sets", "asked_reps", "paper", "device", "both_real"),
    *("hall", "adult", "worn"),
)
SET_FIELDS = (
    *("order", "lane", "attempts", "makes", "points", "seconds", "count", "best_run", "ticks"),
    *("share", "voids", "faults", "seen", "feeder", "strokes"),
    *("eased", "tempo", "heard", "heard_pace", "heard_steady", "rested_s", "feed"),
)


def document_of(session: Session) -> dict[str, Any]:
    """Everything of a session, as the trail keeps it."""
    plain = {name: getattr(session, name) for name in FIELDS}
    sets = [
        {
            "id": str(row.pk),
            **{name: getattr(row, name) for name in SET_FIELDS},
            "reads": READS.write(row.reads) if row.reads else None,
        }
        for row in session.sets.all()
    ]
    return {
        **plain,
        "id": str(session.pk),
        "stay": session.stay_id,
        "on": session.on.isoformat(),
        "recorded_at": session.recorded_at.isoformat(),
        "sets": sets,
    }


def may_change(session: Session, actor: User | None) -> str:
    """Why a player may not change a session any more; empty where they may. A coach always may."""
    if actor is not None:
        return ""
    if session.recorded_by_id is not None:
        return "Your coach logged this one, and can put it right."
    answers = changing.send(sender=Session, session=session)
    return next((why for _, why in answers if why), "")


@transaction.atomic
def correct(
    *,
    session: Session,
    entry: SessionInput,
    actor: User | None,
    today: date,
    trail: bool = True,
) -> Session:
    """Put a session right, set by set. Raises Refused, and then nothing has changed. trail: False
    where what it is made of keeps a trail of its own.
    """
    session = _locked(session, actor)
    before, was_on = document_of(session), session.on
    session.on, session.form, session.effort = entry.on, entry.form, entry.effort
    session.word, session.tired = entry.word, entry.tired
    if session.word != before["word"]:
        session.word_read = False
    session.save()
    own = set(session.sets.values_list("pk", flat=True))
    session.sets.all().delete()
    # an id of another session's set is no reason to lose what was typed
    put_sets(session, [s if s.id in own else replace(s, id=uuid4()) for s in entry.sets])
    if trail:
        record(
            club_id=session.club_id,
            actor=actor,
            verb=CORRECTED,
            subject=session.stay,
            before=before,
            after=document_of(session),
        )
    _judge(session.stay, {was_on, session.on}, today, session)
    return session


@transaction.atomic
def take_away(*, session: Session, actor: User | None, today: date) -> Event:
    """Take a session away; the entry of the trail brings it back. Raises Refused."""
    session = _locked(session, actor)
    stay, on, before = session.stay, session.on, document_of(session)
    session.delete()
    record(club_id=stay.club_id, actor=actor, verb=AWAY, subject=stay, before=before)
    _judge(stay, {on}, today)
    return Event.objects.about(stay).filter(verb=AWAY).latest("id")


@transaction.atomic
def bring_back(*, event: Event, stay: Stay, actor: User | None, today: date) -> Session:
    """A session that was taken away, as it was. Raises Refused."""
    Player.objects.select_for_update().get(pk=stay.prescription.player_id)
    kept = event.details.get("before") or {}
    if event.verb != AWAY or kept.get("stay") != stay.pk:
        raise Refused("There is nothing to bring back.")
    if Session.objects.filter(stay=stay, pk=kept["id"]).exists():
        raise Refused("It is back already.")
    session = Session(pk=UUID(kept["id"]), club_id=stay.club_id, stay=stay)
    for name in FIELDS:
        if name in kept:  # an entry of an earlier version knows fewer
            setattr(session, name, kept[name])
    session.on = date.fromisoformat(kept["on"])
    session.save(force_insert=True)
    recorded_at: datetime = parse_datetime(kept["recorded_at"]) or timezone.now()
    Session.objects.filter(stay=stay, pk=session.pk).update(recorded_at=recorded_at)
    session.recorded_at = recorded_at
    for s in kept["sets"]:
        row = {name: s[name] for name in (*SET_FIELDS, "reads") if name in s}
        SetRow.objects.create(pk=UUID(s["id"]), club_id=stay.club_id, session=session, **row)
    record(club_id=stay.club_id, actor=actor, verb=BACK, subject=stay)
    _judge(stay, {session.on}, today, session)
    return session


@transaction.atomic
def keep_both(*, session: Session, actor: User) -> None:
    """A coach says that what two phones said of one block and day is two pieces of work."""
    rows = Session.objects.filter(stay=session.stay_id, on=session.on, tired=session.tired)
    rows.exclude(device="").update(both_real=True)
    record(club_id=session.club_id, actor=actor, verb="kept both sessions", subject=session.stay)


def _locked(session: Session, actor: User | None) -> Session:
    """The session in hand, its player locked as whoever records does."""
    Player.objects.select_for_update().get(pk=session.stay.prescription.player_id)
    rows = Session.objects.filter(stay=session.stay_id, pk=session.pk).select_related(
        "stay__prescription__player", "stay__rung__drill", "stay__prescription__ladder"
    )
    change = rows.first()
    if change is None:
        raise Refused("This session was taken away meanwhile. Nothing was changed.")
    why = may_change(change, actor)
    if why:
        raise Refused(why)
    return change


def _judge(stay: Stay, days: set[date], today: date, session: Session | None = None) -> None:
    """Days that changed are judged anew, last days looked up, and the stay is asked about again."""
    for on in sorted(days):
        _judge_day(stay, on)
    _last_days(stay)
    decision = decide_stay(stay, today)
    if session is not None:
        session.ahead = ahead(decision)
        session.save(update_fields=["ahead"])
    session_recorded.send(sender=Session, stay=stay, on=today, decision=decision)


def _judge_day(stay: Stay, on: date) -> None:
    for recheck in (False, True):
        rows: Sequence[Session] = list(stay.sessions.filter(on=on, recheck=recheck))
        if not rows:
            drop_day(stay, recheck, on)
            continue
        if all(row.extra for row in rows):  # what it was extra to is gone
            rows[0].extra = False
            rows[0].save(update_fields=["extra"])
        keep_day(rows[0], None)


def _last_days(stay: Stay) -> None:
    """The last days on ladder and player, looked up anew."""
    p = stay.prescription
    last = Session.objects.filter(stay__prescription=p).aggregate(last=Max("on"))["last"]
    seen = Session.objects.filter(
        stay__prescription__player=p.player_id, observer__in=OBSERVED
    ).aggregate(last=Max("on"))["last"]
    Prescription.objects.filter(pk=p.pk).update(last_on=last)
    Player.objects.filter(pk=p.player_id).update(seen_on=seen)
    p.last_on = last
