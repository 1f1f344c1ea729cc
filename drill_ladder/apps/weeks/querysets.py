"""Questions about weeks."""

from datetime import date, timedelta
from typing import Any

from drill_ladder.apps.people.querysets import ClubQuerySet


class WeekQuerySet(ClubQuerySet):
    """Planned weeks."""

    def of(self, player: Any, day: Any) -> Any:
        """The player's week that a day lies in."""
        return self.filter(player=player, monday=monday_of(day))

    def with_blocks(self) -> Any:
        """With the blocks and what they are of."""
        return self.prefetch_related("blocks__prescription__ladder")


def monday_of(day: date) -> date:
    """The Monday of a day's week."""
    return day - timedelta(days=day.weekday())
