"""Questions about reports."""

from typing import TYPE_CHECKING, Self

from drill_ladder.apps.people.querysets import ClubQuerySet

if TYPE_CHECKING:
    from drill_ladder.apps.people.models import Player


class ReportQuerySet(ClubQuerySet):
    """Reports."""

    to_squad = "player__squad"

    def of_player(self, player: "Player") -> Self:
        """A player's, the latest first."""
        return self.filter(player=player).select_related("player", "by")

    def published(self) -> Self:
        """Those that the player may see."""
        return self.filter(published_at__isnull=False)
