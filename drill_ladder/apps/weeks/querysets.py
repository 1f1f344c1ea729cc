"""Questions about weeks, and which day or week a page is asked about."""

from collections.abc import Iterable, Sequence
from datetime import date, datetime, timedelta
from typing import TYPE_CHECKING, Any, Self

from django.apps import apps
from django.db.models import Prefetch

from drill_ladder.apps.people.querysets import ClubQuerySet

if TYPE_CHECKING:
    from drill_ladder.apps.people.models import Club, Player
    from drill_ladder.apps.weeks.models import Week
    from drill_ladder.core.planning import ToldBlock


from django.http import HttpRequest

from drill_ladder.apps.weeks.signals import weeks_told
from drill_ladder.formats.reading import day

TOLD = ("published", "published_at", "revision", "told", "told_at")
AT_ONCE = 200
ROUTINE = "prescription__player_routine__routine"


class WeekQuerySet(ClubQuerySet):
    """Planned weeks."""

    to_squad = "player__squad"
    hides_aside = True

    def of(self, player: "Player", day: date) -> Self:
        """The player's week that a day lies in."""
        return self.filter(player=player, monday=monday_of(day))

    def locked(self, players: "Sequence[Player]", monday: date) -> Self:
        """Those of some players that begin on a day, held for a change, in one order for all."""
        held = self.of_players(players).beginning(monday).select_for_update()
        return held.order_by("pk")

    def tell(
        self,
        told: "Sequence[tuple[Week, tuple[ToldBlock, ...], Sequence[str]]]",
        on: date,
        at: datetime,
        by_coach: bool = False,
    ) -> None:
        """Each of these weeks as its player is told it from now on, with what changed; whoever
        listens hears of all at once.
        """
        if not told:
            return
        for week, published, lines in told:
            week.set_told(published, lines, on, at)
            week.told_at = at if by_coach else week.told_at
        weeks: list[Any] = [week for week, _, _ in told]
        self.bulk_update(weeks, TOLD, AT_ONCE)
        weeks_told.send(sender=self.model, told=[(week, list(lines)) for week, _, lines in told])

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

    def of_weeks(self, weeks: "Iterable[Week]") -> Self:
        """Those of some weeks."""
        return self.filter(week__in=[week.pk for week in weeks])

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
