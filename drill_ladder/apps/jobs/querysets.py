"""Questions about long work."""

from typing import Any, Self

from django.db import models


class JobQuerySet(models.QuerySet):
    """Pieces of long work."""

    def of_club(self, club: Any) -> Self:
        """Only this club's (this lowest layer knows clubs by name only)."""
        return self.filter(club=club)

    def under_way(self) -> Self:
        """Those that are not over."""
        return self.filter(state__in=("waiting", "running"))
