"""Questions about mail."""

from datetime import datetime
from typing import TYPE_CHECKING, Self

from django.db.models import Q

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.people.querysets import ClubQuerySet

if TYPE_CHECKING:
    from drill_ladder.apps.practice.models import Stop


class MessageQuerySet(ClubQuerySet):
    """Messages."""

    def with_player(self) -> Self:
        """With whom they are about at hand."""
        return self.select_related("player")

    def of_fate(self, fate: str) -> Self:
        """Those of one fate; all of them without one."""
        return self.filter(fate=fate) if fate else self

    def of_kind_since(self, kind: str, at: datetime) -> Self:
        """Those of a kind since a moment, whatever became of them."""
        return self.filter(kind=kind, made_at__gte=at)

    def unsent(self) -> Self:
        """What the desk should know of: it did not arrive."""
        return self.filter(fate="failed")

    def waiting_since(self, before: datetime, now: datetime) -> Self:
        """What was written before a moment and still waits, though it is due now."""
        due = Q(due_at__isnull=True) | Q(due_at__lte=now)
        return self.filter(due, fate="waiting", made_at__lt=before).order_by("pk")

    def about_stop(self, stop: "Stop") -> Self:
        """Mails of a hurt's reports, the latest first."""
        return self.filter(key__startswith=f"hurt {stop.pk} ").order_by("-pk")

    def found(self, words: str) -> Self:
        """Those whose subject or receiver holds some words."""
        asked = Q(subject__icontains=words) | Q(to_email__icontains=words)
        return self.filter(asked | Q(to_name__icontains=words)) if words else self


class MailAddressQuerySet(ClubQuerySet):
    """Addresses that a club writes to."""

    def with_club(self) -> Self:
        """With the club at hand."""
        return self.select_related("club")

    def numbered(self, pk: int) -> Self:
        """The one of that number, whatever its club: who asks has shown a secret for it."""
        return self.with_club().filter(pk=pk)


class LocalMailQuerySet(ClubQuerySet):
    """The local mailbox."""

    def shown_to(self, club: Club) -> Self:
        """The club's; what belongs to no club (a forgotten password) where there is one club."""
        alone = not Club.objects.exclude(pk=club.pk).exists()
        return self.filter(Q(club=club) | Q(club=None)) if alone else self.of_club(club)
