"""Questions about who did what."""

from collections import defaultdict
from collections.abc import Iterable
from typing import TYPE_CHECKING, Self

from django.db import models
from django.db.models import Q

if TYPE_CHECKING:
    pass


class EventQuerySet(models.QuerySet):
    """Log entries."""

    def of_club(self, club_id: int) -> Self:
        """Only this club's."""
        return self.filter(club_id=club_id)

    def of_verb(self, verb: str) -> Self:
        """Those of one kind of act."""
        return self.filter(verb=verb)

    def by_nobody(self) -> Self:
        """What a player did on their card."""
        return self.filter(actor__isnull=True)

    def about(self, row: models.Model) -> Self:
        """Those about one row, the latest first."""
        return self.about_any([row])

    def about_any(self, rows: Iterable[models.Model]) -> Self:
        """Those about any of some rows, the latest first, with who did it."""
        return self.filter(about_q(rows)).select_related("actor")


def about_q(rows: Iterable[models.Model]) -> Q:
    """The question as a Q; of no rows it finds nothing."""
    ids: dict[str, list[str]] = defaultdict(list)
    for row in rows:
        ids[row._meta.label_lower].append(str(row.pk))
    asked = Q(pk__in=[])
    for kind, of_kind in ids.items():
        asked |= Q(kind=kind, row_id__in=of_kind)
    return asked
