"""Taking taps from devices, and turning a player's taps into the session that they are."""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from typing import Any
from uuid import UUID, uuid4, uuid5

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.floor.models import FloorTap, HallDay
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player
from drill_ladder.apps.practice.asked import rung_of_day
from drill_ladder.apps.practice.corrections import correct, take_away
from drill_ladder.apps.practice.entries import fields_for
from drill_ladder.apps.practice.judged import days_of
from drill_ladder.apps.practice.models import Session, Stop
from drill_ladder.apps.practice.services import SessionInput, SetInput, record_session
from drill_ladder.apps.practice.stops import MOST as MOST_WORDS
from drill_ladder.apps.practice.stops import open_stop, told_at
from drill_ladder.apps.practice.technique import form_share
from drill_ladder.apps.practice.words import outcome
from drill_ladder.apps.practice.work import mirrors
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.coaching import Answers
from drill_ladder.core.hall import Act, TapSet, Work, ends_of, fold, is_whole
from drill_ladder.core.judging import Rung
from drill_ladder.formats.reading import cut, moment, uuid, whole
from drill_ladder.formats.taps import HURT, SentTap, read_tap, to_tap
from drill_ladder.formats.work_words import MOST_FAULTS

TOLD = "told"
LATE = timedelta(days=7)  # how far back a device may bring what it kept
WRONG = timedelta(hours=12)  # a clock that is off by more is asked about before anything is stored
SPACE = UUID("6a1c1f0e-9a0e-4a56-8f5b-0d8f0d7c9b11")  # names of what is made of taps
MOST = 500  # taps of one sending
WORK = frozenset(act.value for act in Act)
AFTER_STOP = "Tapped after it was told that something hurts: kept on record, and not counted."
STOPPED_BY_COACH = "Stopped in the hall"


@dataclass(slots=True)
class Taken:
    """What became of a sending: ids that are stored (now or before), id -> why it is not counted;
    ask: the days among which somebody has to choose first, as the device's clock is wrong.
    """

    stored: list[str] = field(default_factory=list)
    refused: dict[str, str] = field(default_factory=dict)
    ask: list[date] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class FromDevice:
    """Which device sends, how far its clock is behind the server's, and, where somebody was asked,
    on which day its entries were made.
    """

    id: str
    skew: timedelta = timedelta()
    day: date | None = None


def take(member: Membership, sent: Sequence[Any], device: FromDevice) -> Taken:
    """Store what a device sends, each once, and judge what has become whole. What cannot be stored
    is named with its reason, and the rest is stored all the same. Reports of hurt come first.
    """
    taken = Taken()
    documents = [one for one in sent[:MOST] if not _hurt(one, member, device, taken)]
    if documents and abs(device.skew) >= WRONG and device.day is None:
        today = clock.today(member.club)
        taken.ask = [today - timedelta(days=n) for n in range(LATE.days + 1)]
        return taken
    read = [one for document in documents if (one := _read(document, taken)) is not None]
    known = FloorTap.objects.known_among(member.club, [tap.id for tap in read])
    _say_known(known, taken)
    new = {tap.id: tap for tap in read if tap.id not in known}
    rows = _rows(member, list(new.values()), device, taken)
    for on in sorted({row.on for row in rows}):
        _store([row for row in rows if row.on == on], on, member, taken)
    return taken


def _say_known(known: dict[UUID, bool], taken: Taken) -> None:
    taken.stored += [str(uid) for uid, after_stop in known.items() if not after_stop]
    taken.refused |= {str(uid): AFTER_STOP for uid, after_stop in known.items() if after_stop}


def _hurt(document: Any, member: Membership, device: FromDevice, taken: Taken) -> bool:
    """Store a report of hurt, whatever else is wrong with it; whether it was one."""
    if not isinstance(document, dict) or document.get("act") != HURT:
        return False
    uid = str(document.get("id", ""))[:36]
    chosen = whole(document.get("player"))
    player = Player.objects.of_club(member.club).filter(pk=chosen).first() if chosen else None
    if player is None:
        taken.refused[uid] = "This player is not of this club. Tell their coach yourself."
        return True
    value = document.get("value")
    words = cut(value.get("word", ""), MOST_WORDS) if isinstance(value, dict) else ""
    tapped = moment(document.get("at"))
    at = told_at(tapped + device.skew if tapped else None, None, timezone.now())
    on = at.astimezone(clock.zone(member.club)).date()
    who = member.user
    what = words or STOPPED_BY_COACH
    open_stop(player=player, what=what, on=on, actor=who, at=at, report=uuid(uid))
    taken.stored.append(uid)
    return True


def _read(document: Any, taken: Taken) -> SentTap | None:
    found = read_tap(document)
    if isinstance(found, SentTap):
        return found
    uid = document.get("id") if isinstance(document, dict) else None
    if isinstance(uid, str):
        taken.refused[uid[:36]] = found
    return None


def _rows(
    member: Membership, new: Sequence[SentTap], device: FromDevice, taken: Taken
) -> list[FloorTap]:
    """Those that belong to this club's players and rungs, of today or of late, in the order in
    which the device made them.
    """
    players = Player.objects.of_club(member.club).in_bulk({tap.player for tap in new})
    stays = {tap.stay for tap in new if tap.stay}
    owners = Stay.objects.of_club(member.club).players_of(stays) if stays else {}
    stops = Stop.objects.open().begun_among(list(players))
    today, now = clock.today(member.club), timezone.now()
    rows = []
    for tap in sorted(new, key=lambda tap: (tap.c, tap.at)):
        at = min(now, tap.at + device.skew)
        on = device.day or min(today, at.astimezone(clock.zone(member.club)).date())
        why = _why_not(tap, players, owners, on, today)
        if why:
            taken.refused[str(tap.id)] = why
            continue
        begun = stops.get(tap.player)
        rows.append(
            FloorTap(
                uid=tap.id,
                club_id=member.club_id,
                player_id=tap.player,
                stay_id=tap.stay,
                on=on,
                at=at,
                act=tap.act,
                lane=tap.lane,
                value=tap.value,
                device=device.id[:36],
                by=member.user,
                as_coach=member.decides,
                after_stop=tap.act in WORK and begun is not None and at > begun,
            )
        )
    return rows


def _why_not(
    tap: SentTap, players: dict[int, Player], owners: dict[int, int], on: date, today: date
) -> str:
    if tap.player not in players:
        return "This player is not of this club."
    if tap.stay is not None and owners.get(tap.stay) != tap.player:
        return "This rung is not one of this player."
    if on < today - LATE:
        return "This is more than a week ago: log it on the player’s page."
    return ""


def _store(rows: list[FloorTap], on: date, member: Membership, taken: Taken) -> None:
    """One day's taps. The day's row is locked, so that whoever reads on from a number misses
    none.
    """
    with transaction.atomic():
        _hold_day(member.club_id, on)
        FloorTap.objects.bulk_create(rows, ignore_conflicts=True)
    _say_known({row.uid: row.after_stop for row in rows}, taken)
    stays = {row.stay_id for row in rows if row.stay_id and row.act in WORK and not row.after_stop}
    for stay in Stay.objects.of_club(member.club).with_all().filter(pk__in=stays):
        settle(stay, on, member)


def _hold_day(club_id: int, on: date) -> None:
    """A day's taps are stored one after the other, until the transaction ends."""
    HallDay.objects.get_or_create(club_id=club_id, on=on)
    HallDay.objects.select_for_update().get(club_id=club_id, on=on)


# --- what they come to


def work_of(taps: Iterable[FloorTap], rung: Rung, eased: bool = False) -> Work:
    """Taps put together. eased: whether the player is on the easier variant."""
    work = (tap for tap in taps if tap.act in WORK)
    return fold(
        (to_tap(str(tap.uid), tap.act, tap.at, tap.lane, tap.value, tap.pk) for tap in work),
        ends_of(rung),
        eased,
    )


def settle(stay: Stay, on: date, member: Membership, at_last: bool = False) -> Session | None:
    """Record the session of a stay's taps once its dose is whole or somebody said that it is
    enough, and put it right with what is tapped after. at_last: whatever there is, at the end of
    the day. None where nothing is recorded (yet).
    """
    today = clock.today(member.club)
    try:
        with transaction.atomic():
            Player.objects.select_for_update().get(pk=stay.prescription.player_id)
            return _settled(stay, on, member, today, at_last)
    except Refused as error:
        with transaction.atomic():
            _said(stay, on, {"why": str(error)})
        return None


def _settled(
    stay: Stay, on: date, member: Membership, today: date, at_last: bool
) -> Session | None:
    """With the player in hand: two devices that tap for one player settle one after the other."""
    known = Session.objects.of_hall(stay, on).first()
    if known is not None:
        stay.recheck = known.recheck
    taps = list(FloorTap.objects.of_stay(stay, on))
    rung = rung_of_day(stay, on)
    work = work_of(taps, rung, stay.eased)
    if known is None and not (at_last or work.closed or is_whole(work, rung)):
        return None
    entry = _entry(stay, on, work, rung, taps, known.pk if known else uuid4())
    session = _recorded(known, stay, entry, member, today)
    _tell(stay, on, rung, session)
    return session


def _recorded(
    known: Session | None, stay: Stay, entry: SessionInput, member: Membership, today: date
) -> Session | None:
    if known is None:
        if not entry.sets:
            return None
        # what was tapped after a stop is not among them
        return record_session(
            stay=stay, entry=entry, today=today, actor=member.user, with_hurt=True
        )[0]
    if not entry.sets:
        take_away(session=known, actor=member.user, today=today)
        return None
    return correct(session=known, entry=entry, actor=member.user, today=today, trail=False)


def _entry(
    stay: Stay, on: date, work: Work, rung: Rung, taps: Sequence[FloorTap], whole: UUID
) -> SessionInput:
    drill = stay.worked_on.drill
    names = drill.faults[:MOST_FAULTS]
    numbers: dict[str, int] = defaultdict(int)
    sets = []
    for one in work.sets:
        numbers[one.lane] += 1
        own = uuid5(whole, f"{one.lane} {numbers[one.lane]}")
        values = _values(one, names, rung)
        values["eased"] = None if one.eased == stay.eased else one.eased
        values["seen"] = _seen(one, drill.checkpoints)
        sets.append(SetInput(own, one.lane, values))
    if sets and work.reads:
        sets[-1].values["reads"] = Answers(**work.reads)
    acts = [tap for tap in taps if tap.act in (Act.STROKE, Act.RESULT)]
    observer = "coach" if acts and all(tap.as_coach for tap in acts) else "helper"
    share = form_share([one.values for one in sets], len(drill.checkpoints))
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
    return values | more | {"feeder": one.feeder, "tempo": one.tempo}


def _seen(one: TapSet, checkpoints: Sequence[str]) -> list[str] | None:
    """The checkpoints that looked right, by their words; None where nobody looked."""
    if one.seen is None or not checkpoints:
        return None
    return [words for i, words in enumerate(checkpoints) if i in one.seen]


def _tell(stay: Stay, on: date, rung: Rung, session: Session | None) -> None:
    """What the day came to, for every device."""
    if session is None:
        _said(stay, on, {"verdict": ""})
        return
    judged = next((day for day in days_of(stay, session.recheck) if day.on == on), None)
    if judged is None or session.ahead is None:
        return
    told = outcome(judged, session.ahead, rung, None, mirrors(stay))
    lines = [*told.reached, *told.missing, told.upcoming]
    _said(stay, on, {"verdict": told.kind, "headline": told.headline, "lines": lines})


def _said(stay: Stay, on: date, value: dict[str, Any]) -> None:
    p = stay.prescription
    _hold_day(p.club_id, on)
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


def sweep(member: Membership, before: date) -> int:
    """What was tapped on earlier days and never became whole is recorded as the part of a dose that
    it is. Returns how many sessions that makes.
    """
    rows = FloorTap.objects.of_club(member.club).unsettled(before)
    stays = Stay.objects.of_club(member.club).with_all().in_bulk({stay for stay, _ in rows})
    done = 0
    for stay, on in rows:
        if not Session.objects.of_hall(stays[stay], on).exists():
            done += settle(stays[stay], on, member, at_last=True) is not None
    return done


def set_goal(club: Club, on: date, goal: int | None) -> None:
    """Good ones that a group collects together in a day; None for none."""
    HallDay.objects.update_or_create(club=club, on=on, defaults={"goal": goal})
