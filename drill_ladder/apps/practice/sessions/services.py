"""Recording what was done."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any
from uuid import UUID, uuid4, uuid5

from django.db import IntegrityError, transaction
from django.db.models import Exists, Q, Subquery

from drill_ladder.apps.library.models import Caution
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player, User
from drill_ladder.apps.practice.judged import decide_stay, keep_day, work_rung
from drill_ladder.apps.practice.models import JudgedDay, Session, SetRow, Stop
from drill_ladder.apps.practice.observations import keep_felt
from drill_ladder.apps.practice.signals import session_recorded
from drill_ladder.apps.practice.work import feed_of_set, feeds_now, rung_of_day
from drill_ladder.apps.prescriptions.home import home_way
from drill_ladder.apps.prescriptions.models import Prescription, Setting, Stay
from drill_ladder.core.judging import OBSERVED, Observer, Verdict
from drill_ladder.formats.decision_documents import ahead

SPACE = UUID("0b1f8a52-3c55-4a51-9a2f-5d5b7e0f7c31")


@dataclass(frozen=True, slots=True)
class SetInput:
    """One set as it came from a device; `values` are SetRow's measured fields."""

    id: UUID
    lane: str = ""
    values: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class SessionInput:
    """One session as it came from a device. dose: the sets and repetitions that were asked for, as
    its page showed them; paper: typed in from a sheet; device: the phone that sent it, by a number
    of its own; hall: made of taps in the hall; worn: what was ticked of what has to be
    worn; at_ease: 1 to 5, where it was asked.
    """

    id: UUID
    on: date
    observer: str
    sets: Sequence[SetInput]
    form: float | None = None
    effort: int | None = None
    word: str = ""
    adult_present: bool = False
    way: str = ""
    tired: bool = False
    dose: tuple[int, int | None] | None = None
    paper: bool = False
    device: str = ""
    hall: bool = False
    worn: Sequence[str] = ()
    at_ease: int | None = None


@transaction.atomic
def record_session(
    *,
    stay: Stay,
    entry: SessionInput,
    today: date,
    actor: User | None,
    judged: bool = True,
    with_hurt: bool = False,
) -> tuple[Session, bool]:
    """Store a session with its sets; (session, whether it is new). Sent twice, it is stored once.

    judged: False leaves the judging to the caller, who brings a whole history and judges it at its
    end.

    with_hurt: it came together with a report, so it was done before the stop. Any other is refused
    while a stop is open. Raises Refused.
    """
    player = Player.objects.select_for_update(of=("self",)).get(pk=stay.prescription.player_id)
    # asked once the player is locked: who waited for it must not miss what came meanwhile
    stopped, known_at, entry = _now(player, entry)
    if known_at == stay.pk:
        return _sent_again(stay, entry, today, stopped), False
    if known_at is not None:
        raise Refused(
            "This session was stored elsewhere already. Open the card again to log another one."
        )
    if stopped and not with_hurt:
        raise Refused(
            "A stop is open: no sessions until your coach has ended it. What you typed is still on "
            "the page."
        )
    if entry.on > today:
        raise Refused("The day is in the future. What you typed is still on the page.")
    _refuse_unsafe(stay, entry)
    known = list(stay.judged.all())
    session, sets = _store(stay, entry, actor, known)
    days = keep_day(session, sets, known)
    _keep_last_days(stay, player, session)
    if judged:
        decision = decide_stay(stay, today, stopped, days)
        session.ahead = ahead(decision)
        session.save(update_fields=["ahead"])
        session_recorded.send(sender=Session, stay=stay, on=today, decision=decision)
    if entry.at_ease is not None:
        keep_felt(stay, entry.on, entry.at_ease)
    return session, True


def judge_now(stay: Stay, today: date) -> None:
    """Ask about a stay once all of a history is stored, and tell whoever waits for that."""
    decision = decide_stay(stay, today)
    session_recorded.send(sender=Session, stay=stay, on=today, decision=decision)


def _sent_again(stay: Stay, entry: SessionInput, today: date, stopped: bool) -> Session:
    """The session that is stored, with what is new in it: an answer got lost, and the player went
    on. Nothing of what was stored before is changed.
    """
    session = Session.objects.filter(stay=stay).select_related("stay").get(pk=entry.id)
    rows = {row.pk: row for row in session.sets.all()}
    new = [s for s in entry.sets if s.id not in rows]
    if not new:
        return session
    session.stay = stay
    put_sets(session, new, max((row.order for row in rows.values()), default=0))
    days = keep_day(session, None)
    decision = decide_stay(stay, today, stopped, days)
    session.ahead = ahead(decision)
    session.save(update_fields=["ahead"])
    session_recorded.send(sender=Session, stay=stay, on=today, decision=decision)
    return session


def _now(player: Player, entry: SessionInput) -> tuple[bool, int | None, SessionInput]:
    """Whether the player rests; the stay where this session of theirs was stored before, if it was;
    and the entry under the id that it has here: one that somebody else's session has is another
    one's, and opens nothing of it.
    """
    own = uuid5(SPACE, f"{player.pk} {entry.id}")
    mine = Session.objects.filter(stay__prescription__player=player).order_by()
    rests = Exists(Stop.objects.open().filter(player=player))
    known_at = Subquery(mine.filter(pk=entry.id).values("stay"))
    again_at = Subquery(mine.filter(pk=own).values("stay"))
    taken = Exists(Session.objects.filter(pk=entry.id))  # ids of others: whether it is free
    row = Player.objects.filter(pk=player.pk).order_by()
    stopped, stay, again, is_taken = row.values_list(rests, known_at, again_at, taken)[0]
    if stay is None and is_taken:
        return stopped, again, replace(entry, id=own)
    return stopped, stay, entry


def _refuse_unsafe(stay: Stay, entry: SessionInput) -> None:
    """Coached-only drills are done under a coach's eyes; some at home only with an adult there."""
    drill = stay.worked_on.drill
    if drill.only_fresh and entry.tired:
        raise Refused(
            f"“{drill}” is contact or all-out effort: it is done fresh, never tired. What you "
            "typed is still on the page."
        )
    # in the hall nobody types: a coach stands there
    missing = [] if entry.hall else [words for words in drill.worn if words not in entry.worn]
    if missing:
        raise Refused(
            f"Has to be worn, and ticked: {', '.join(missing)}. What you typed is still on the "
            "page."
        )
    if entry.hall or entry.observer in OBSERVED:
        return
    caution = drill.caution
    if caution == Caution.COACHED_ONLY or stay.prescription.place == Setting.COACHED:
        raise Refused(
            "This drill is for coached sessions only. What you typed is still on the page."
        )
    if caution == Caution.HOME_WITH_ADULT and "adult" in home_way(stay).lacking:
        raise Refused(
            "No adult is noted at this home, so this drill is not for home: ask your coach. What "
            "you typed is still on "
            "the page."
        )
    if caution == Caution.HOME_WITH_ADULT and not entry.adult_present:
        raise Refused(
            "An adult has to be there for this drill, and to say so. What you typed is still on "
            "the page."
        )


def _keep_last_days(stay: Stay, player: Player, session: Session) -> None:
    """The last day on the ladder, and the last that a coach or a device saw, so that nobody has to
    look for them among everything that was ever done.
    """
    later = Q(last_on__isnull=True) | Q(last_on__lt=session.on)
    last = stay.prescription.last_on
    if last is None or last < session.on:
        Prescription.objects.filter(later, pk=stay.prescription_id).update(last_on=session.on)
        stay.prescription.last_on = session.on
    if session.observer in OBSERVED and (player.seen_on is None or player.seen_on < session.on):
        Player.objects.filter(pk=player.pk).update(seen_on=session.on)


def _store(
    stay: Stay, entry: SessionInput, actor: User | None, known: Sequence[JudgedDay]
) -> tuple[Session, list[SetRow] | None]:
    """The session, and its sets as they were stored: None where some of them had come with another
    submission before, and were left there. known: the judged days of the stay so far.
    """
    sets, reps = _dose(stay, entry)
    session = Session.objects.create(
        asked_sets=sets,
        asked_reps=reps,
        pk=entry.id,
        club_id=stay.club_id,
        stay=stay,
        on=entry.on,
        observer=seen_by(stay, entry),
        eased=stay.eased and not stay.recheck,
        recheck=stay.recheck,
        form=entry.form,
        effort=entry.effort,
        word=entry.word,
        word_read=actor is not None,
        way=entry.way,
        tired=entry.tired,
        paper=entry.paper,
        device=entry.device,
        hall=entry.hall,
        adult=entry.adult_present,
        worn=list(entry.worn),
        extra=is_extra(stay, entry, known),
        recorded_by=actor,
    )
    stored = put_sets(session, entry.sets)
    if stay.recheck:
        stay.recheck = False
        stay.save(update_fields=["recheck"])
    return session, stored


def seen_by(stay: Stay, entry: SessionInput) -> str:
    """Who saw it: where a player says "I did" and the phone heard every set, it counted by ear, and
    the club says whether that is as good as a device of its own.
    """
    heard = [one.values.get("heard") is not None for one in entry.sets]
    if entry.observer != Observer.SELF or not heard or not all(heard):
        return entry.observer
    return Observer.DEVICE if stay.club.trusts_ear else Observer.EAR


def _dose(stay: Stay, entry: SessionInput) -> tuple[int | None, int | None]:
    """What a band came to: as the page said, else on that day; nothing where the dose is no
    band.
    """
    if not work_rung(stay, stay.recheck)[1].is_open:
        return None, None
    if entry.dose is not None:
        return entry.dose
    dose = rung_of_day(stay, entry.on).dose
    return dose.sets, dose.reps


def put_sets(session: Session, sets: Sequence[SetInput], after: int = 0) -> list[SetRow] | None:
    """The sets of a session, counted on from the one `after`; None where some had come before with
    another one. Two of one id are two all the same. A feed that nobody told is that of the day.
    """
    fed = _fed(session)
    ids = {s.id: s for s in reversed(sets)}
    rows = [
        SetRow(
            pk=one.id if ids[one.id] is one else uuid4(),
            club_id=session.club_id,
            session=session,
            order=order,
            lane=one.lane,
            **one.values | {"feed": fed(one.values.get("feed"))},
        )
        for order, one in enumerate(sets, after + 1)
    ]
    return _store_sets(rows)


def _fed(session: Session) -> Callable[[str | None], str]:
    """With which gentler feed a set is stored, by the one that was told."""
    stay = session.stay
    rung = stay.terms.rung
    if not rung.feeds:
        return lambda told: told or ""
    today = None if session.recheck else feeds_now([stay], session.on).get(stay.pk)
    return lambda told: feed_of_set(rung, told, today)


def is_extra(stay: Stay, entry: SessionInput, known: Sequence[JudgedDay]) -> bool:
    """Whether the day's dose was full already: what comes after can take nothing away, and what is
    done tired beside fresh work does not anyway. Where nobody but the player has seen that day, a
    coach's eyes still judge it.
    """
    if stay.recheck or entry.tired:
        return False
    eyes = OBSERVED if entry.observer in OBSERVED else list(Observer)
    return any(
        day.on == entry.on
        and not day.recheck
        and day.verdict != Verdict.SHORT
        and day.observer in eyes
        for day in known
    )


def _store_sets(rows: list[SetRow]) -> list[SetRow] | None:
    try:
        with transaction.atomic():
            return SetRow.objects.bulk_create(rows)
    except IntegrityError:
        ids = [row.pk for row in rows]
        stay = rows[0].session.stay_id
        own = SetRow.objects.filter(pk__in=ids, session__stay=stay)
        stored = set(own.values_list("pk", flat=True))
        # ids of others: which of them are not free
        others = set(SetRow.objects.filter(pk__in=ids).values_list("pk", flat=True)) - stored
        for row in rows:
            # an id that a set of somebody else has is no reason to lose this one
            row.pk = uuid4() if row.pk in others else row.pk
        SetRow.objects.bulk_create(rows, ignore_conflicts=True)
        return None
