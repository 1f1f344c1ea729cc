"""Questions about long work."""

from datetime import datetime
from typing import Any, Self

from django.db import models


class JobQuerySet(models.QuerySet):
    """Pieces of long work."""

    def of_club(self, club: Any) -> Self:
        """Only this club's (this lowest layer knows clubs by name only), without what they made."""
        rows = self.filter(club=club).defer("file")
        # what long work tells may name anybody
        return rows if club.seen is None else rows.none()

    def with_file(self) -> Self:
        """Those that made something, with it."""
        return self.defer(None).filter(file__isnull=False)

    def made_before(self, moment: "datetime") -> Self:
        """Those that made something before a moment."""
        return self.filter(file__isnull=False, beat_at__lt=moment)

    def under_way(self) -> Self:
        """Those that are not over."""
        return self.filter(state__in=("waiting", "running"))
