"""Questions about who did what."""

from collections.abc import Iterable
from typing import Any

from django.db import models
from django.db.models import Q


class EventQuerySet(models.QuerySet):
    """Log entries."""

    def about(self, row: models.Model) -> Any:
        """Those about one row, the latest first."""
        return self.filter(about_q([row]))

    def about_any(self, rows: Iterable[models.Model]) -> Any:
        """Those about any of some rows, the latest first."""
        return self.filter(about_q(rows))


def about_q(rows: Iterable[models.Model]) -> Q:
    """The question as a Q; of no rows it finds nothing."""
    asked = Q(pk__in=[])
    for row in rows:
        asked |= Q(kind=row._meta.label_lower, row_id=str(row.pk))
    return asked
