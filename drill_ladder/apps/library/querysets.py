"""Questions about the library."""

from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING, Self

from django.db.models import Count, F, Q

from drill_ladder.apps.people.querysets import ClubQuerySet

if TYPE_CHECKING:
    from drill_ladder.apps.library.models import Ladder
    from drill_ladder.apps.people.models import Player


class LibraryQuerySet(ClubQuerySet):
    """What can be archived: never deleted, so that results keep what they were made with."""

    def in_use(self) -> Self:
        """Not archived."""
        return self.filter(archived_on__isnull=True)

    def archived(self) -> Self:
        """Archived, by title."""
        return self.filter(archived_on__isnull=False).order_by("title")

    def with_rung_counts(self) -> Self:
        """By title, with skill and the number of rungs at hand."""
        return self.select_related("skill").annotate(rung_count=Count("rungs")).order_by("title")

    def titled(self, titles: Sequence[str]) -> Self:
        """Those of these names."""
        return self.filter(title__in=titles)

    def called(self, part: str) -> Self:
        """Those whose title holds these letters."""
        return self.filter(title__icontains=part)

    def with_skill(self) -> Self:
        """With their skill at hand."""
        return self.select_related("skill")


# what a search asks -> the field it looks at
EXACT = {"skill": "skill__name", "caution": "caution", "kind": "measure__kind", "people": "people"}
LISTED = {"lane": "lanes", "tool": "tools", "surface": "surfaces"}


class DrillQuerySet(LibraryQuerySet):
    """Drills."""

    def prescribed_to(self, player: "Player") -> Self:
        """Those of the ladders that a player is on, by name."""
        rows = self.filter(
            rungs__ladder__prescriptions__player=player,
            rungs__ladder__prescriptions__status="active",
        )
        return rows.distinct().order_by("title")

    def matching(self, words: str = "", **asked: str) -> Self:
        """Those in which every word appears (name, purpose, how), and for which all else that is
        asked holds.
        """
        matching = self
        for word in (words or "").split():
            matching = matching.filter(
                Q(title__icontains=word) | Q(purpose__icontains=word) | Q(how__icontains=word)
            )
        matching = matching.filter(
            **{field: asked[key] for key, field in EXACT.items() if asked.get(key)}
        )
        for key, field in LISTED.items():
            if asked.get(key):
                matching = matching.filter(**{f"{field}__contains": [asked[key]]})
        return matching

    def used_on(self, ladder: "Ladder") -> Self:
        """Those that a ladder's rungs are made of."""
        return self.filter(rungs__ladder=ladder).distinct()

    def used_on_any(self, ladders: "LadderQuerySet") -> Self:
        """Those that the rungs of some ladders are made of."""
        return self.filter(rungs__ladder__in=ladders).distinct()

    def for_file(self) -> Self:
        """By title, with everything that a file tells about them."""
        with_all = self.with_skill().prefetch_related(
            "treatments__by_drill", "treatments__by_rung__ladder"
        )
        return with_all.order_by("title")

    def titles(self) -> list[str]:
        """Their titles, in their order."""
        return list(self.order_by("title").values_list("title", flat=True))

    def testable(self, kinds: Sequence[str]) -> Self:
        """Those whose measure is of some kinds, by title."""
        return self.filter(measure__kind__in=kinds).order_by("title")

    def straining(self) -> Self:
        """Those that count what strains a body, by title."""
        return self.exclude(strain=[]).order_by("title")


class LadderQuerySet(LibraryQuerySet):
    """Ladders."""

    def climbed_by(self, squad: int) -> Self:
        """Those that somebody of a squad works on, most players first, with rungs and drills at
        hand.
        """
        on = self.filter(prescriptions__player__squad=squad, prescriptions__status="active")
        on = on.annotate(climbing=Count("prescriptions"))
        return on.with_rungs().order_by("-climbing", "title")

    def with_rungs(self) -> Self:
        """With rungs and their drills at hand."""
        return self.prefetch_related("rungs__drill")

    def for_file(self) -> Self:
        """By title, with everything that a file tells about them."""
        return self.with_skill().with_rungs().order_by("title")

    def parts_of(self, routine: int) -> Self:
        """Those that a routine's parts stand on."""
        return self.filter(routine_parts__routine=routine)

    def with_any_rung(self) -> Self:
        """Those that have rungs, by title."""
        return self.with_rung_counts().filter(rung_count__gt=0)

    def open_to(self, player: "Player") -> Self:
        """Those with rungs that are in use and that the player is not on."""
        prescribed = Q(prescriptions__player=player, prescriptions__status="active")
        return self.in_use().exclude(pk__in=self.filter(prescribed).values("pk")).with_any_rung()


class RoutineQuerySet(LibraryQuerySet):
    """Routines."""

    def with_parts(self) -> Self:
        """By title, with their parts and what these are of at hand."""
        rows = self.select_related("insert_of").prefetch_related("parts__ladder")
        return rows.order_by("title")


class RoutinePartQuerySet(ClubQuerySet):
    """Parts of routines."""

    def with_first_rungs(self) -> Self:
        """In order, with ladder, rungs and drills at hand."""
        return self.select_related("ladder").prefetch_related("ladder__rungs__drill")

    def judged_together(self, routines: Iterable[int]) -> set[tuple[int, int]]:
        """(Routine, position) of those judged in the same repetitions as the one before."""
        asked = set(routines)
        rows = self.filter(routine__in=asked, together=True) if asked else self.none()
        return set(rows.values_list("routine_id", "position"))


class RungQuerySet(ClubQuerySet):
    """Rungs."""

    def with_drill(self) -> Self:
        """With drill and ladder at hand."""
        return self.select_related("drill", "ladder")

    def at(self, club: int, ladder: int, position: int) -> Self:
        """The rung of a club's ladder at a position: one or none."""
        rows = self.filter(ladder__club=club, ladder=ladder, position=position)
        return rows.with_drill()

    def titles_of(self, ladders: Iterable[int]) -> dict[tuple[int, int], str]:
        """(Ladder, position) -> title, of all rungs of some ladders."""
        rows = self.filter(ladder__in=ladders).values_list("ladder_id", "position", "title")
        return {(ladder, position): title for ladder, position, title in rows}

    def by_ladder(self) -> Self:
        """By their ladders' titles, from the bottom."""
        return self.select_related("ladder").order_by("ladder__title", "position")

    def from_the_bottom(self) -> Self:
        """Those that stand lowest on their ladders first."""
        return self.select_related("ladder").order_by("position")


class StrainLimitQuerySet(ClubQuerySet):
    """Limits on what strains a body."""

    def with_squads(self) -> Self:
        """By kind, those of the whole club first, with their squads at hand."""
        return self.select_related("squad").order_by(
            "strain", F("squad__name").asc(nulls_first=True)
        )

    def squads_last(self) -> Self:
        """Those of the whole club, then those of a squad, which count before them."""
        return self.order_by(F("squad").asc(nulls_first=True))


class ToolLimitQuerySet(ClubQuerySet):
    """Limits on the size of tools."""

    def of_club_id(self, club: int | None) -> Self:
        """Those of a club that is known by its id."""
        return self.filter(club=club)
