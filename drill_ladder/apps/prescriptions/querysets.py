"""Questions about prescriptions."""

from datetime import date
from typing import Any

from django.db.models import Prefetch, Q

from drill_ladder.apps.people.querysets import ClubQuerySet


class PrescriptionQuerySet(ClubQuerySet):
    """Players on ladders."""

    def active(self) -> Any:
        """Those being worked on."""
        return self.filter(status="active")

    def not_at_home(self) -> Any:
        """Those that may not be done at home any more, and that nobody has seen to."""
        return self.active().exclude(not_at_home="").select_related("player", "ladder")

    def with_standing(self) -> Any:
        """With ladder, rungs and the current stay at hand: `current` is a list of one or none."""
        from django.apps import apps

        stays = apps.get_model("prescriptions", "Stay").objects.filter(left__isnull=True).select_related("rung__drill")
        return self.select_related("ladder", "player").prefetch_related(
            Prefetch("stays", queryset=stays, to_attr="current"), "ladder__rungs__drill"
        )


class StayQuerySet(ClubQuerySet):
    """Times on rungs."""

    def of_player(self, player: Any) -> Any:
        """All of a player's, with what is needed to judge and to show them."""
        return self.filter(prescription__player=player).select_related(
            "prescription__ladder", "prescription__player", "rung__drill", "rung__ladder"
        )

    def to_log(self) -> Any:
        """Where players stand now, and passed rungs that are checked again."""
        checked = Q(left__isnull=False, prescription__retention=True) & ~Q(prescription__status="ended")
        return self.filter(Q(left__isnull=True, prescription__status="active") | checked)

    def worked_on_among(self, pks: Any) -> set[int]:
        """The ids among some of those on which anything was done."""
        return set(self.filter(pk__in=pks, sessions__isnull=False).values_list("pk", flat=True))

    def for_weeks(self, players: Any) -> Any:
        """Where players stand now, with what planning needs, the most urgent first."""
        found = self.current().filter(prescription__player__in=players)
        found = found.select_related("prescription__ladder", "prescription__player", "rung__drill", "rung__ladder")
        return found.order_by("prescription__priority", "prescription__ladder__title", "id")

    def current(self) -> Any:
        """Where players stand now."""
        return self.filter(left__isnull=True, prescription__status="active")

    def on_ladder(self, ladder: Any) -> Any:
        """Those on a ladder, from its top, with what is needed to compare their terms."""
        found = self.filter(prescription__ladder=ladder)
        found = found.select_related("prescription__player", "rung__drill", "rung__ladder")
        return found.order_by("-rung__position", "prescription__player__name")

    def begun(self, today: date) -> Any:
        """Without those of ladders that begin later."""
        return self.filter(prescription__started_on__lte=today)

    def for_home(self) -> Any:
        """Those whose drill may be done at home at all."""
        return self.exclude(prescription__place="coached").exclude(rung__drill__caution="coached_only")
