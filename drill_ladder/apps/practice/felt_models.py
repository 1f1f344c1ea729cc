"""How at ease players said they were."""

from django.db import models
from django.db.models import Q

from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.personal import Personal
from drill_ladder.apps.practice.querysets import FeltQuerySet
from drill_ladder.apps.prescriptions.models import Stay


class Felt(models.Model):
    """What a player said on a day, 1 (not at ease) to 5 (at home). stay: on which rung they were
    asked; None: with the ball, whatever they did. It never gates a climb.
    """

    personal = Personal("player")

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="+", db_index=False)
    stay = models.ForeignKey(
        Stay, null=True, blank=True, on_delete=models.CASCADE, related_name="+"
    )
    on = models.DateField()
    level = models.PositiveSmallIntegerField()

    objects = FeltQuerySet.as_manager()

    class Meta:
        ordering = ["on", "id"]
        constraints = [
            models.UniqueConstraint(
                fields=["player", "on", "stay"], name="felt_once_a_day", nulls_distinct=False
            ),
            models.CheckConstraint(condition=Q(level__range=(1, 5)), name="felt_from_1_to_5"),
        ]

    def __str__(self) -> str:
        return f"{self.player}: {self.level} of 5"
