"""Questions about what is done in the hall."""

from collections.abc import Collection
from datetime import date
from typing import TYPE_CHECKING, Any, Self
from uuid import UUID

from django.db.models import Exists, OuterRef

from drill_ladder.apps.people.querysets import ClubQuerySet
from drill_ladder.formats.reading import uuid

if TYPE_CHECKING:
    from drill_ladder.apps.floor.models import FloorTap
    from drill_ladder.apps.people.models import Club, Player
    from drill_ladder.apps.prescriptions.models import Stay


class GroupQuerySet(ClubQuerySet):
    """Sessions of groups."""

    def on_day(self, on: date) -> Self:
        """Those of a day, the latest first."""
        return self.filter(on=on).order_by("-pk")


class TapQuerySet(ClubQuerySet):
    """Taps."""

    to_squad = "player__squad"

    def of_day(self, club: "Club", on: date, after: int = 0) -> Self:
        """Those of a day in the hall after a number, in the order in which they were stored."""
        return self.of_club(club).counted().filter(on=on, id__gt=after).order_by("id")

    def of_stay(self, stay: "Stay", on: date) -> Self:
        """Those of one player's work on a rung in a day."""
        return self.counted().filter(stay=stay.pk, on=on).order_by("id")

    def counted(self) -> Self:
        """Without what was tapped after a stop."""
        return self.filter(after_stop=False)

    def after_stops(self, player: "Player", since: date) -> Self:
        """What was tapped for a player after it was told that something hurts."""
        return self.filter(player=player, after_stop=True, on__gte=since)

    def known_among(self, club: "Club", uids: Collection[UUID]) -> dict[UUID, bool]:
        """Those ids that are stored already in a club -> whether they were tapped after a stop."""
        return dict(self.filter(club=club, uid__in=uids).values_list("uid", "after_stop"))

    def unsettled(self, club: "Club", since: date, before: date) -> list[tuple[int, date]]:
        """(Stay, day) of a club's work that was tapped since a day and before another one, and of
        which nothing was told yet.
        """
        comfort = self.filter(act="told", stay=OuterRef("stay"), on=OuterRef("on"))
        rows = self.of_club(club).counted().filter(on__gte=since, on__lt=before)
        rows = rows.filter(stay__isnull=False, act__in=("stroke", "result"))
        rows = rows.exclude(Exists(comfort)).order_by("on", "stay").distinct()
        return list(rows.values_list("stay", "on"))

    def said_here(self, on: date) -> list[int]:
        """Who was said to be in the hall on a day, early or late."""
        rows = self.filter(on=on, act="here", value__word__in=("in", "late"))
        return list(rows.values_list("player", flat=True).distinct())

    def parts_since(self, club: "Club", on: date) -> Self:
        """What the night recorded as the part of a dose that it is, of work since a day."""
        parts = self.of_club(club).filter(on__gte=on, act="told", value__part=True)
        rows = parts.select_related("player", "stay__rung", "stay__prescription__ladder")
        return rows.order_by("-on", "player__name")

    def words_since(
        self, club: "Club", players: "Collection[int]", day: date
    ) -> list[tuple[int, str, UUID, date, dict[str, Any]]]:
        """(Player, act, id, day, value) of words to some players and of what was taken back, the
        latest first.
        """
        rows = self.filter(club=club, player__in=players, stay=None, on__gte=day)
        rows = rows.filter(act__in=("word", "undo")).order_by("-on", "-id")
        return list(rows.values_list("player", "act", "uid", "on", "value"))

    def taken_back_by(self, undo: "FloorTap") -> Self:
        """What somebody said of how at ease they are, where a tap takes that back."""
        rows = self.filter(player=undo.player_id, act="comfort", stay=None)
        return rows.filter(uid=uuid(undo.value.get("of")))
