"""What every page may show in its frame: the club and the member's role."""

from typing import Any

from django.http import HttpRequest

from drill_ladder.apps.people.access import membership_of


def club(request: HttpRequest) -> dict[str, Any]:
    """The signed-in member's club and role, or None for both."""
    user = getattr(request, "user", None)
    member = membership_of(user) if user is not None and user.is_authenticated else None
    return {"member": member, "club": member.club if member else None}
