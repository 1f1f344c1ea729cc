"""What every page may show in its frame: the club and the member's role."""

from datetime import timedelta
from functools import cache, partial
from typing import Any

from django.db.models import Count, Exists, Subquery
from django.http import HttpRequest
from django.urls import reverse
from django.utils.timezone import localtime, now

from drill_ladder.apps.messages.models import Message
from drill_ladder.apps.people.access import membership_of
from drill_ladder.apps.people.models import Club, Membership
from drill_ladder.apps.records.backups import warning
from drill_ladder.apps.records.models import UnreadDocument
from drill_ladder.apps.review.waiting import waiting_count
from drill_ladder.formats.words import many


def club(request: HttpRequest) -> dict[str, Any]:
    """The signed-in member's club and role, or None for both."""
    user = getattr(request, "user", None)
    member = membership_of(user) if user is not None and user.is_authenticated else None
    return {
        "member": member,
        "club": member.club if member else None,
        # asked for by whole pages only: a fragment pays nothing for it
        "warnings": partial(warnings_of, member) if member and member.decides else [],
        "navigation": partial(_navigation, request, member) if member else [],
    }


LATELY = timedelta(days=14)


def warnings_of(member: Membership) -> list[tuple[str, str]]:
    """(What a coach should know about the program itself, where to look), for the desk."""
    failed = Message.objects.of_club(member.club).unsent().filter(made_at__gte=now() - LATELY)
    counted = failed.order_by().values("club").annotate(n=Count("pk")).values("n")
    unread_ones = UnreadDocument.objects.of_club(member.club)
    # one question for both: nearly always there is neither
    told = Club.objects.filter(pk=member.club_id).values_list(
        Subquery(counted), Exists(unread_ones)
    )
    (count, has_unread), found = told.get(), []
    if count:
        words = f"{many(count, 'mail')} did not get out in the last two weeks."
        found.append((words, f"{_href('outbox:outbox')}?fate=failed"))
    if has_unread:
        unread = unread_ones.first()
        words = f"A stored document cannot be read, and a page may break: {unread}."
        found.append((f"{words} Whoever runs the server should look.", ""))
    old = warning(localtime().replace(tzinfo=None))
    return [*found, (f"{old} Whoever runs the server should look.", "")] if old else found


_PLACES: list[tuple[str, str, tuple[str, ...]]] = [
    ("Overview", "progress:desk", ("/",)),
    ("Review", "review:queue", ("/review/",)),
    ("Players", "progress:players", ("/players/", "/log/", "/stops/")),
    ("Hall", "floor:hall", ("/floor/", "/stations/", "/tests/", "/test-days/")),
    ("Weeks", "weeks:weeks", ("/weeks/", "/jobs/")),
    ("Library", "library:ladders", ("/ladders/", "/rungs/", "/drills/", "/library/")),
    ("Insights", "progress:insights", ("/insights/", "/squads/", "/reports/", "/own-decisions/")),
    ("Club", "people:club", ("/club/", "/limits/", "/open-door/")),
]
_DECIDERS = ("review:queue", "progress:insights", "people:club")


@cache
def _href(name: str) -> str:
    return reverse(name)


def _navigation(request: HttpRequest, member: Membership) -> list[dict[str, Any]]:
    """The places of a coach; an assistant has neither review nor club."""
    shown = []
    for word, name, starts in _PLACES:
        if name in _DECIDERS and not member.decides:
            continue
        current = any(
            request.path == s or (s != "/" and request.path.startswith(s)) for s in starts
        )
        entry = {"word": word, "href": _href(name), "current": current, "count": 0, "counts": False}
        if name == "review:queue":
            entry["counts"] = True
            known = getattr(request, "waiting", None)
            entry["count"] = waiting_count(member.club) if known is None else known
        shown.append(entry)
    return shown
