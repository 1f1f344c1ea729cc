"""Questions about people."""

from collections.abc import Iterable
from datetime import date
from typing import TYPE_CHECKING, Self

from django.apps import apps
from django.contrib.postgres.expressions import ArraySubquery
from django.db import models
from django.db.models import Exists, F, OuterRef, Q
from django.db.models.functions import JSONObject

from drill_ladder.apps.people.secrets import is_signed, parts_of

if TYPE_CHECKING:
    from drill_ladder.apps.people.models import Club, Player


MOST_NOTES = 6


class ClubQuerySet(models.QuerySet):
    """Rows that carry a club."""

    def of_club(self, club: "Club") -> Self:
        """Only this club's."""
        return self.filter(club=club)

    def only_row(self, pk: int) -> Self:
        """That one alone."""
        return self.filter(pk=pk)


class SquadQuerySet(ClubQuerySet):
    """Squads."""

    def with_players(self) -> Self:
        """With their players at hand."""
        return self.prefetch_related("players")


class PlayerQuerySet(ClubQuerySet):
    """Players."""

    def of_squad(self, squad: int | None) -> Self:
        """Those of a squad."""
        return self.filter(squad=squad)

    def by_name(self) -> Self:
        """In the order of their names."""
        return self.order_by("name", "pk")

    def with_squad(self) -> Self:
        """With their squad at hand."""
        return self.select_related("squad")

    def named_like(self, part: str) -> Self:
        """Those whose name holds these letters; everybody without any."""
        return self.filter(name__icontains=part) if part else self

    def with_skill_names(self) -> Self:
        """With the names of their club's skills: `skill_names`, a list."""
        skills = apps.get_model("library", "Skill").objects.filter(club=OuterRef("club"))
        return self.annotate(skill_names=ArraySubquery(skills.order_by("name").values("name")))

    def with_latest_notes(self) -> Self:
        """With the latest notes of each: `note_rows`, a list of text, on and by."""
        notes = apps.get_model("people", "PlayerNote").objects.filter(player=OuterRef("pk"))
        told = JSONObject(text="text", on="on", by="by__name")
        rows = notes.order_by("-on", "-id").values(told=told)[:MOST_NOTES]
        return self.annotate(note_rows=ArraySubquery(rows))

    def among(self, players: "Iterable[Player]") -> Self:
        """Some of them."""
        return self.filter(pk__in=[player.pk for player in players])

    def with_days(self) -> Self:
        """With the days on which they have time."""
        return self.prefetch_related("days")

    def on_ladders(self, squad: int | None = None) -> Self:
        """Those who are on a ladder now, of everybody or of one squad."""
        active = self.filter(prescriptions__status="active").distinct()
        return active if squad is None else active.filter(squad_id=squad)

    def on_a_ladder(self) -> Self:
        """Those of whom something is asked now."""
        asked = apps.get_model("prescriptions", "Prescription").objects.filter(status="active")
        return self.filter(Exists(asked.filter(player=OuterRef("pk"))))

    def for_weeks(self) -> Self:
        """By squad and name, with squad and days at hand."""
        return self.with_days().with_squad().order_by("squad__name", "name")

    def not_seen_since(self, day: date) -> Self:
        """Those whom no coach and no device has seen from a day on, the longest first."""
        rows = self.filter(Q(seen_on__isnull=True) | Q(seen_on__lt=day))
        return rows.order_by(F("seen_on").asc(nulls_first=True), "name")

    def resting(self) -> Self:
        """Those with an open stop."""
        return self.filter(stops__isnull=False, stops__ended_on__isnull=True).distinct()


class PlayerNoteQuerySet(ClubQuerySet):
    """Notes about players."""

    def skips_of(self, player: "Player", since: date) -> list[str]:
        """The words of what a player left out on the card since a day."""
        mine = self.filter(player=player, on__gte=since, by=None, text__startswith="Skipped “")
        return list(mine.values_list("text", flat=True))


class SecretLinkQuerySet(ClubQuerySet):
    """Secret links."""

    def of_secret(self, token: str, opens: str) -> Self:
        """The link that a secret was made for, open or not, of this or an earlier version; none for
        a wrong secret.
        """
        parts = parts_of(token)
        if parts is None or not is_signed(token, opens):
            return self.none()
        return self.filter(pk=parts[0], opens=opens).select_related("player__club")

    def opened_by(self, token: str, opens: str) -> Self:
        """The open link whose present secret this is."""
        parts = parts_of(token)
        version = parts[1] if parts else 0
        return self.of_secret(token, opens).filter(version=version, closed_at__isnull=True)
