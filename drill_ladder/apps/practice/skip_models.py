"""What a player left out on the card, and why: the reason is a code, and words are made of it where
it is shown.
"""

from django.db import models

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.personal import Personal
from drill_ladder.apps.practice.querysets import SkipQuerySet
from drill_ladder.apps.prescriptions.models import Stay


class Why(models.TextChoices):
    """Something that hurts is a report, and never only a reason."""

    HARD = "hard", "too hard today"
    TIME = "time", "no time left"
    AWAY = "away", "ill or away"


class Skip(models.Model):
    """A block that was left out on a day; for one reason once."""

    personal = Personal("stay__prescription__player")

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    stay = models.ForeignKey(Stay, on_delete=models.CASCADE, related_name="skips")
    on = models.DateField()
    why = models.CharField(max_length=8, choices=Why)

    objects = SkipQuerySet.as_manager()

    class Meta:
        ordering = ["on", "id"]
        constraints = [
            models.UniqueConstraint(fields=["stay", "on", "why"], name="skipped_once_for_a_reason")
        ]

    def __str__(self) -> str:
        return f"{self.stay} left out on {self.on}: {self.get_why_display()}"
