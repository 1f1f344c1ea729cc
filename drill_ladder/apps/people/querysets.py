"""Questions about people."""

from typing import Any

from django.db import models


class ClubQuerySet(models.QuerySet):
    """Rows that carry a club."""

    def of_club(self, club: Any) -> Any:
        """Only this club's."""
        return self.filter(club=club)


class PlayerQuerySet(ClubQuerySet):
    """Players."""

    def by_token(self, token: str) -> "PlayerQuerySet":
        """The player whose open secret link this is."""
        return self.filter(links__token=token, links__revoked_at__isnull=True)

    def resting(self) -> Any:
        """Those with an open stop."""
        return self.filter(stops__isnull=False, stops__ended_on__isnull=True).distinct()
