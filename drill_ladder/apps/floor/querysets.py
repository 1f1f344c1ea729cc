"""Questions about what is done in the hall."""

from typing import TYPE_CHECKING

from drill_ladder.apps.people.querysets import ClubQuerySet

if TYPE_CHECKING:
    pass


class GroupQuerySet(ClubQuerySet):
    """Sessions of groups."""
