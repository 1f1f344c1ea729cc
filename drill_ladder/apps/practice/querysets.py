"""Questions about sessions, sets and stops."""

from datetime import date
from typing import TYPE_CHECKING, Self

from django.db.models import Max

from drill_ladder.apps.people.querysets import ClubQuerySet

if TYPE_CHECKING:
    from drill_ladder.apps.people.models import Player
    from drill_ladder.apps.prescriptions.models import Prescription, Stay


class SessionQuerySet(ClubQuerySet):
    """Sessions."""

    def of_player(self, player: "Player") -> Self:
        """Everything a player did, the latest first, with what is needed to tell about it."""
        mine = self.filter(stay__prescription__player=player).order_by("-on", "-recorded_at")
        return mine.select_related("stay__rung__drill", "stay__prescription__ladder")

    def counted(self) -> Self:
        """Those that count for their stay: no rechecks."""
        return self.filter(recheck=False)

    def with_sets(self) -> Self:
        """With their sets at hand."""
        return self.prefetch_related("sets")

    def last_of(self, prescription: "Prescription") -> date | None:
        """The last day of work anywhere on a player's ladder."""
        last: date | None = self.filter(stay__prescription=prescription).aggregate(last=Max("on"))[
            "last"
        ]
        return last

    def since(self, day: date) -> Self:
        """Those on a day or later."""
        return self.filter(on__gte=day)


class SetQuerySet(ClubQuerySet):
    """Sets."""

    def counted_for(self, stay: "Stay") -> Self:
        """Those of the sessions that count for a stay, session by session, each at hand."""
        rows = self.filter(session__stay=stay, session__recheck=False).select_related("session")
        return rows.order_by("session__on", "session__recorded_at", "session", "order")


class StopQuerySet(ClubQuerySet):
    """Stops."""

    def open(self) -> Self:
        """Those that nobody has ended."""
        return self.filter(ended_on__isnull=True)

    def of_player(self, player: "Player") -> Self:
        """A player's."""
        return self.filter(player=player)

    def ended(self) -> Self:
        """Those that a coach has ended."""
        return self.filter(ended_on__isnull=False)

    def with_people(self) -> Self:
        """With the player and who ended it at hand."""
        return self.select_related("player", "ended_by")
