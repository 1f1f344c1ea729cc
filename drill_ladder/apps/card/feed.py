"""Weeks as calendars (RFC 5545): a day's block is an all-day event that keeps its name through
every change.
"""

from collections import OrderedDict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from hashlib import sha256
from threading import Lock
from typing import NamedTuple

from django.db.models import Count, Max, Sum
from icalendar import Alarm, Calendar, Event

from drill_ladder.apps.prescriptions.models import Prescription, Status
from drill_ladder.apps.prescriptions.querysets import PrescriptionQuerySet
from drill_ladder.apps.weeks.querysets import WeekQuerySet
from drill_ladder.core.planning import ToldBlock

PRODUCT = "-//Drill Ladder//weeks//EN"
ALARM_AT = timedelta(hours=15)  # of the day itself, for whoever asks for alarms


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
    over = _ended(feed.club_id, weeks)
    special = feed.resting | {player for player, _ in over}
    days = {prescription: on for (_, prescription), on in over.items()}
    rows = weeks.order_by("monday", "pk")
    calls = [
        (_Asked(Told(*row[:3]), feed.places, feed.who(row[4]), feed.alarms), row[3])
        for row in rows.values_list("pk", "revision", "published_at", "player_id", "player__name")
    ]
    texts = {a.week.pk: TEXTS.get(a) for a, player in calls if player not in special}
    blocks = _blocks(weeks, [a.week.pk for a, _ in calls if texts.get(a.week.pk) is None])
    for asked, player in calls:
        if texts.get(asked.week.pk) is None and asked.week.pk in blocks:
            # as it was when it was read, which may be later than when it was listed
            week, published = blocks[asked.week.pk]
            here = asked._replace(week=week)
            changed = player in special
            shown = [feed.shown(b, player, days) for b in published] if changed else published
            texts[week.pk] = _text(here, shown)
            if not changed:
                TEXTS.put(here, texts[week.pk] or b"")
    head, foot = _frame(feed.name)
    return b"".join([head, *(texts.get(a.week.pk) or b"" for a, _ in calls), foot])


class _Asked(NamedTuple):
    """A week as one kind of calendar shows it."""

    week: Told
    places: tuple[str, ...]
    who: str
    alarms: bool


class Texts:
    """Weeks written once, the least lately asked for forgotten first. Many threads may ask."""

    def __init__(self, most: int) -> None:
        self._most, self._texts, self._lock = most, OrderedDict[_Asked, bytes](), Lock()

    def get(self, asked: _Asked) -> bytes | None:
        """The text, where it is at hand."""
        with self._lock:
            if asked in self._texts:
                self._texts.move_to_end(asked)
            return self._texts.get(asked)

    def put(self, asked: _Asked, text: bytes) -> None:
        """A text to have at hand."""
        with self._lock:
            self._texts[asked] = text
            while len(self._texts) > self._most:
                self._texts.popitem(last=False)


TEXTS = Texts(20_000)


def _blocks(weeks: WeekQuerySet, pks: Sequence[int]) -> dict[int, tuple[Told, Sequence[ToldBlock]]]:
    """What these weeks say, each with the state in which it says so."""
    states = weeks.filter(pk__in=pks).select_related(None)
    rows = states.only("revision", "published_at", "published")
    return {r.pk: (Told(r.pk, r.revision, r.published_at), r.published) for r in rows}


def _text(asked: _Asked, blocks: Sequence[ToldBlock]) -> bytes:
    shown = [block for block in blocks if block.place in asked.places]
    return b"".join(_event(asked.week, block, asked.who, asked.alarms) for block in shown)


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
    times = weeks.aggregate(
        Count("pk"), Max("published_at"), Sum("revision"), Sum("player__revision")
    )
    ended = _of_weeks(feed.club_id, weeks).aggregate(Count("ended_on"), Max("ended_on"))
    who = (feed.name, feed.places, sorted(feed.resting), feed.today, feed.alarms)
    state = (sorted(times.items()), sorted(ended.items()), who)
    return sha256(repr(state).encode()).hexdigest()[:32]


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


def _event(week: Told, block: ToldBlock, who: str, alarms: bool) -> bytes:
    """One event as text."""
    event, on = Event(), block.on
    event.add("uid", f"week-{week.pk}-{block.key}@drill-ladder.invalid")
    event.add("dtstamp", week.at)
    event.add("sequence", week.revision)
    event.add("dtstart", on)
    event.add("dtend", on + timedelta(days=1))
    ladder = f"{block.ladder}, tired" if block.tired else block.ladder
    event.add("summary", f"{who}{ladder}, {block.minutes} min, {block.place}")
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
