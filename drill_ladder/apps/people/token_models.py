"""Tokens by which a club's own tools and gates come in."""

from django.db import models
from django.db.models import Q
from django.utils import timezone

from drill_ladder.apps.people.querysets import TokenQuerySet
from drill_ladder.apps.personal import Personal


class Scope(models.TextChoices):
    """What a token opens: nothing that is not named."""

    PLAYERS = "players", "Read players, by number and initials"
    NAMES = "names", "See players’ names"
    LADDERS = "ladders", "Read ladders"
    STANDINGS = "standings", "Read who stands where, and their work"
    RESULTS = "results", "Read results"
    SESSIONS = "sessions", "Write sessions"
    GATE = "gate", "Send what a timing gate sees"


class AccessToken(models.Model):
    """A token. digest: of its secret, which is shown once and kept nowhere; start: its first
    letters, so that people can tell their tokens apart.
    """

    personal = Personal(free=("name",), plain=("start", "scopes"), secret=("digest",))

    club = models.ForeignKey("people.Club", on_delete=models.CASCADE, related_name="tokens")
    name = models.CharField(max_length=80)
    start = models.CharField(max_length=12)
    digest = models.CharField(max_length=64, unique=True)
    scopes = models.JSONField(default=list)
    made_by = models.ForeignKey("people.User", on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField(default=timezone.now)
    used_at = models.DateTimeField(null=True, blank=True)
    revoked_at = models.DateTimeField(null=True, blank=True)

    objects = TokenQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at", "-id"]
        constraints = [models.CheckConstraint(condition=~Q(digest=""), name="a_token_has_a_digest")]

    def __str__(self) -> str:
        return self.name

    def opens(self, scope: str) -> bool:
        """Whether it may do that."""
        return self.revoked_at is None and scope in self.scopes
