"""Weeks as calendars (RFC 5545): a day's block is an all-day event that keeps its name through
every change.
"""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date, timedelta

from icalendar import Alarm, Calendar, Event

from drill_ladder.apps.prescriptions.models import Prescription, Status
from drill_ladder.apps.weeks.models import Week
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
    weeks = list(weeks)
    over = _ended(weeks)
    feed = Calendar()
    feed.add("prodid", PRODUCT)
    feed.add("version", "2.0")
    feed.add("method", "PUBLISH")
    feed.add("x-wr-calname", name)
    for week in weeks:
        for block in week.published:
            if block.place in places:
                off = block.cancelled or (week.player_id in resting and block.on >= today)
                off = off or block.on > over.get(block.prescription, block.on)
                feed.add_component(_event(week, replace(block, cancelled=off), alarms, with_names))
    return bytes(feed.to_ical())


def _ended(weeks: Iterable[Week]) -> dict[int, date]:
    """Prescription id -> the day on which it ended, of those that the weeks tell of."""
    published = {block.prescription for week in weeks for block in week.published}
    ended = Prescription.objects.filter(pk__in=published, ended_on__isnull=False).exclude(
        status=Status.ACTIVE
    )
    return {row.pk: row.ended_on for row in ended if row.ended_on}


def _event(week: Week, block: ToldBlock, alarms: bool, with_names: bool) -> Event:
    event, on = Event(), block.on
    who = f"{week.player}: " if with_names else ""
    event.add("uid", f"week-{week.pk}-{block.key}@drill-ladder.invalid")
    event.add("dtstamp", week.published_at)
    event.add("sequence", week.revision)
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
    return event
