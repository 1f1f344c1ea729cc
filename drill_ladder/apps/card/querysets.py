"""Questions about reports."""

from collections.abc import Iterable
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

    def of_players(self, players: "Iterable[Player]") -> Self:
        """Those of some players, with them at hand."""
        return self.filter(player__in=[player.pk for player in players]).select_related("player")

    def published(self) -> Self:
        """Those that the player may see."""
        return self.filter(published_at__isnull=False)
