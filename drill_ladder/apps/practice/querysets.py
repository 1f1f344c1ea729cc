"""Questions about sessions, sets and stops."""

from collections import Counter
from collections.abc import Iterable, Sequence
from datetime import date, datetime
from typing import TYPE_CHECKING, Any, Self
from uuid import UUID

from django.db.models import (
    Case,
    Count,
    Exists,
    Max,
    Min,
    OuterRef,
    Q,
    Subquery,
    Sum,
    Value,
    When,
    Window,
)
from django.db.models.functions import RowNumber

from drill_ladder.apps.people.querysets import ClubQuerySet

if TYPE_CHECKING:
    from drill_ladder.apps.library.models import Ladder
    from drill_ladder.apps.people.models import Club, Player
    from drill_ladder.apps.practice.models import Session
    from drill_ladder.apps.prescriptions.models import PlayerRoutine, Stay


class SkipQuerySet(ClubQuerySet):
    """What was left out."""

    to_squad = "stay__prescription__player__squad"

    def of_player(self, player: "Player") -> Self:
        """A player's, of all ladders."""
        return self.filter(stay__prescription__player=player)

    def since(self, day: date) -> Self:
        """From a day on."""
        return self.filter(on__gte=day)

    def reasons(self) -> list[str]:
        """The codes of why, one for each."""
        return list(self.values_list("why", flat=True))


# last day, attempts, good ones; attempts of what is not counted in good ones are none here
IN_GOOD_ONES = {
    "last": Max("session__on"),
    "tried": Sum("attempts", filter=Q(makes__isnull=False)),
    "made": Sum("makes"),
}


class FeltQuerySet(ClubQuerySet):
    """How at ease players said they were."""

    to_squad = "player__squad"

    def of_player(self, player: "Player", since: date, until: date) -> list[tuple[date, int]]:
        """(Day, 1 to 5), the oldest first."""
        rows = self.filter(player=player, on__gte=since, on__lte=until)
        return list(rows.order_by("on", "id").values_list("on", "level"))

    def said_on(self, stays: "Iterable[Stay]", before: date) -> list[tuple[int, date, int]]:
        """(Stay, day, 1 to 5) of what was said on some rungs before a day, the oldest first."""
        rows = self.filter(stay__in=[stay.pk for stay in stays], on__lt=before)
        return list(rows.order_by("on", "id").values_list("stay_id", "on", "level"))

    def last_said(self, stay: "Stay", count: int) -> list[int]:
        """What was said on a rung last, the latest first; so many at most."""
        rows = self.filter(player=stay.prescription.player_id, stay=stay.pk)
        return list(rows.order_by("-on").values_list("level", flat=True)[:count])


class SessionQuerySet(ClubQuerySet):
    """Sessions."""

    to_squad = "stay__prescription__player__squad"

    def of_player(self, player: "Player") -> Self:
        """Everything a player did, the latest first, with what is needed to tell about it."""
        own = self.filter(stay__prescription__player=player).order_by("-on", "-recorded_at")
        return own.select_related("stay__rung__drill", "stay__prescription__ladder")

    def of_address(self, pk: str) -> Self:
        """The one that an address names; none where it names nothing."""
        try:
            return self.filter(pk=UUID(pk)) if pk else self.none()
        except ValueError:
            return self.none()

    def of_hall(self, stay: "Stay", on: date) -> Self:
        """What a stay's taps of a day in the hall came to: one, or none."""
        return self.filter(stay=stay.pk, on=on, hall=True)

    def with_unread_word(self) -> Self:
        """Those with a word that no coach has read, the latest first."""
        return self.filter(word_read=False).exclude(word="").order_by("-on", "-recorded_at")

    def whole(self) -> Self:
        """With everything that putting one right needs."""
        return self.select_related(
            "stay__rung__drill", "stay__prescription__ladder", "stay__prescription__player__club"
        ).prefetch_related("sets")

    def said_twice(self, club: "Club", since: date) -> Self:
        """Those of a block and a day that two phones said, and that no coach has looked at."""
        by_players = self.of_club(club).filter(on__gte=since, recorded_by=None, both_real=False)
        by_players = by_players.exclude(device="")
        other = by_players.filter(stay=OuterRef("stay"), on=OuterRef("on"), tired=OuterRef("tired"))
        twice = by_players.filter(Exists(other.exclude(device=OuterRef("device"))))
        return twice.whole().order_by("on", "stay", "recorded_at")

    def of_routine(self, given: "PlayerRoutine", on: date) -> Self:
        """What was done of a player's routine on a day, in order."""
        rows = self.filter(stay__prescription__player_routine=given, on=on)
        return rows.order_by("recorded_at")

    def for_table(self, club: "Club", player: int | None, squad: int | None) -> Self:
        """Everything of a club, a player or a squad, with its sets, oldest first."""
        rows = self.of_club(club)
        if player is not None:
            rows = rows.filter(stay__prescription__player=player)
        if squad is not None:
            rows = rows.filter(stay__prescription__player__squad=squad)
        return rows.whole().order_by("on", "recorded_at", "pk")

    def for_door(
        self, club: "Club", before: datetime, after: "tuple[datetime, UUID] | None"
    ) -> Self:
        """Those of a club that were stored before a moment, in that order, after a place in it."""
        rows = self.of_club(club).filter(recorded_at__lt=before)
        if after is not None:
            at, pk = after
            rows = rows.filter(Q(recorded_at__gt=at) | Q(recorded_at=at, pk__gt=pk))
        return rows.whole().order_by("recorded_at", "pk")

    def counted(self) -> Self:
        """Those that count for their stay: no rechecks."""
        return self.filter(recheck=False)

    def with_sets(self) -> Self:
        """With their sets at hand."""
        return self.prefetch_related("sets")

    def seen_at_club(self, on: date) -> Self:
        """Those of a day that a coach, a helper or a device saw, with all that shows them."""
        rows = self.filter(on=on).filter(Q(hall=True) | Q(observer__in=("coach", "device")))
        ties = ("stay__prescription__player", "stay__prescription__ladder", "stay__rung__drill")
        return (
            rows.select_related(*ties)
            .prefetch_related("sets", "stay__judged", "stay__prescription__ladder__rungs__drill")
            .order_by("stay", "recorded_at")
        )

    def of_stays(self, stays: "Iterable[Stay]") -> Self:
        """Those of some stays."""
        return self.filter(stay__in=[stay.pk for stay in stays])

    def latest_of_each(self, most: int) -> list[Any]:
        """So many at most of each stay, the oldest of them first, with their sets at hand."""
        nth = Window(RowNumber(), partition_by="stay", order_by=["-on", "-recorded_at"])
        rows = self.annotate(nth=nth).filter(nth__lte=most)
        return list(rows.order_by("stay", "on", "recorded_at").with_sets())

    def since(self, day: date) -> Self:
        """Those on a day or later."""
        return self.filter(on__gte=day)

    def of_players(self, players: "Sequence[Player]") -> Self:
        """Those of some players."""
        return self.filter(stay__prescription__player__in=[player.pk for player in players])

    def days_only(self) -> Self:
        """Without what was done: who, on which ladder, when, tired or fresh."""
        ties = ("stay__prescription__player_id",)
        return self.select_related("stay__prescription").only("on", "tired", *ties)


class SetQuerySet(ClubQuerySet):
    """Sets."""

    to_squad = "session__stay__prescription__player__squad"

    def of_day(self, session: "Session") -> Self:
        """Those of all sessions of a session's day that are judged with it, session by session,
        each at hand.
        """
        rows = self.filter(
            session__stay=session.stay_id, session__on=session.on, session__recheck=session.recheck
        )
        rows = rows.select_related("session")
        return rows.order_by("session__recorded_at", "session", "order")

    def of_player(self, player: "Player") -> Self:
        """A player's."""
        return self.filter(session__stay__prescription__player=player)

    def since(self, day: date) -> Self:
        """Those on a day or later."""
        return self.filter(session__on__gte=day)

    def until(self, day: date) -> Self:
        """Those up to a day."""
        return self.filter(session__on__lte=day)

    def fed_by(self, player: "Player") -> Self:
        """What others did of a player's feeds: who fed is known by name."""
        return self.filter(club=player.club_id, feeder=player.name)

    def feeds(self) -> list[tuple[str, int, int, int]]:
        """(Drill, attempts, bad feeds, good ones) of sets whose good ones were counted."""
        counted = self.exclude(feeder="").filter(attempts__isnull=False, makes__isnull=False)
        drill = "session__stay__rung__drill__title"
        return list(counted.order_by(drill).values_list(drill, "attempts", "voids", "makes"))

    def summed_by(self, one: str, other: str) -> list[tuple[Any, Any, date, int, int]]:
        """(Value of one column, value of the other, last day, attempts, makes)."""
        return list(self.values_list(one, other).annotate(**IN_GOOD_ONES).order_by())

    def at_tempo(self, stays: "Iterable[Stay]") -> Self:
        """The sets of some stays that were done at a told tempo, as asked and oldest first."""
        keys = [stay.pk for stay in stays]
        rows = self.filter(session__stay__in=keys, session__recheck=False, tempo__isnull=False)
        return rows.exclude(eased=True).order_by("session__on", "session__recorded_at", "order")


class JudgedDayQuerySet(ClubQuerySet):
    """Judged days."""

    to_squad = "stay__prescription__player__squad"

    def full_as_asked(self) -> Self:
        """Whole days that were done as asked, oldest first: neither easier, nor to come back."""
        rows = self.filter(recheck=False, eased=False).exclude(verdict="short")
        return rows.order_by("on")

    def fed(self, stays: "Iterable[Stay]") -> list[tuple[int, date, bool, str, str | None]]:
        """(Stay, day, whether the target was met, verdict, the gentler feed it was done with) of
        whole days, oldest first.
        """
        from django.apps import apps

        of_day = Q(session__stay=OuterRef("stay"), session__on=OuterRef("on"))
        sets = apps.get_model("practice", "SetRow").objects.filter(of_day, ~Q(feed=""))
        last = sets.order_by("-session__recorded_at", "-order").values("feed")[:1]
        gentler = Case(When(eased=True, then=Subquery(last)), default=Value(""))
        rows = self.filter(stay__in=[stay.pk for stay in stays], recheck=False)
        whole = rows.exclude(verdict="short").order_by("on").annotate(feed=gentler)
        return list(whole.values_list("stay_id", "on", "met", "verdict", "feed"))

    def since(self, day: date) -> Self:
        """Those on a day or later."""
        return self.filter(on__gte=day)

    def of_player(self, player: "Player") -> Self:
        """A player's."""
        return self.filter(stay__prescription__player=player)

    def before(self, day: date) -> Self:
        """Those before a day."""
        return self.filter(on__lt=day)

    def full_on(self, ladder: "Ladder") -> Self:
        """Whole days on a ladder, oldest first, those of tired work alone left out: what the
        learning of a club is taken from.
        """
        from django.apps import apps

        fresh = apps.get_model("practice", "Session").objects.filter(
            stay=OuterRef("stay"), on=OuterRef("on"), recheck=False, tired=False
        )
        rows = self.filter(stay__prescription__ladder=ladder, recheck=False)
        return rows.exclude(verdict="short").filter(Exists(fresh)).order_by("on", "pk")

    def with_rung(self) -> Self:
        """Each with its rung, terms and player at hand, and little else."""
        ties = ("stay__rung__position", "stay__prescription__player_id")
        rows = self.select_related("stay__rung", "stay__prescription")
        judged = ("on", "eased", "verdict", "score", "lanes", "sets", "stay_id", "stay__terms")
        return rows.only(*judged, *ties)

    def by_player(self) -> Counter[int]:
        """Player -> how many."""
        rows = self.order_by().values_list("stay__prescription__player")
        return Counter(dict(rows.annotate(Count("pk"))))

    def of_players(self, players: "Sequence[Player]") -> Self:
        """Those of where some players stand now, no rechecks."""
        ids = [player.pk for player in players]
        return self.filter(
            stay__prescription__player__in=ids, stay__left__isnull=True, recheck=False
        )

    def per_prescription(self) -> dict[int, int]:
        """Prescription id -> on how many of these days anything was done there."""
        rows = self.order_by().values_list("stay__prescription")
        return dict(rows.annotate(Count("on", distinct=True)))


class StopQuerySet(ClubQuerySet):
    """Stops."""

    to_squad = "player__squad"
    hides_aside = True

    def open(self) -> Self:
        """Those that nobody has ended."""
        return self.filter(ended_on__isnull=True)

    def begun_among(self, players: "Sequence[int]") -> dict[int, datetime]:
        """Player -> when the first of its reports was told."""
        rows = self.filter(player__in=players).order_by()
        return dict(rows.values_list("player").annotate(Min("reports__at")))

    def of_player(self, player: "Player") -> Self:
        """A player's."""
        return self.filter(player=player)

    def ended(self) -> Self:
        """Those that a coach has ended."""
        return self.filter(ended_on__isnull=False)

    def with_people(self) -> Self:
        """With the player and who ended it at hand."""
        return self.select_related("player", "ended_by")


class LearntQuerySet(ClubQuerySet):
    """What the learning model knows."""

    to_squad = ""

    def of_ladder(self, ladder: "Ladder") -> Self:
        """Of everybody on a ladder."""
        return self.filter(prescription__ladder=ladder)
