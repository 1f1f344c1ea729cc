"""Taking taps from devices, each once."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.floor.hall.settling import LATE, WORK, Settling, settle
from drill_ladder.apps.floor.hall.trial_taps import measured, taken_back
from drill_ladder.apps.floor.models import FloorTap, GoalKind, HallDay
from drill_ladder.apps.floor.tap_rows import hold_day
from drill_ladder.apps.people.models import Club, Membership, Player
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.practice.observations import keep_felt, keep_said, take_back_felt
from drill_ladder.apps.practice.stops import MOST as MOST_WORDS
from drill_ladder.apps.practice.stops import open_stop, told_at
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.hall import Act
from drill_ladder.formats.reading import cut, moment, uuid, whole
from drill_ladder.formats.taps import COMFORT, HURT, TRIAL, SentTap, read_tap

WRONG = timedelta(hours=12)  # a clock that is off by more is asked about before anything is stored
MOST = 500  # taps of one sending
STOPPED = WORK | {TRIAL}  # what is not counted after a stop
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
        today = member.club.today()
        taken.ask = [today - timedelta(days=n) for n in range(LATE.days + 1)]
        return taken
    read = [one for document in documents if (one := _read(document, taken)) is not None]
    stored = FloorTap.objects.known_among(member.club, [tap.id for tap in read])
    _say_known(stored, taken)
    new = {tap.id: tap for tap in read if tap.id not in stored}
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
    on = at.astimezone(member.club.zone).date()
    who = member.user
    what = words or STOPPED_BY_COACH
    open_stop(player=player, what=what, on=on, actor=who, at=at, report=uuid(uid))
    taken.stored.append(uid)
    return True


def _read(document: Any, taken: Taken) -> SentTap | None:
    tap = read_tap(document)
    if isinstance(tap, SentTap):
        return tap
    uid = document.get("id") if isinstance(document, dict) else None
    if isinstance(uid, str):
        taken.refused[uid[:36]] = tap
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
    today, now = member.club.today(), timezone.now()
    rows = []
    for tap in sorted(new, key=lambda tap: (tap.c, tap.at)):
        at = min(now, tap.at + device.skew)
        on = device.day or min(today, at.astimezone(member.club.zone).date())
        begun = stops.get(tap.player)
        late = tap.act in STOPPED and begun is not None and at > begun
        why = _why_not(tap, players, owners, on, today)
        if not why and not late:
            why = _tried(member, tap, players[tap.player], at)
        if why:
            taken.refused[str(tap.id)] = why
            continue
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
                after_stop=late,
            )
        )
    return rows


def _tried(member: Membership, tap: SentTap, player: Player, at: datetime) -> str:
    """What a tap changes on a test day, and why it does not."""
    if tap.act == TRIAL:
        return measured(member, tap, player, at)
    is_undo = tap.act == Act.UNDO and tap.stay is None
    return taken_back(member, tap.value.get("of", "")) if is_undo else ""


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
        hold_day(member.club_id, on)
        FloorTap.objects.bulk_create(rows, ignore_conflicts=True)
    _say_known({row.uid: row.after_stop for row in rows}, taken)
    _felt(rows, on, member.club)
    stays = {row.stay_id for row in rows if row.stay_id and row.act in WORK and not row.after_stop}
    for stay in Stay.objects.of_club(member.club).with_all().filter(pk__in=stays):
        settle(stay, on, Settling(member.user, member.club.today()))


def _felt(rows: Sequence[FloorTap], on: date, club: Club) -> None:
    """How at ease players said they were, with the rung that they were asked about; or that it was
    a slip of the finger.
    """
    for row in rows:
        if row.act == COMFORT:
            _keep_felt(row, on, club)
        elif row.act == Act.UNDO and row.stay_id is None:
            for said in FloorTap.objects.taken_back_by(row):
                take_back_felt(said.player_id, said.on, said.value.get("about"))


def _keep_felt(row: FloorTap, on: date, club: Club) -> None:
    level, about = int(row.value["numbers"]["level"]), row.value.get("about")
    own = Stay.objects.of_club(club).with_all().filter(prescription__player=row.player_id)
    stay = own.filter(pk=about).first() if about else None
    if stay is None:
        keep_said(row.player, on, level)
    else:
        keep_felt(stay, on, level)


def set_goal(
    club: Club, on: date, goal: int | None, kind: str = GoalKind.SUM, worth: int = 1
) -> None:
    """What a group works for together in a day; None for nothing. worth: points of a good one."""
    kind = kind if kind in GoalKind.values else GoalKind.SUM
    asked = {"goal": goal, "goal_kind": kind, "goal_worth": worth}
    HallDay.objects.update_or_create(club=club, on=on, defaults=asked)
