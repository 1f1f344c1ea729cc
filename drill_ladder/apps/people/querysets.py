"""Questions about people."""

from typing import Any

from django.db import models

from drill_ladder.apps.people.secrets import is_signed, parts_of


class ClubQuerySet(models.QuerySet):
    """Rows that carry a club."""

    def of_club(self, club: Any) -> Any:
        """Only this club's."""
        return self.filter(club=club)


class PlayerQuerySet(ClubQuerySet):
    """Players."""

    def with_days(self) -> Any:
        """With the days on which they have time."""
        return self.prefetch_related("days")

    def on_ladders(self, squad: int | None = None) -> Any:
        """Those who are on a ladder now, of everybody or of one squad."""
        found = self.filter(prescriptions__status="active").distinct()
        return found if squad is None else found.filter(squad_id=squad)

    def for_weeks(self) -> Any:
        """By squad and name, with squad and days at hand."""
        return self.with_days().select_related("squad").order_by("squad__name", "name")

    def resting(self) -> Any:
        """Those with an open stop."""
        return self.filter(stops__isnull=False, stops__ended_on__isnull=True).distinct()


class SecretLinkQuerySet(ClubQuerySet):
    """Secret links."""

    def of_secret(self, token: str, opens: str) -> Any:
        """The link that a secret was made for, open or not, of this or an earlier version; none for a wrong secret."""
        parts = parts_of(token)
        if parts is None or not is_signed(token, opens):
            return self.none()
        return self.filter(pk=parts[0], opens=opens).select_related("player__club")

    def opened_by(self, token: str, opens: str) -> Any:
        """The open link whose present secret this is."""
        parts = parts_of(token)
        version = parts[1] if parts else 0
        return self.of_secret(token, opens).filter(version=version, closed_at__isnull=True)
