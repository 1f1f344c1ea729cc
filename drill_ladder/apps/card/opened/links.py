"""Pages that a secret link opens. A report of hurt is stored before anything else, whatever becomes
of the page.

What a device sends by itself, perhaps long after it was done, is answered for each item. The day is
the one that stands on the page; where the device's clock contradicts the server's, it is asked for
before anything is stored.
"""

from collections.abc import Callable
from datetime import date, timedelta
from functools import wraps
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse, JsonResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone

from drill_ladder.apps.people.access import at_club
from drill_ladder.apps.people.guesses import wrong_secret
from drill_ladder.apps.people.models import Opens, Player
from drill_ladder.apps.people.players import moved_to, player_by, player_once_by, unlocked, wait_s
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions import SessionForm
from drill_ladder.apps.practice.stops import hear, heard_late
from drill_ladder.formats.reading import moment, uuid
from drill_ladder.ui.pages import wants_json

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


View = Callable[..., HttpResponse]
PIN_COOKIE = "card-pin"


def by_link(opens: str = Opens.CARD, pin: bool = True) -> Callable[[View], View]:
    """A page that a secret link of a kind opens, for its player only; a wrong or closed link is a
    404.

    The secret alone lets somebody in, no cookie does, so that no other site can send a form here in
    their name: such pages need no token against that, and a report cannot fail by an old one.

    pin: whether it asks for the card's PIN, where there is one, after a report was heard.
    """

    def decorate(view: View) -> View:
        @wraps(view)
        def guarded(request: HttpRequest, token: str, *args: Any, **kwargs: Any) -> HttpResponse:
            # a page shows whom to ring and the calendar; what is sent is only stored
            beside = () if request.method == "POST" else ("guardians", "links")
            player = player_by(token, opens, *beside)
            if player is None:
                response = _closed(request, token, opens)
            else:
                with at_club(request, player.club):
                    asks = pin and opens == Opens.CARD
                    shown = _locked if asks and _is_locked(request, player) else view
                    response = _opened(shown, request, player, token, *args, **kwargs)
            return _secretly(response)

        guarded.access = "link"  # type: ignore[attr-defined]
        guarded.csrf_exempt = True  # type: ignore[attr-defined]
        guarded.holds_report = True  # type: ignore[attr-defined]
        return guarded

    return decorate


def _is_locked(request: HttpRequest, player: Player) -> bool:
    return not unlocked(player, request.COOKIES.get(PIN_COOKIE, ""))


def _locked(
    request: HttpRequest, player: Player, token: str, *args: Any, **kwargs: Any
) -> HttpResponse:
    """In the place of a page: the question for the PIN. What waits on a device waits on."""
    if wants_json(request):
        stop = request.told  # type: ignore[attr-defined]
        return JsonResponse({"state": "pin", "told": stop}, status=200 if stop else 401)
    return asked_for_pin(request, token, wait_s(player, timezone.now()))


def asked_for_pin(request: HttpRequest, token: str, wait: int, wrong: bool = False) -> HttpResponse:
    """The page that asks; no device keeps it in the card's place, for it is no success."""
    stop = request.told  # type: ignore[attr-defined]
    context = {"token": token, "wait": wait, "wrong": wrong, "told": stop}
    return render(request, "card/pin.html", context, status=401)


def _opened(
    view: View, request: HttpRequest, player: Player, token: str, *args: Any, **kwargs: Any
) -> HttpResponse:
    """The page itself, after what it tells about a hurt."""
    stop = hear(request.POST, player, None) if request.method == "POST" else None
    request.told = stop  # type: ignore[attr-defined]
    try:
        return view(request, player, token, *args, **kwargs)
    except Http404:
        if stop is None:
            raise
        return redirect("card:card", token)  # what was told stands there


def _closed(request: HttpRequest, token: str, opens: str) -> HttpResponse:
    """An address that opens nothing: a hurt is heard all the same, one of an earlier version leads
    on once.
    """
    if request.method == "POST":
        player = player_once_by(token)
        stop = heard_late(request.POST, player) if player else None
        if stop is not None:
            if wants_json(request):
                return JsonResponse({"told": stop})
            return render(request, "card/told.html", {"told": stop})
    elif (present := moved_to(token, opens)) is not None:
        name = "card:card" if opens == Opens.CARD else "card:calendar"
        return redirect(reverse(name, args=[present]), permanent=True)
    return wrong_secret(request)


def _secretly(response: HttpResponse) -> HttpResponse:
    """The address itself is the secret: it goes to no other site (and to ours, or forms would be
    refused).
    """
    response.headers["Referrer-Policy"] = "same-origin"
    response.headers["X-Robots-Tag"] = "noindex"
    return response
