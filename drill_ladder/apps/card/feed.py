"""Weeks as calendars (RFC 5545): a day's block is an all-day event that keeps its name through
every change.
"""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date, datetime, timedelta
from functools import lru_cache
from hashlib import sha256

from django.db.models import Count, Max, Sum
from icalendar import Alarm, Calendar, Event

from drill_ladder.apps.prescriptions.models import Prescription, Status
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.querysets import WeekQuerySet
from drill_ladder.core.planning import ToldBlock

PRODUCT = "-//Drill Ladder//weeks//EN"
ALARM_AT = timedelta(hours=15)  # of the day itself, for whoever asks for alarms
PLACES = {"home": "home", "club": "club"}


def calendar(
    name: str,
    weeks: Iterable[Week],
    places: tuple[str, ...],
    today: date,
    resting: set[int],
    alarms: bool = False,
    with_names: bool = False,
) -> bytes:
    """The published blocks of weeks at some places. with_names: the player's name is in the title
    (a coach's feed).

    resting: players with an open stop, whose blocks from today on are cancelled as long as it is
    open. What is planned after a ladder has ended is cancelled too.
    """
    told = list(weeks)
    over = _ended(told)
    events = []
    for week in told:
        who = f"{week.player}: " if with_names else ""
        for block in week.published:
            if block.place in places:
                off = block.cancelled or (week.player_id in resting and block.on >= today)
                off = off or block.on > over.get(block.prescription, block.on)
                shown = block if off == block.cancelled else replace(block, cancelled=off)
                events.append(_event(week.pk, week.revision, week.published_at, shown, who, alarms))
    head, foot = _frame(name)
    return b"".join([head, *events, foot])


def _frame(name: str) -> tuple[bytes, bytes]:
    """What stands before and after the events."""
    feed = Calendar()
    feed.add("prodid", PRODUCT)
    feed.add("version", "2.0")
    feed.add("method", "PUBLISH")
    feed.add("x-wr-calname", name)
    end = b"END:VCALENDAR\r\n"
    return feed.to_ical().removesuffix(end), end


def sign(weeks: WeekQuerySet, resting: set[int], today: date, *more: object) -> str:
    """What a feed would say, in short: as long as it is the same, nobody needs the feed again."""
    told = weeks.aggregate(
        Count("pk"), Max("published_at"), Sum("revision"), Sum("player__revision")
    )
    ended = Prescription.objects.filter(player__in=weeks.values("player")).aggregate(
        Count("ended_on"), Max("ended_on")
    )
    known = (sorted(told.items()), sorted(ended.items()), sorted(resting), today, more)
    return sha256(repr(known).encode()).hexdigest()[:32]


def _ended(weeks: Iterable[Week]) -> dict[int, date]:
    """Prescription id -> the day on which it ended, of those that the weeks tell of."""
    published = {block.prescription for week in weeks for block in week.published}
    ended = Prescription.objects.filter(pk__in=published, ended_on__isnull=False).exclude(
        status=Status.ACTIVE
    )
    return {row.pk: row.ended_on for row in ended if row.ended_on}


@lru_cache(maxsize=20_000)
def _event(
    week: int, revision: int, told_at: datetime, block: ToldBlock, who: str, alarms: bool
) -> bytes:
    """One event as text. A club's feed has thousands of them, and from one hour to the next hardly
    one is another.
    """
    event, on = Event(), block.on
    event.add("uid", f"week-{week}-{block.key}@drill-ladder.invalid")
    event.add("dtstamp", told_at)
    event.add("sequence", revision)
    event.add("dtstart", on)
    event.add("dtend", on + timedelta(days=1))
    event.add("summary", f"{who}{block.ladder}, {block.minutes} min, {PLACES[block.place]}")
    event.add(
        "description", "\n".join(filter(None, [block.title, block.dose, f"Target: {block.target}"]))
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
