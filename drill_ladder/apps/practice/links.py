"""Pages that a secret link opens."""

from collections.abc import Callable
from functools import wraps
from typing import Any

from django.http import Http404, HttpRequest, HttpResponse

from drill_ladder.apps.people.models import Player


def by_link(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """A page that a secret link opens, for its player only; a wrong or revoked link is a 404."""

    @wraps(view)
    def guarded(request: HttpRequest, token: str, *args: Any, **kwargs: Any) -> HttpResponse:
        player = Player.objects.by_token(token).select_related("club").first()
        if player is None:
            raise Http404
        response = view(request, player, token, *args, **kwargs)
        # the address itself is the secret: it goes to no other site (and to ours, or forms would be refused)
        response.headers["Referrer-Policy"] = "same-origin"
        response.headers["X-Robots-Tag"] = "noindex"
        return response

    guarded.access = "link"  # type: ignore[attr-defined]
    return guarded
