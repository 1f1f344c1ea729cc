"""Who belongs to a club: an assistant's squads, invitations, the code that founds a club."""

from collections.abc import Mapping
from datetime import datetime

from django.db import models
from django.db.models import Q

from drill_ladder.apps.people.querysets import ClubQuerySet
from drill_ladder.apps.people.secrets import make_token
from drill_ladder.apps.personal import Personal

INVITATION = "invitation"  # what its secret opens


class SquadDuty(models.Model):
    """A squad that a member looks after. An assistant who is not there for every squad sees these
    alone.
    """

    personal = Personal()

    club = models.ForeignKey("people.Club", on_delete=models.CASCADE, related_name="+")
    member = models.ForeignKey("people.Membership", on_delete=models.CASCADE, related_name="duties")
    squad = models.ForeignKey("people.Squad", on_delete=models.CASCADE, related_name="duties")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["member", "squad"], name="a_duty_once"),
        ]

    def __str__(self) -> str:
        return f"{self.member}: {self.squad}"


class InvitationQuerySet(ClubQuerySet):
    """Invitations."""

    def open_at(self, now: datetime) -> "InvitationQuerySet":
        """Those that still let somebody in."""
        return self.filter(used_at=None, revoked_at=None, expires_at__gt=now)

    def unanswered(self) -> "InvitationQuerySet":
        """Those that nobody took up and nobody took back, also where their time is over."""
        return self.filter(used_at=None, revoked_at=None)


class Invitation(models.Model):
    """Somebody may become a member. squads: ids, for an assistant; every_squad: all of them.
    Its secret is never stored: see secrets.py.
    """

    personal = Personal(plain=("email", "name", "role", "squads"))

    club = models.ForeignKey("people.Club", on_delete=models.CASCADE, related_name="invitations")
    email = models.EmailField()
    name = models.CharField(max_length=120, blank=True)
    role = models.CharField(max_length=12)
    every_squad = models.BooleanField(default=True)
    squads = models.JSONField(default=list, blank=True)
    made_by = models.ForeignKey(
        "people.User", null=True, on_delete=models.SET_NULL, related_name="+"
    )
    made_at = models.DateTimeField(auto_now_add=True)
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True, blank=True)
    revoked_at = models.DateTimeField(null=True, blank=True)

    objects = InvitationQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at", "-id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(role__in=["assistant", "coach", "owner"]), name="invited_role_known"
            )
        ]

    def __str__(self) -> str:
        return self.name or self.email

    def given_words(self, names: Mapping[int, str]) -> str:
        """What it gives. names: of the club's squads by their ids."""
        squads = ", ".join(names[pk] for pk in self.squads if pk in names)
        if self.role != "assistant":
            return self.role
        return f"{self.role}, {'all squads' if self.every_squad else squads or 'no squad'}"

    @property
    def token(self) -> str:
        """The secret in its address."""
        return make_token(INVITATION, self.pk, 1, self.email)


class FoundingCode(models.Model):
    """A code from the command line that proves who may found a club. digest: of the code."""

    personal = Personal(secret=("digest",))

    digest = models.CharField(max_length=64, unique=True)
    made_at = models.DateTimeField(auto_now_add=True)
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True, blank=True)

    def __str__(self) -> str:
        return f"code of {self.made_at:%-d %B %Y}"
