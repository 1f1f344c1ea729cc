"""Who comes in by the open door: a token, its scopes, how often, and a trace of every use."""

from typing import Any

from django.core.cache import cache
from django.http import HttpRequest
from django.utils import timezone
from ninja.errors import HttpError
from ninja.security import HttpBearer

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.guesses import too_many_wrong
from drill_ladder.apps.people.models import AccessToken
from drill_ladder.apps.people.team import token_of

A_MINUTE, MOST = 60, 240  # uses of one token a minute; a gate sends once a second


class Token(HttpBearer):
    """A token that may do one thing."""

    def __init__(self, scope: str) -> None:
        super().__init__()
        self.scope = scope

    def authenticate(self, request: HttpRequest, token: str) -> Any:
        """The token, counted and noted. Raises HttpError for one that may not, or comes too
        often.
        """
        found = token_of(token)
        if found is None:
            if too_many_wrong(request):
                raise HttpError(429, "Too many wrong tokens from there: wait a minute.")
            return None
        if not found.opens(self.scope):
            raise HttpError(403, f"This token may not do that: it lacks “{self.scope}”.")
        if _too_often(found):
            raise HttpError(429, f"More than {MOST} uses in a minute: wait a little.")
        _note(request, found)
        return found


def _too_often(token: AccessToken) -> bool:
    key = f"door-{token.pk}-{int(timezone.now().timestamp()) // A_MINUTE}"
    cache.add(key, 0, 2 * A_MINUTE)
    try:
        return cache.incr(key) > MOST
    except ValueError:  # it was pushed out between the two
        return False


def _note(request: HttpRequest, token: AccessToken) -> None:
    AccessToken.objects.filter(pk=token.pk).update(used_at=timezone.now())
    record(
        club_id=token.club_id,
        actor=token.made_by,
        verb="used the open door",
        subject=token,
        method=request.method,
        path=request.path,
    )


def token_in(request: HttpRequest) -> AccessToken:
    """The token that came in."""
    token: AccessToken = request.auth  # type: ignore[attr-defined]
    return token
