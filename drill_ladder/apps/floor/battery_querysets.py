"""Questions about tests."""

from collections.abc import Collection, Sequence
from datetime import date
from typing import TYPE_CHECKING, Self, cast
from uuid import UUID

from django.db.models import Q

from drill_ladder.apps.people.querysets import ClubQuerySet

if TYPE_CHECKING:
    from drill_ladder.apps.floor.models import Battery, Protocol, Trial
    from drill_ladder.apps.people.models import Player


class ProtocolQuerySet(ClubQuerySet):
    """Tests."""

    def in_force(self) -> Self:
        """Those that nothing replaced, with what is done in them at hand."""
        return self.filter(after__isnull=True).with_drill()

    def done_by(self, player: "Player", since: date) -> Self:
        """Those that a player did since a day, by title."""
        rows = self.filter(trials_done__player=player, trials_done__battery__on__gte=since)
        return rows.filter(trials_done__taken_back=False).distinct().order_by("title", "version")

    def with_drill(self) -> Self:
        """With drill or routine at hand."""
        return self.select_related("drill", "routine")


class BatteryQuerySet(ClubQuerySet):
    """Test days."""

    def with_tests(self) -> Self:
        """With squad and tests at hand, the latest first."""
        return self.select_related("squad").prefetch_related(
            "protocols__drill", "protocols__routine"
        )

    def open_on(self, on: date) -> Self:
        """Those of a day that nobody has finished."""
        return self.filter(on=on, closed_at=None)


class TrialQuerySet(ClubQuerySet):
    """Trials."""

    to_squad = "player__squad"

    def that_count(self) -> Self:
        """Those that nobody took back, oldest first, with the day they were done."""
        return self.filter(taken_back=False).select_related("battery").order_by("at", "id")

    def taken_back_on(self, battery: "Battery", protocol: "Protocol") -> Self:
        """What was taken back of a test on a day."""
        rows = self.filter(battery=battery, protocol=protocol, taken_back=True)
        return rows.select_related("player").order_by("at", "id")

    def uids_among(self, club: int, uids: "Sequence[UUID]") -> set[UUID]:
        """Those of some ids that are trials of a club."""
        return set(self.filter(club=club, uid__in=uids).values_list("uid", flat=True))

    def by_uid_among(self, club: int, uids: "Sequence[UUID]") -> "dict[tuple[int, UUID], Trial]":
        """Those of some ids that are trials of a club, by test day and id."""
        rows = cast("list[Trial]", list(self.filter(club=club, uid__in=uids)))
        return {(row.battery_id, row.uid): row for row in rows}

    def of_days(self, days: "Collection[Battery]") -> Self:
        """Those of some test days that count, oldest first."""
        return self.filter(battery__in=[day.pk for day in days]).that_count()

    def with_day(self) -> Self:
        """With test and test day at hand."""
        return self.select_related("battery__club", "protocol__drill", "protocol__routine")

    def of_one(self, trial: "Trial") -> Self:
        """The trials that count together with one: of its player, test, side and day."""
        same = {"battery": trial.battery_id, "protocol": trial.protocol_id}
        rows = self.filter(**same, player=trial.player_id, side=trial.side, taken_back=False)
        return rows.order_by("at", "id")

    def of_protocols(self, protocols: "Collection[Protocol]") -> Self:
        """Those of some tests."""
        return self.filter(protocol__in=[protocol.pk for protocol in protocols])


class ChallengeQuerySet(ClubQuerySet):
    """Challenges."""

    def running(self, on: date) -> Self:
        """Those of a day, with their tests at hand."""
        return self.filter(begins__lte=on, ends__gte=on).with_test()

    def with_test(self) -> Self:
        """With test and squad at hand."""
        return self.select_related("protocol__drill", "protocol__routine", "squad")

    def for_player(self, player: "Player", on: date) -> Self:
        """Those that a player may take part in today."""
        theirs = Q(squad=None) | Q(squad=player.squad_id)
        return self.filter(theirs, club=player.club_id).running(on)
