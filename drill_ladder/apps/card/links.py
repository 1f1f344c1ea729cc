"""Pages that a secret link opens. A report of hurt is stored before anything else, whatever becomes
of the page.
"""

from collections.abc import Callable
from functools import wraps
from typing import Any

from allauth.account.adapter import get_adapter
from allauth.core.ratelimit import respond_429
from django.core.cache import cache
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from drill_ladder.apps.people.access import at_club
from drill_ladder.apps.people.links import moved_to, player_by, player_once_by
from drill_ladder.apps.people.models import Opens, Player
from drill_ladder.apps.practice.stops import hear, heard_late
from drill_ladder.ui.pages import wants_json

View = Callable[..., HttpResponse]
GUESSES, MINUTE = 30, 60  # wrong addresses a minute from one place; right ones are never counted


def by_link(opens: str = Opens.CARD) -> Callable[[View], View]:
    """A page that a secret link of a kind opens, for its player only; a wrong or closed link is a
    404.

    The secret alone lets somebody in, no cookie does, so that no other site can send a form here in
    their name: such pages need no token against that, and a report cannot fail by an old one.
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
                    response = _opened(view, request, player, token, *args, **kwargs)
            return _secretly(response)

        guarded.access = "link"  # type: ignore[attr-defined]
        guarded.csrf_exempt = True  # type: ignore[attr-defined]
        guarded.holds_report = True  # type: ignore[attr-defined]
        return guarded

    return decorate


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
    return wrong_link(request)


def wrong_link(request: HttpRequest) -> HttpResponse:
    """404, or, for whoever tries many, 429."""
    place = f"wrong-links:{get_adapter().get_client_ip(request)}"
    tried = cache.get(place, 0) + 1
    cache.set(place, tried, MINUTE)
    if tried > GUESSES:
        return respond_429(request)
    raise Http404


def _secretly(response: HttpResponse) -> HttpResponse:
    """The address itself is the secret: it goes to no other site (and to ours, or forms would be
    refused).
    """
    response.headers["Referrer-Policy"] = "same-origin"
    response.headers["X-Robots-Tag"] = "noindex"
    return response
