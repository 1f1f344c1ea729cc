"""Questions about sessions and stops."""

from typing import Any

from drill_ladder.apps.people.querysets import ClubQuerySet


class SessionQuerySet(ClubQuerySet):
    """Sessions."""

    def of_player(self, player: Any) -> Any:
        """Everything a player did, the latest first."""
        return self.filter(stay__prescription__player=player).order_by("-on", "-recorded_at")

    def since(self, day: Any) -> Any:
        """Those on a day or later."""
        return self.filter(on__gte=day)


class StopQuerySet(ClubQuerySet):
    """Stops."""

    def open(self) -> Any:
        """Those that nobody has ended."""
        return self.filter(ended_on__isnull=True)
