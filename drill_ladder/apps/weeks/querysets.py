"""Questions about weeks, and which day or week a page is asked about."""

from collections.abc import Sequence
from datetime import date, timedelta
from typing import TYPE_CHECKING, Self

from django.apps import apps
from django.db.models import Prefetch

from drill_ladder.apps.people.querysets import ClubQuerySet

if TYPE_CHECKING:
    from drill_ladder.apps.people.models import Club, Player


from django.http import HttpRequest

from drill_ladder.formats.reading import day

ROUTINE = "prescription__player_routine__routine"


class WeekQuerySet(ClubQuerySet):
    """Planned weeks."""

    to_squad = "player__squad"
    hides_aside = True

    def of(self, player: "Player", day: date) -> Self:
        """The player's week that a day lies in."""
        return self.filter(player=player, monday=monday_of(day))

    def beginning(self, monday: date) -> Self:
        """Those of one week."""
        return self.filter(monday=monday)

    def since(self, monday: date) -> Self:
        """Those that begin on a day or later."""
        return self.filter(monday__gte=monday)

    def published(self) -> Self:
        """Those that the player was told, with the player at hand."""
        return self.filter(published_at__isnull=False).select_related("player")

    def of_players(self, players: "Sequence[Player]") -> Self:
        """Those of some players."""
        return self.filter(player__in=[player.pk for player in players])

    def with_minutes(self) -> Self:
        """With their blocks, without what these are of."""
        return self.prefetch_related("blocks")

    def with_blocks(self) -> Self:
        """With the blocks and what they are of."""
        blocks = apps.get_model("weeks", "PlannedBlock").objects.with_ladders()
        return self.prefetch_related(Prefetch("blocks", queryset=blocks))


class BlockQuerySet(ClubQuerySet):
    """Blocks of planned weeks."""

    to_squad = "week__player__squad"
    hides_aside = True

    def at_club(self, club: "Club", on: date) -> Self:
        """What is planned at the club on a day."""
        return self.of_club(club).filter(on=on, place="club")

    def for_sheet(self) -> Self:
        """With who does it and what it is of, by name."""
        rows = self.select_related("prescription__ladder", ROUTINE, "week__player__squad", "stay")
        return rows.order_by("week__player__name", "order")

    def with_ladders(self) -> Self:
        """With what they are of, and the rung that each was planned on."""
        return self.select_related("prescription__ladder", ROUTINE, "stay__rung__drill")

    def to_change(self) -> Self:
        """With what a change needs."""
        return self.select_related(
            "week__player", "prescription__ladder", ROUTINE
        ).prefetch_related("week__player__days")

    def of_week(self, player: "Player", monday: date) -> Self:
        """Those of a player's week."""
        return self.filter(week__player=player, week__monday=monday).select_related("prescription")


def monday_of(day: date) -> date:
    """The Monday of a day's week."""
    return day - timedelta(days=day.weekday())


FARTHEST = timedelta(days=400)


def asked_day(request: HttpRequest, today: date) -> date:
    """The day that is asked for with ?of=; today for anything else."""
    asked = request.POST.get("of") or request.GET.get("of", "")
    return day(asked, today - FARTHEST, today + FARTHEST) or today


def asked_monday(request: HttpRequest, today: date) -> date:
    """The Monday of the week that is asked for."""
    return monday_of(asked_day(request, today))
