"""What a device sends by itself, perhaps long after it was done: each item is answered for itself.
The day is the one that stands on the page; where the device's clock contradicts the server's, it
is asked for before anything is stored.
"""

from datetime import date, timedelta

from django.http import JsonResponse, QueryDict
from django.urls import reverse
from django.utils import timezone

from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions import SessionForm
from drill_ladder.formats.reading import moment, uuid

WRONG = timedelta(hours=12)  # a clock that is off by more is asked about before anything is stored
BACK = 7  # days among which is chosen then


def clock_question(sent: QueryDict, today: date) -> JsonResponse | None:
    """The answer where the device's clock contradicts the server's and nobody has said yet on which
    day it was done: nothing is stored before.
    """
    shown = moment(sent.get("device_now", ""))
    if shown is None or sent.get("day_asked") == "yes" or abs(timezone.now() - shown) < WRONG:
        return None
    days = [f"{today - timedelta(days=n)}" for n in range(BACK + 1)]
    why = "This device’s clock does not fit the program’s, so its day is not known."
    return JsonResponse({"state": "ask", "why": [why], "days": days})


def device_of(sent: QueryDict) -> str:
    """Which phone sent it, by a number of its own; empty where it does not say."""
    device = uuid(sent.get("device", ""))
    return str(device) if device else ""


def stored(token: str, session: Session) -> JsonResponse:
    """The item has arrived."""
    place = reverse("card:done", args=[token, session.pk])
    return JsonResponse({"state": "stored", "next": place})


def heard(token: str) -> JsonResponse:
    """Nothing but a hurt was told."""
    return JsonResponse({"state": "stored", "next": reverse("card:card", args=[token])})


def refused(form: SessionForm) -> JsonResponse:
    """The item is kept on the device, with what is wrong with it."""
    why = [str(line) for errors in form.errors.values() for line in errors]
    return JsonResponse({"state": "refused", "why": why}, status=422)
