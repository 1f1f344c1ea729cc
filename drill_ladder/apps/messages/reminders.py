"""Reminders of work at home: for who agreed, once a week at most, on its last two days and never
in the evening.
"""

from datetime import date, datetime, timedelta

from drill_ladder.apps.messages import letters
from drill_ladder.apps.messages.models import Kind, MailSettings, Message
from drill_ladder.apps.messages.occasions import guardians_of
from drill_ladder.apps.messages.posting import write
from drill_ladder.apps.people.agreements import agrees
from drill_ladder.apps.people.models import AgreedTo, Club
from drill_ladder.apps.people.players import open_link
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.querysets import monday_of

FROM_HOUR, UNTIL_HOUR = 9, 20  # on the club's clock: from, and never at or after
WEEKDAYS = (3, 4)  # Thursday and Friday: there is still time
A_WEEK = timedelta(days=7)


def remind_all(now: datetime) -> int:
    """All clubs that want it; how many messages were written."""
    rows = MailSettings.objects.select_related("club")
    return sum(remind(row.club, now) for row in rows if Kind.REMINDER in row.kinds)


def remind(club: Club, now: datetime) -> int:
    """One club's, at this moment."""
    local = now.astimezone(club.zone)
    if local.weekday() not in WEEKDAYS or not FROM_HOUR <= local.hour < UNTIL_HOUR:
        return 0
    today = local.date()
    weeks = Week.objects.of_club(club).beginning(monday_of(today)).select_related("player__club")
    return sum(_remind(week, today, now) for week in weeks)


def _remind(week: Week, today: date, now: datetime) -> int:
    player = week.player
    if player.is_resting or not agrees(player, AgreedTo.REMINDER, today):
        return 0
    messages = Message.objects.filter(club=player.club_id, player=player)
    if messages.of_kind_since(Kind.REMINDER, now - A_WEEK).exists():
        return 0
    left, link = left_at_home(week, today), open_link(player)
    if not left or link is None:
        return 0
    letter = letters.reminder(player, left, f"{week.monday}", link.token)
    return len(write(club=player.club, letter=letter, to=guardians_of(player), player=player))


def left_at_home(week: Week, today: date) -> list[str]:
    """What was told for home until today and is not done, and what is still to come."""
    if week.published_at is None:
        return []
    days = Session.objects.filter(
        stay__prescription__player=week.player_id, on__gte=week.monday, on__lt=week.monday + A_WEEK
    )
    done = set(days.values_list("stay__prescription", "on"))
    return list(
        dict.fromkeys(
            f"{block.ladder} ({block.on:%A})"
            for block in week.published
            if block.place == "home"
            and not block.cancelled
            and (block.prescription, block.on) not in done
        )
    )
