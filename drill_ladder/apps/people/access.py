"""Who may come in, and what they then see: one door for every view. What a member may see is
carried by the club that questions are asked with (`of_club`). Whoever is signed in comes with their
places in clubs, by one question.
"""

from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from copy import copy
from functools import wraps
from typing import Any

from allauth.account.auth_backends import AuthenticationBackend
from django.contrib.auth.decorators import login_required
from django.core.exceptions import PermissionDenied
from django.http import Http404, HttpRequest, HttpResponse
from django.utils import timezone

from drill_ladder.apps.people.errors import OWNER_TOLD, ROLE_TOLD, Refused
from drill_ladder.apps.people.models import Club, Membership, Player, Role, User
from drill_ladder.apps.people.signals import written

SIGNED_OUT = (
    "You are signed out, so nothing was stored. Sign in in another window, come back here with the "
    "browser's Back, "
    "and send it again."
)
CHOSEN_CLUB = "club"  # of a session: the id of the club that was chosen
View = Callable[..., HttpResponse]


def membership_of(user: Any) -> Membership | None:
    """The user's membership, read once for each request; of somebody in several clubs that of the
    club which they chose (`choose_club`), else of the first.
    """
    if not hasattr(user, "_membership"):
        member = Membership.objects.of_user(user.pk).first()
        user._membership = seen_by(member) if member else None
    membership: Membership | None = user._membership
    return membership


def choose_club(user: Any, club: object) -> Any:
    """The user, in the club of that id where they are a member of it, else in their first one."""
    rows: list[Membership] = getattr(user, "_memberships", [])
    if rows:
        chosen = next((row for row in rows if row.club_id == club), rows[0])
        chosen.user = user
        user._membership = seen_by(chosen)
    return user


@contextmanager
def at_club(request: HttpRequest, club: Club) -> Iterator[None]:
    """What is done and shown in here follows the club's clock. The first write of a day brings the
    night's work, once it is done itself: a report of hurt waits for nothing.
    """
    with timezone.override(club.zone):
        yield
        if request.method not in ("GET", "HEAD", "OPTIONS"):
            written.send_robust(
                sender=Club, club=whole(club)
            )  # what fails there is logged, and takes nobody's page away


def holds_report(view: View) -> View:
    """A view whose form may hold a report of hurt: it is never too large to be read, and whoever
    was signed out meanwhile is told that it did not arrive, instead of being led to the sign-in
    without a word.
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
        with at_club(request, member.club):
            return view(request, member, *args, **kwargs)

    guarded.access = "member"  # type: ignore[attr-defined]
    return guarded


def coach_required(view: View) -> View:
    """A coach or an owner; an assistant is told why not."""

    @wraps(view)
    @member_required
    def guarded(
        request: HttpRequest, member: Membership, *args: Any, **kwargs: Any
    ) -> HttpResponse:
        if not member.decides:
            raise PermissionDenied(ROLE_TOLD)
        return view(request, member, *args, **kwargs)

    guarded.access = "coach"  # type: ignore[attr-defined]
    return guarded


def owner_required(view: View) -> View:
    """The club's owner; a coach is told whose it is."""

    @wraps(view)
    @member_required
    def guarded(
        request: HttpRequest, member: Membership, *args: Any, **kwargs: Any
    ) -> HttpResponse:
        if member.role != Role.OWNER:
            raise PermissionDenied(OWNER_TOLD)
        return view(request, member, *args, **kwargs)

    guarded.access = "owner"  # type: ignore[attr-defined]
    return guarded


def seen_by(member: Membership) -> Membership:
    """The member, whose club shows an assistant their own squads and nobody else's."""
    if not member.decides and not member.every_squad:
        member.club.seen = frozenset(member.duties.values_list("squad", flat=True))
    return member


def whole(club: Club) -> Club:
    """The club as the program itself sees it, whoever asks."""
    all_of_it = copy(club)
    all_of_it.seen = None
    return all_of_it


class Members(AuthenticationBackend):  # type: ignore[misc]
    """As allauth's; every page that knows who asks also knows for which clubs."""

    def get_user(self, user_id: int) -> User | None:
        """The user, and at hand what `choose_club` is asked for."""
        memberships = list(Membership.objects.of_user(user_id))
        if not memberships:
            user: User | None = super().get_user(user_id)
            return user
        user = memberships[0].user
        if not self.user_can_authenticate(user):
            return None
        user.__dict__["_memberships"] = memberships
        return user


def refuse_unless_coach(member: Membership, told: str = ROLE_TOLD) -> None:
    """Raise Refused for an assistant."""
    if not member.decides:
        raise Refused(told)


def refuse_resting(player: Player, kept: str = "Nothing was changed.") -> None:
    """Raise Refused, with the reason, while a stop of the player is open."""
    why = why_resting([player]).get(player.pk)
    if why is not None:
        raise Refused(f"{why} {kept}")


def why_resting(players: Iterable[Player]) -> dict[int, str]:
    """Player id -> since when and with what, of those for whom a stop is open."""
    rows = Player.objects.resting().filter(pk__in=[player.pk for player in players])
    stops = rows.order_by("stops__opened_on").values_list(
        "pk", "name", "stops__opened_on", "stops__what"
    )
    return {
        pk: f"{name} rests since {on:%-d %B} (“{what}”): a coach ends the stop first."
        for pk, name, on, what in stops
    }


def refuse_unless_owner(member: Membership, told: str = OWNER_TOLD) -> None:
    """Raise Refused for everybody else."""
    if member.role != Role.OWNER:
        raise Refused(told)
