"""Who may come in: one door for every view."""

from collections.abc import Callable
from functools import wraps
from typing import Any

from django.contrib.auth.decorators import login_required
from django.core.exceptions import PermissionDenied
from django.http import Http404, HttpRequest, HttpResponse

from drill_ladder.apps.people.errors import ROLE_TOLD
from drill_ladder.apps.people.models import Membership

SIGNED_OUT = (
    "You are signed out, so nothing was stored. Sign in in another window, come back here with the browser's Back, "
    "and send it again."
)
View = Callable[..., HttpResponse]


def membership_of(user: Any) -> Membership | None:
    """The user's membership, read once for each request."""
    if not hasattr(user, "_membership"):
        user._membership = Membership.objects.select_related("club", "user").filter(user=user).first()
    found: Membership | None = user._membership
    return found


def holds_report(view: View) -> View:
    """A view whose form may hold a report of hurt: it is never too large to be read, and whoever was signed out
    meanwhile is told that it did not arrive, instead of being led to the sign-in without a word.
    """

    @wraps(view)
    def guarded(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        if request.method == "POST" and not request.user.is_authenticated:
            raise PermissionDenied(SIGNED_OUT)
        return view(request, *args, **kwargs)

    guarded.holds_report = True  # type: ignore[attr-defined]
    return guarded


def member_required(view: View) -> View:
    """Any member of a club; the view gets `member`. A stranger with an account gets 404."""

    @wraps(view)
    @login_required
    def guarded(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        member = membership_of(request.user)
        if member is None:
            raise Http404
        return view(request, member, *args, **kwargs)

    guarded.access = "member"  # type: ignore[attr-defined]
    return guarded


def coach_required(view: View) -> View:
    """A coach or an owner; an assistant is told why not."""

    @wraps(view)
    @member_required
    def guarded(request: HttpRequest, member: Membership, *args: Any, **kwargs: Any) -> HttpResponse:
        if not member.decides:
            raise PermissionDenied(ROLE_TOLD)
        return view(request, member, *args, **kwargs)

    guarded.access = "coach"  # type: ignore[attr-defined]
    return guarded
