"""Questions about who did what."""

from collections import defaultdict
from collections.abc import Iterable
from datetime import date
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

    def between(self, first: date | None, last: date | None) -> Self:
        """Those of some days, as the present time zone has them."""
        rows = self if first is None else self.filter(at__date__gte=first)
        return rows if last is None else rows.filter(at__date__lte=last)

    def by(self, user: int | None) -> Self:
        """What one user did; everybody's without one."""
        return self if user is None else self.filter(actor=user)

    def with_words(self, words: str) -> Self:
        """Those whose act or subject holds some words."""
        asked = Q(subject__icontains=words) | Q(verb__icontains=words)
        return self.filter(asked | Q(actor__name__icontains=words)) if words else self

    def with_actor(self) -> Self:
        """With who did it at hand."""
        return self.select_related("actor")

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
