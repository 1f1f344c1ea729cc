"""What a member may see: scoped once, at the door, and carried by the club that questions are asked
with (`of_club`).
"""

from copy import copy
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from drill_ladder.apps.people.models import Club, Membership


def seen_by(member: "Membership") -> "Membership":
    """The member, whose club shows an assistant their own squads and nobody else's."""
    if not member.decides and not member.every_squad:
        member.club.seen = frozenset(member.duties.values_list("squad", flat=True))
    return member


def whole(club: "Club") -> "Club":
    """The club as the program itself sees it, whoever asks."""
    all_of_it = copy(club)
    all_of_it.seen = None
    return all_of_it
