"""Questions about long work."""

from typing import TYPE_CHECKING, Any, Self

from django.db import models

if TYPE_CHECKING:
    pass


class JobQuerySet(models.QuerySet):
    """Pieces of long work."""

    def of_club(self, club: Any) -> Self:
        """Only this club's (this lowest layer knows clubs by name only)."""
        return self.filter(club=club)
