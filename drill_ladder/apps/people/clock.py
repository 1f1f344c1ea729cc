"""What day it is at a club. Everywhere else the day is an argument, or comes from here."""

from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from django.utils import timezone

from drill_ladder.apps.people.models import Club

WAY = timedelta(seconds=3)  # how long a sending may be under way; less says nothing about a clock


def behind(device_now: datetime | None, now: datetime) -> timedelta:
    """How far a device's clock is behind the server's, by what it showed when it sent; zero where
    that may just as well be the way from there to here.
    """
    off = now - device_now if device_now else timedelta()
    return off if abs(off) > WAY else timedelta()


def zone(club: Club) -> ZoneInfo:
    """The club's time zone."""
    return ZoneInfo(club.time_zone)


def today(club: Club) -> date:
    """The day at the club."""
    return timezone.localdate(timezone=zone(club))
