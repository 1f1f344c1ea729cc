"""Questions about the library."""

from typing import Any

from django.db.models import Q

from drill_ladder.apps.people.querysets import ClubQuerySet


class LibraryQuerySet(ClubQuerySet):
    """What can be put aside: archived, never deleted, so that results keep what they were made with."""

    def in_use(self) -> Any:
        """Not put aside."""
        return self.filter(archived_on__isnull=True)

    def put_aside(self) -> Any:
        """Archived."""
        return self.filter(archived_on__isnull=False)


class DrillQuerySet(LibraryQuerySet):
    """Drills."""

    def matching(self, words: str = "", skill: str = "", caution: str = "", kind: str = "", lane: str = "") -> Any:
        """Those in which every word appears (name, purpose, how), of a skill, caution class or measure, with a lane."""
        found: Any = self
        for word in (words or "").split():
            found = found.filter(Q(title__icontains=word) | Q(purpose__icontains=word) | Q(how__icontains=word))
        if skill:
            found = found.filter(skill__name=skill)
        if caution:
            found = found.filter(caution=caution)
        if kind:
            found = found.filter(measure__kind=kind)
        if lane:
            found = found.filter(lanes__contains=[lane])
        return found
