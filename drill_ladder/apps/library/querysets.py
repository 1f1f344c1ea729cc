"""Questions about the library."""

from collections.abc import Sequence
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


# what a search asks -> the field it looks at
EXACT = {"skill": "skill__name", "caution": "caution", "kind": "measure__kind", "people": "people"}
LISTED = {"lane": "lanes", "tool": "tools", "surface": "surfaces"}


class DrillQuerySet(LibraryQuerySet):
    """Drills."""

    def matching(self, words: str = "", **asked: str) -> Any:
        """Those in which every word appears (name, purpose, how), and for which all else that is asked holds."""
        found: Any = self
        for word in (words or "").split():
            found = found.filter(Q(title__icontains=word) | Q(purpose__icontains=word) | Q(how__icontains=word))
        found = found.filter(**{field: asked[key] for key, field in EXACT.items() if asked.get(key)})
        for key, field in LISTED.items():
            if asked.get(key):
                found = found.filter(**{f"{field}__contains": [asked[key]]})
        return found

    def titled(self, titles: Sequence[str]) -> Any:
        """Those of these names."""
        return self.filter(title__in=titles)

    def for_file(self) -> Any:
        """With everything that a file tells about them."""
        return self.select_related("skill").prefetch_related("treatments__by_drill", "treatments__by_rung__ladder")


class LadderQuerySet(LibraryQuerySet):
    """Ladders."""

    def for_file(self) -> Any:
        """With everything that a file tells about them."""
        return self.select_related("skill").prefetch_related("rungs__drill")
