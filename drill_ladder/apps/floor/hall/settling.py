"""What taps come to: a player's taps of a day are one session, recorded once their dose is whole or
somebody said that it is enough, and at night as far as they went.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid4, uuid5

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.floor.tap_rows import SPACE, hold_day
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Player, User
from drill_ladder.apps.practice.judged import days_of
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions import (
    SessionInput,
    SetInput,
    correct,
    record_session,
    take_away,
)
from drill_ladder.apps.practice.words import outcome
from drill_ladder.apps.practice.work import feeds_now, fields_for, form_share, mirrors, rung_of_day
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.coaching import Answers
from drill_ladder.core.hall import (
    LONGEST_REST_S,
    Act,
    TapSet,
    Work,
    ends_of,
    fold,
    is_whole,
    rests_of,
)
from drill_ladder.core.judging import Rung
from drill_ladder.formats.taps import to_tap
from drill_ladder.formats.work_words import MOST_FAULTS

LATE = timedelta(days=7)  # how far back a device may bring what it kept
TOLD = "told"
WORK = frozenset(act.value for act in Act)


def work_of(taps: Iterable[FloorTap], rung: Rung, eased: bool = False, feed: str = "") -> Work:
    """Taps put together. eased: whether the player is on the easier variant; feed: of the day."""
    work = (tap for tap in taps if tap.act in WORK)
    return fold(
        (to_tap(str(tap.uid), tap.act, tap.at, tap.lane, tap.value, tap.pk) for tap in work),
        ends_of(rung),
        eased,
        feed,
    )


@dataclass(frozen=True, slots=True)
class Settling:
    """Who settles (None: the night's work), on which day of the club, and whether whatever there is
    is recorded, as the day is over.
    """

    by: User | None
    today: date
    at_last: bool = False


def settle(stay: Stay, on: date, how: Settling) -> Session | None:
    """Record the session of a stay's taps once its dose is whole or somebody said that it is
    enough, and put it right with what is tapped after. None where nothing is recorded (yet).
    """
    try:
        with transaction.atomic():
            Player.objects.select_for_update().get(pk=stay.prescription.player_id)
            return _settled(stay, on, how)
    except Refused as error:
        with transaction.atomic():
            _said(stay, on, {"why": str(error)})
        return None


def _settled(stay: Stay, on: date, how: Settling) -> Session | None:
    """With the player in hand: two devices that tap for one player settle one after the other."""
    known = Session.objects.of_hall(stay, on).first()
    if known is not None:
        stay.recheck = known.recheck
    taps = list(FloorTap.objects.of_stay(stay, on))
    rung = rung_of_day(stay, on)
    work = work_of(taps, rung, stay.eased, _feed(stay, on))
    if known is None and not (how.at_last or work.closed or is_whole(work, rung)):
        return None
    entry = _entry(stay, on, work, rung, taps, known.pk if known else uuid4())
    # at night it is whoever counted last
    counted = [tap.by for tap in taps if tap.act in WORK]
    how = replace(how, by=how.by or (counted[-1] if counted else None))
    session = _recorded(known, stay, entry, how)
    part = how.at_last and known is None and not is_whole(work, rung)
    _tell(stay, on, rung, session, part)
    return session


def _feed(stay: Stay, on: date) -> str:
    """The feed that the day began with."""
    if not stay.terms.rung.feeds:
        return ""
    kept = feeds_now([stay], on).get(stay.pk)
    return "" if kept is None else stay.terms.rung.feeds[kept.at]


def _recorded(
    known: Session | None, stay: Stay, entry: SessionInput, how: Settling
) -> Session | None:
    if known is None:
        if not entry.sets:
            return None
        # what was tapped after a stop is not among them
        return record_session(
            stay=stay, entry=entry, today=how.today, actor=how.by, with_hurt=True
        )[0]
    if not entry.sets:
        take_away(session=known, actor=how.by, today=how.today)
        return None
    return correct(session=known, entry=entry, actor=how.by, today=how.today, trail=False)


def _entry(
    stay: Stay, on: date, work: Work, rung: Rung, taps: Sequence[FloorTap], whole: UUID
) -> SessionInput:
    drill = stay.worked_on.drill
    names = drill.faults[:MOST_FAULTS]
    numbers: dict[str, int] = defaultdict(int)
    sets = []
    for one, rest in zip(work.sets, rests_of(work.sets), strict=True):
        numbers[one.lane] += 1
        own = uuid5(whole, f"{one.lane} {numbers[one.lane]}")
        values = _values(one, names, rung)
        values["eased"] = None if one.eased == stay.eased else one.eased
        values["seen"] = _seen(one, drill.checkpoints)
        values["rested_s"] = None if rest is None or rest > LONGEST_REST_S else round(rest)
        sets.append(SetInput(own, one.lane, values))
    if sets and work.reads:
        sets[-1].values["reads"] = Answers(**work.reads)
    acts = [tap for tap in taps if tap.act in (Act.STROKE, Act.RESULT)]
    observer = "coach" if acts and all(tap.as_coach for tap in acts) else "helper"
    share = form_share([s.values for s in sets], len(drill.checkpoints))
    form = share if drill.checkpoints else work.form
    made = SessionInput(id=whole, on=on, observer=observer, sets=sets, form=form, hall=True)
    return replace(made, dose=(rung.dose.sets, rung.dose.reps), tired=work.tired)


def _values(one: TapSet, names: Sequence[str], rung: Rung) -> dict[str, Any]:
    """A set as it is stored: what its measure counts."""
    result = one.result(names)
    fields = [name for name, _ in fields_for(rung)]
    values = {name: value for name in fields if (value := getattr(result, name)) is not None}
    faults = None if result.faults is None else dict(result.faults)
    more = {"faults": faults, "voids": result.voids, "strokes": one.strokes[:400]}
    told = {"feeder": one.feeder, "tempo": one.tempo, "heard": one.heard, "feed": one.feed}
    return values | more | told


def _seen(one: TapSet, checkpoints: Sequence[str]) -> list[str] | None:
    """The checkpoints that looked right, by their words; None where nobody looked."""
    if one.seen is None or not checkpoints:
        return None
    return [words for i, words in enumerate(checkpoints) if i in one.seen]


def _tell(stay: Stay, on: date, rung: Rung, session: Session | None, part: bool) -> None:
    """What the day came to, for every device. part: recorded at night as far as it went."""
    if session is None:
        _said(stay, on, {"verdict": ""})
        return
    judged = next((day for day in days_of(stay, session.recheck) if day.on == on), None)
    if judged is None or session.ahead is None:
        return
    words = outcome(judged, session.ahead, rung, None, mirrors(stay))
    lines = [*words.reached, *words.missing, words.upcoming]
    said = {"verdict": words.kind, "headline": words.headline, "lines": lines}
    _said(stay, on, said | {"part": True} if part else said)


def _said(stay: Stay, on: date, value: dict[str, Any]) -> None:
    p = stay.prescription
    hold_day(p.club_id, on)
    count = FloorTap.objects.of_stay(stay, on).filter(act=TOLD).count()
    FloorTap.objects.create(
        uid=uuid5(SPACE, f"told {stay.pk} {on} {count}"),
        club_id=p.club_id,
        player_id=p.player_id,
        stay=stay,
        on=on,
        at=timezone.now(),
        act=TOLD,
        value=value,
    )


def close_halls(club: Club, today: date) -> int:
    """What was tapped on earlier days and never became whole is recorded as the part of a dose that
    it is; a device may have brought it late, and a night may have been missed. Returns how many
    sessions that makes.
    """
    since = club.night_on - LATE - timedelta(days=1) if club.night_on else date.min
    rows = FloorTap.objects.unsettled(club, since, today)
    stays = Stay.objects.of_club(club).with_all().in_bulk({stay for stay, _ in rows})
    done = 0
    for stay, on in rows:
        if not Session.objects.of_hall(stays[stay], on).exists():
            done += settle(stays[stay], on, Settling(None, today, at_last=True)) is not None
    return done
