"""What day it is at a club. Everywhere else the day is an argument, or comes from here."""

from datetime import date
from zoneinfo import ZoneInfo

from django.utils import timezone

from drill_ladder.apps.people.models import Club


def zone(club: Club) -> ZoneInfo:
    """The club's time zone."""
    return ZoneInfo(club.time_zone)


def today(club: Club) -> date:
    """The day at the club."""
    return timezone.localdate(timezone=zone(club))
