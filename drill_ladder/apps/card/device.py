"""What a device sends by itself, perhaps long after it was done: each item is answered for itself,
and a clock that is wrong moves no session to another day without a question.
"""

from datetime import date, datetime, timedelta

from django.http import JsonResponse, QueryDict
from django.urls import reverse
from django.utils import timezone
from django.utils.dateparse import parse_datetime

from drill_ladder.apps.practice.forms import SessionForm
from drill_ladder.apps.practice.models import Session
from drill_ladder.formats.reading import uuid

WRONG = timedelta(
    hours=12
)  # a clock that is off by less moves nothing but what happens at midnight


def _moment(sent: QueryDict, name: str) -> datetime | None:
    try:
        found = parse_datetime(sent.get(name, "")[:40])
    except ValueError:
        return None
    return found if found and timezone.is_aware(found) else None


def day_done(sent: QueryDict, on: date, today: date) -> tuple[date, str]:
    """The day on which a session was done, and what to ask where the device's clock is wrong.

    The device says when it was done, what its clock showed on sending, and which day the page
    called today; what somebody chose by hand stays.
    """
    done, clock = _moment(sent, "done_at"), _moment(sent, "device_now")
    if done is None or clock is None or sent.get("page_day") != f"{on}":
        return on, ""
    now = timezone.now()
    skew = now - clock
    ago = timezone.localtime(now).date() - timezone.localtime(done + skew).date()
    day = today - ago
    if not today - timedelta(days=7) <= day <= today:
        day = on
    if abs(skew) < WRONG:
        return day, ""
    told = f"{day:%A} {day.day} {day:%B}"
    return (
        day,
        f"This device's clock is wrong. It is stored for {told}: put it right if it was not.",
    )


def device_of(sent: QueryDict) -> str:
    """Which phone sent it, by a number of its own; empty where it does not say."""
    given = uuid(sent.get("device", ""))
    return str(given) if given else ""


def stored(token: str, session: Session, question: str) -> JsonResponse:
    """The item has arrived."""
    place = reverse("card:done", args=[token, session.pk])
    return JsonResponse({"state": "stored", "next": place, "ask": question})


def heard(token: str) -> JsonResponse:
    """Nothing but a hurt was told."""
    return JsonResponse({"state": "stored", "next": reverse("card:card", args=[token]), "ask": ""})


def refused(form: SessionForm) -> JsonResponse:
    """The item is kept on the device, with what is wrong with it."""
    why = [str(line) for errors in form.errors.values() for line in errors]
    return JsonResponse({"state": "refused", "why": why}, status=422)
