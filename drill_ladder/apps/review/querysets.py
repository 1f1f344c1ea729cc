"""Questions about proposals."""

from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING, Self

from django.db.models import (
    Case,
    Count,
    Exists,
    IntegerField,
    OuterRef,
    Subquery,
    Value,
    When,
)

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.querysets import ClubQuerySet
from drill_ladder.apps.practice.models import Stop

if TYPE_CHECKING:
    from drill_ladder.apps.people.models import Player
    from drill_ladder.apps.prescriptions.models import Stay

# The most urgent first: what holds a player back or harms before what can wait a day.
URGENCY = ["step_down", "ease", "recheck", "stalled", "check", "climb", "finish", "skip"]


class ProposalQuerySet(ClubQuerySet):
    """Proposals."""

    to_squad = "player__squad"
    hides_aside = True

    def open_of_working(self) -> Self:
        """Open ones of players without a stop."""
        rests = Stop.objects.open().filter(player=OuterRef("player"))
        return self.filter(~Exists(rests), state="open")

    def awaiting_review(self) -> Self:
        """Those of active prescriptions, the most urgent first."""
        ranks = [When(kind=kind, then=Value(rank)) for rank, kind in enumerate(URGENCY)]
        rank = Case(*ranks, default=Value(99), output_field=IntegerField())
        rows = self.open_of_working().filter(
            stay__left__isnull=True, stay__prescription__status="active"
        )
        return rows.order_by(rank, "made_on", "id")

    def of_stay(self, stay: "Stay") -> Self:
        """What the rule said of a stay."""
        return self.filter(stay=stay)

    def waiting_to_finish(self) -> Self:
        """That a ladder is finished, and nobody has confirmed it yet."""
        return self.filter(state="open", kind="finish")

    def with_rung_count(self) -> Self:
        """With how many rungs the ladder has."""
        rungs = Rung.objects.filter(ladder=OuterRef("stay__prescription__ladder")).order_by()
        counted = rungs.values("ladder").annotate(count=Count("pk")).values("count")
        return self.annotate(rung_count=Subquery(counted))

    def with_all(self) -> Self:
        """With what deciding about one of them shows."""
        return self.select_related(
            "stay__rung__drill",
            "stay__rung__ladder",
            "stay__prescription__player",
            "stay__prescription__ladder",
            "to_rung",
        )

    def of_player(self, player: "Player") -> Self:
        """A player's."""
        return self.filter(player=player)

    def of_players(self, players: "Sequence[Player]") -> Self:
        """Those of some players."""
        return self.filter(player__in=[player.pk for player in players])

    def latest_of(self, stays: "Iterable[Stay]") -> Self:
        """The last one of each of some stays, as long as nobody decided about it."""
        keys = [stay.pk for stay in stays]
        rows = self.filter(stay__in=keys, state__in=("open", "noted"))
        return rows.order_by("stay_id", "-id").distinct("stay_id")


class DecisionQuerySet(ClubQuerySet):
    """What coaches decided."""

    to_squad = "proposal__player__squad"

    def standing_of(self, user: int) -> Self:
        """A coach's own that nobody undid, the latest first, with whom they were about."""
        rows = self.filter(by=user, undone_at__isnull=True)
        ties = ("proposal__stay__prescription__player", "proposal__stay__rung", "to_rung")
        return rows.select_related(*ties, "proposal__stay__prescription__ladder").order_by("-id")

    def in_force(self, player: "Player") -> Self:
        """A player's that nobody undid, the latest first, with what they did at hand."""
        rows = self.filter(proposal__player=player, undone_at__isnull=True)
        rows = rows.select_related(
            "proposal__stay__rung", "proposal__stay__prescription__ladder", "by", "to_rung"
        )
        return rows.order_by("-on", "-id")
