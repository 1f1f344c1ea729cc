"""Weeks as calendars (RFC 5545): a day's block is an all-day event that keeps its name through
every change.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import lru_cache
from hashlib import sha256
from typing import NamedTuple

from django.db.models import Count, Max, Sum
from icalendar import Alarm, Calendar, Event

from drill_ladder.apps.prescriptions.models import Prescription, Status
from drill_ladder.apps.prescriptions.querysets import PrescriptionQuerySet
from drill_ladder.apps.weeks.querysets import WeekQuerySet
from drill_ladder.core.planning import ToldBlock

PRODUCT = "-//Drill Ladder//weeks//EN"
ALARM_AT = timedelta(hours=15)  # of the day itself, for whoever asks for alarms
PLACES = {"home": "home", "club": "club"}


class Told(NamedTuple):
    """A published week in one state: with another revision or moment it is another one."""

    pk: int
    revision: int
    at: datetime


@dataclass(frozen=True, slots=True)
class Feed:
    """What a calendar is made of. places: the blocks that it shows; with_names: the player's name
    is in the title (a coach's feed).

    resting: players with an open stop, whose blocks from today on are cancelled as long as it is
    open. What is planned after a ladder has ended is cancelled too.
    """

    club_id: int
    name: str
    places: tuple[str, ...]
    today: date
    resting: set[int]
    alarms: bool = False
    with_names: bool = False

    def who(self, player: str) -> str:
        """What stands before a title."""
        return f"{player}: " if self.with_names else ""

    def shown(self, block: ToldBlock, player: int, over: Mapping[int, date]) -> ToldBlock:
        """A block as it stands today."""
        off = player in self.resting and block.on >= self.today
        off = off or block.on > over.get(block.prescription, block.on)
        return replace(block, cancelled=True) if off else block


def calendar(feed: Feed, weeks: WeekQuerySet) -> bytes:
    """The published blocks of weeks. Most weeks are as they were when they were last asked for:
    their text is at hand, and only what changed is read and written anew.
    """
    rows = weeks.order_by("monday", "pk")
    told = [
        (Told(*row[:3]), row[3], row[4])
        for row in rows.values_list("pk", "revision", "published_at", "player_id", "player__name")
    ]
    _learn(weeks, [week for week, _, _ in told])
    over = _ended(feed.club_id, weeks)
    ended = {player for player, _ in over}
    days = {prescription: on for (_, prescription), on in over.items()}
    head, foot = _frame(feed.name)
    texts = [
        _week(week, feed, player, feed.who(name), days)
        if player in feed.resting or player in ended
        else _plain_week(week, feed.places, feed.who(name), feed.alarms)
        for week, player, name in told
    ]
    return b"".join([head, *texts, foot])


# what published weeks say, by their state, in this process
_KNOWN: dict[Told, tuple[ToldBlock, ...]] = {}
MOST_KNOWN = 20_000


def _learn(weeks: WeekQuerySet, told: Sequence[Told]) -> None:
    """Read what is not known yet."""
    if len(_KNOWN) > MOST_KNOWN:
        _KNOWN.clear()
    new = {week.pk: week for week in told if week not in _KNOWN}
    states = weeks.filter(pk__in=new).select_related(None)
    for row in states.only("revision", "published_at", "published"):
        _KNOWN[Told(row.pk, row.revision, row.published_at)] = tuple(row.published)


@lru_cache(maxsize=MOST_KNOWN)
def _plain_week(week: Told, places: tuple[str, ...], who: str, alarms: bool) -> bytes:
    """A week of somebody whose ladders all go on."""
    blocks = [block for block in _KNOWN.get(week, ()) if block.place in places]
    return b"".join(_event(week, block, who, alarms) for block in blocks)


def _week(week: Told, feed: Feed, player: int, who: str, over: Mapping[int, date]) -> bytes:
    blocks = [block for block in _KNOWN.get(week, ()) if block.place in feed.places]
    shown = (feed.shown(block, player, over) for block in blocks)
    return b"".join(_event(week, block, who, feed.alarms) for block in shown)


def _frame(name: str) -> tuple[bytes, bytes]:
    """What stands before and after the events."""
    feed = Calendar()
    feed.add("prodid", PRODUCT)
    feed.add("version", "2.0")
    feed.add("method", "PUBLISH")
    feed.add("x-wr-calname", name)
    end = b"END:VCALENDAR\r\n"
    return feed.to_ical().removesuffix(end), end


def sign(feed: Feed, weeks: WeekQuerySet) -> str:
    """What a feed would say, in short: as long as it is the same, nobody needs the feed again."""
    told = weeks.aggregate(
        Count("pk"), Max("published_at"), Sum("revision"), Sum("player__revision")
    )
    ended = _of_weeks(feed.club_id, weeks).aggregate(Count("ended_on"), Max("ended_on"))
    who = (feed.name, feed.places, sorted(feed.resting), feed.today, feed.alarms)
    known = (sorted(told.items()), sorted(ended.items()), who)
    return sha256(repr(known).encode()).hexdigest()[:32]


def _of_weeks(club_id: int, weeks: WeekQuerySet) -> PrescriptionQuerySet:
    """The ladders of everybody whom the weeks are of."""
    rows = Prescription.objects.filter(club=club_id)
    return rows.filter(player__in=weeks.values("player"))


def _ended(club_id: int, weeks: WeekQuerySet) -> dict[tuple[int, int], date]:
    """(player id, prescription id) -> the day on which it ended, of everybody the weeks are of."""
    rows = _of_weeks(club_id, weeks).filter(ended_on__isnull=False)
    ended = rows.exclude(status=Status.ACTIVE)
    return {
        (p.player_id, p.pk): p.ended_on for p in ended.only("player_id", "ended_on") if p.ended_on
    }


@lru_cache(maxsize=MOST_KNOWN)
def _event(week: Told, block: ToldBlock, who: str, alarms: bool) -> bytes:
    """One event as text."""
    event, on = Event(), block.on
    event.add("uid", f"week-{week.pk}-{block.key}@drill-ladder.invalid")
    event.add("dtstamp", week.at)
    event.add("sequence", week.revision)
    event.add("dtstart", on)
    event.add("dtend", on + timedelta(days=1))
    ladder = f"{block.ladder}, tired" if block.tired else block.ladder
    event.add("summary", f"{who}{ladder}, {block.minutes} min, {PLACES[block.place]}")
    event.add(
        "description",
        "\n".join(
            filter(None, [block.title, block.dose, block.target and f"Target: {block.target}"])
        ),
    )
    event.add("status", "CANCELLED" if block.cancelled else "CONFIRMED")
    event.add("transp", "TRANSPARENT")
    if alarms and not block.cancelled:
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", block.ladder)
        alarm.add("trigger", ALARM_AT)
        event.add_component(alarm)
    return bytes(event.to_ical())
