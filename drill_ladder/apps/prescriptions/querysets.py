"""Questions about prescriptions."""

from collections.abc import Iterable, Sequence
from datetime import date
from typing import TYPE_CHECKING, Any, Self

from django.apps import apps
from django.contrib.postgres.expressions import ArraySubquery
from django.db.models import (
    Count,
    Exists,
    F,
    FloatField,
    Func,
    JSONField,
    OuterRef,
    Prefetch,
    Q,
    Subquery,
    Sum,
)
from django.db.models.functions import Cast, Coalesce

from drill_ladder.apps.people.querysets import ClubQuerySet

if TYPE_CHECKING:
    from drill_ladder.apps.library.models import Ladder
    from drill_ladder.apps.people.models import Player
    from drill_ladder.apps.prescriptions.models import PlayerRoutine, Prescription

CHECKED = Q(left__isnull=False, prescription__retention=True) & ~Q(prescription__status="ended")


def _cures() -> Subquery:
    """Fault -> cue of the drill of a stay's rung, as one document."""
    from django.apps import apps

    rows = apps.get_model("library", "Treatment").objects.exclude(cue="")
    same_drill = rows.filter(drill=OuterRef("rung__drill")).order_by()
    pair = Func(F("fault"), F("cue"), function="jsonb_object_agg", output_field=JSONField())
    return Subquery(same_drill.annotate(cures=pair).values("cures"))


class PrescriptionQuerySet(ClubQuerySet):
    """Players on ladders."""

    to_squad = "player__squad"
    hides_aside = True

    def active(self) -> Self:
        """Those being worked on."""
        return self.filter(status="active")

    def of_squad(self, squad: int | None) -> Self:
        """Those of a squad's players; nobody's without a squad."""
        return self.none() if squad is None else self.filter(player__squad=squad)

    def on_ladder(self, ladder: "Ladder") -> Self:
        """Those on a ladder."""
        return self.filter(ladder=ladder)

    def with_names(self) -> Self:
        """With player, ladder and routine at hand."""
        return self.select_related("player", "ladder", "player_routine__routine")

    def with_learning(self) -> Self:
        """With what the club's model knows of the player there, and how many rungs there are."""
        return self.select_related("learning").annotate(rung_count=Count("ladder__rungs"))

    def not_at_home(self) -> Self:
        """Those that may not be done at home any more, and that nobody has seen to."""
        return self.active().exclude(not_at_home="").with_names()

    def of_player(self, player: "Player") -> Self:
        """All of a player's, of now and of before."""
        return self.filter(player=player)

    def of_players(self, players: "Sequence[Player]") -> Self:
        """Those of some players."""
        return self.filter(player__in=[player.pk for player in players])

    def begun(self, day: date) -> Self:
        """Those that begin on a day or before."""
        return self.filter(started_on__lte=day)

    def not_resting(self) -> Self:
        """Without those of players with an open stop."""
        from django.apps import apps

        stops = apps.get_model("practice", "Stop").objects.open()
        return self.filter(~Exists(stops.filter(player=OuterRef("player"))))

    def with_glyph(self) -> Self:
        """With what a small drawing of the ladder shows: how many rungs, and where the player
        stands.
        """
        from django.apps import apps

        stays = apps.get_model("prescriptions", "Stay").objects.filter(left__isnull=True)
        stays = stays.select_related("rung").defer("terms")
        return (
            self.with_names()
            .prefetch_related(Prefetch("stays", queryset=stays, to_attr="current"))
            .annotate(rung_count=Count("ladder__rungs"))
        )

    def with_current(self) -> Self:
        """With names and the current stay at hand, its rung and terms: `current` is a list of one
        or none.
        """
        from django.apps import apps

        stays = apps.get_model("prescriptions", "Stay").objects.filter(left__isnull=True)
        now = Prefetch("stays", queryset=stays.select_related("rung"), to_attr="current")
        return self.with_names().prefetch_related(now).order_by("ladder__title")

    def with_climb(self, since: date | None = None) -> Self:
        """With every stay, its rung and its judged days at hand (those from a day on, and every
        check of a rung passed), and how many rungs the ladder has; the sets behind the days stay
        where they are.
        """
        from django.apps import apps

        days = apps.get_model("practice", "JudgedDay").objects.defer("sets", "beside")
        if since is not None:
            days = days.filter(Q(on__gte=since) | Q(on__gt=F("stay__left")))
        stays = apps.get_model("prescriptions", "Stay").objects.select_related(
            "rung__drill", "rung__ladder"
        )
        stays = stays.annotate(cures=_cures())
        stays = stays.prefetch_related(Prefetch("judged", queryset=days))
        climbed = self.with_names().prefetch_related(Prefetch("stays", queryset=stays))
        return climbed.annotate(rung_count=Count("ladder__rungs"))

    def with_standing(self) -> Self:
        """With ladder, rungs and the current stay at hand: `current` is a list of one or none."""
        from django.apps import apps  # the models of this app are made from this module

        stays = (
            apps.get_model("prescriptions", "Stay")
            .objects.filter(left__isnull=True)
            .select_related("rung__drill")
        )
        return self.with_names().prefetch_related(
            Prefetch("stays", queryset=stays, to_attr="current"), "ladder__rungs__drill"
        )


class StayQuerySet(ClubQuerySet):
    """Times on rungs."""

    to_squad = "prescription__player__squad"
    hides_aside = True

    def with_all(self) -> Self:
        """With what is needed to judge and to show them."""
        return self.select_related(
            "club",
            "prescription__ladder",
            "prescription__learning",
            "prescription__player__club",
            "prescription__player_routine__routine",
            "rung__drill",
            "rung__ladder",
        )

    def with_player_held(self) -> Self:
        """Held until the transaction's end, with their players: whoever judges a player holds that
        row.
        """
        held = self.select_for_update(of=("self", "prescription__player"))
        return held.select_related("prescription__player")

    def with_steps(self) -> Self:
        """With the ids of their ladders' rungs, from the bottom: what a decision asks of those."""
        rungs = apps.get_model("library.Rung")._default_manager
        steps = rungs.filter(ladder=OuterRef("prescription__ladder")).order_by("position")
        return self.annotate(steps=ArraySubquery(steps.values("pk")))

    def of_player(self, player: "Player") -> Self:
        """All of a player's, with what is needed to judge and to show them."""
        return self.filter(prescription__player=player).with_all()

    def of(self, prescription: "Prescription") -> Self:
        """Where a player stands now on one ladder: one or none."""
        return self.filter(prescription=prescription, left__isnull=True).with_all()

    def to_log(self) -> Self:
        """Where players stand now, and passed rungs that are checked again."""
        return self.filter(Q(left__isnull=True, prescription__status="active") | CHECKED)

    def of_routines(self, given: "Iterable[PlayerRoutine]") -> Self:
        """Where players stand now on the parts of some routines."""
        return self.current().with_all().filter(prescription__player_routine__in=list(given))

    def may_be_away(self) -> Self:
        """Where players stand now above the first rung, without those whose recheck is due."""
        rows = self.current().filter(recheck=False, rung__position__gt=1)
        rows = rows.filter(prescription__last_on__isnull=False)
        return rows.select_related("club", "prescription__learning", "rung")

    def with_sessions(self, unjudged: bool) -> Self:
        """Those on which anything was done; unjudged: of which no day is judged yet."""
        done = self.filter(sessions__isnull=False).distinct()
        return done.filter(judged__isnull=True) if unjudged else done

    def to_judge(self, pks: Sequence[int]) -> Self:
        """Some of them, with everything that judging their sessions needs."""
        rows = self.filter(pk__in=pks).select_related("rung__ladder", "rung__drill")
        return rows.prefetch_related("sessions__sets")

    def strained(self, players: Sequence[int], first: date, last: date) -> Iterable[Any]:
        """(Player, kinds of strain, prescription, day, repetitions) of what players did in some
        days.
        """
        rows = self.filter(
            prescription__player__in=players, sessions__on__gte=first, sessions__on__lte=last
        ).exclude(rung__drill__strain=[])
        attempts = Cast("sessions__sets__attempts", FloatField())
        each = Coalesce(attempts, "sessions__sets__count", 1.0)
        voids = Cast("sessions__sets__voids", FloatField())
        reps = Sum(each + voids, output_field=FloatField())
        related = ("rung__drill__strain", "prescription", "sessions__on")
        whose = "prescription__player"
        return rows.order_by().values_list(whose, *related).annotate(reps=reps)

    def players_of(self, pks: Iterable[int]) -> dict[int, int]:
        """Stay id -> whose it is, of some of them."""
        rows = self.filter(pk__in=pks).values_list("pk", "prescription__player")
        return dict(rows)

    def worked_on_among(self, pks: Iterable[int]) -> set[int]:
        """The ids among some of those on which anything was done."""
        return set(self.filter(pk__in=pks, sessions__isnull=False).values_list("pk", flat=True))

    def for_weeks(self, players: Sequence[int]) -> Self:
        """Where players stand now, with what planning needs, the most urgent first."""
        standing = self.current().filter(prescription__player__in=players).with_all()
        return standing.order_by("prescription__priority", "prescription__ladder__title", "id")

    def current(self) -> Self:
        """Where players stand now."""
        return self.filter(left__isnull=True, prescription__status="active")

    def standing_on(self, asked: Q) -> Self:
        """Where players stand now on some ladders, with every rung of these at hand."""
        rows = self.filter(asked, left__isnull=True)
        return rows.select_related("rung__drill", "prescription__ladder").prefetch_related(
            "prescription__ladder__rungs__drill"
        )

    def on_ladder(self, ladder: "Ladder") -> Self:
        """Those on a ladder, from its top, with what is needed to compare their terms."""
        standing = self.filter(prescription__ladder=ladder).with_all()
        return standing.order_by("-rung__position", "prescription__player__name")

    def of_work(self, axis: str, name: str) -> Self:
        """Those whose rung is done by a drill (axis: drill), or by one of a skill, by its name."""
        by = {"drill": "rung__drill__title", "skill": "rung__drill__skill__name"}[axis]
        return self.filter(**{by: name})

    def begun(self, today: date) -> Self:
        """Without those of ladders that begin later."""
        return self.filter(prescription__started_on__lte=today)

    def not_coached(self) -> Self:
        """Those that were not prescribed for the club alone."""
        return self.exclude(prescription__place="coached")

    def for_home(self) -> Self:
        """Those whose drill may be done at home at all."""
        return self.not_coached().exclude(rung__drill__caution="coached_only")


class PlayerRoutineQuerySet(ClubQuerySet):
    """Routines of players."""

    to_squad = "player__squad"
    hides_aside = True

    def going(self) -> Self:
        """Those that have not ended, with their parts at hand."""
        rows = self.filter(ended_on__isnull=True).with_names()
        return rows.prefetch_related("routine__parts__ladder")

    def with_names(self) -> Self:
        """With routine and player at hand."""
        return self.select_related("routine__insert_of", "player")

    def of_player(self, player: "Player") -> Self:
        """A player's."""
        return self.filter(player=player)

    def of_routine(self, routine: int) -> Self:
        """Everybody's of one routine."""
        return self.filter(routine=routine)


class FocusQuerySet(ClubQuerySet):
    """Skills that players should work on."""

    to_squad = "player__squad"

    def of_player(self, player: "Player") -> Self:
        """A player's, with the skill at hand."""
        return self.filter(player=player).select_related("skill")
