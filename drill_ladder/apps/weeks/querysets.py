"""Questions about weeks."""

from datetime import date, timedelta
from typing import Any

from drill_ladder.apps.people.querysets import ClubQuerySet


class WeekQuerySet(ClubQuerySet):
    """Planned weeks."""

    def of(self, player: Any, day: Any) -> Any:
        """The player's week that a day lies in."""
        return self.filter(player=player, monday=monday_of(day))

    def beginning(self, monday: date) -> Any:
        """Those of one week."""
        return self.filter(monday=monday)

    def published(self) -> Any:
        """Those that the player was told."""
        return self.filter(published_at__isnull=False)

    def with_blocks(self) -> Any:
        """With the blocks and what they are of."""
        return self.prefetch_related("blocks__prescription__ladder")


class BlockQuerySet(ClubQuerySet):
    """Blocks of planned weeks."""

    def with_ladders(self) -> Any:
        """With what they are of."""
        return self.select_related("prescription__ladder")

    def to_change(self) -> Any:
        """With what a change needs."""
        return self.select_related("week__player", "prescription__ladder").prefetch_related("week__player__days")

    def of_week(self, player: Any, monday: date) -> Any:
        """Those of a player's week."""
        return self.filter(week__player=player, week__monday=monday).select_related("prescription")


def monday_of(day: date) -> date:
    """The Monday of a day's week."""
    return day - timedelta(days=day.weekday())
