"""Reports: one page for a player and their family, written from the record, edited and published by
a coach.
"""

from django.conf import settings
from django.db import models

from drill_ladder.apps.card.querysets import ReportQuerySet
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.personal import Personal
from drill_ladder.apps.stored import stored
from drill_ladder.formats.documents import SECTIONS


class Report(models.Model):
    """A player from a day to another, in plain sentences as they were true then. greeting, remark:
    the coach's own words; published_at: empty while it is a draft, which the player does not see.
    """

    personal = Personal("player", gone=True, free=("greeting", "remark", "sections"), most=2_000)

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="reports")
    since = models.DateField()
    on = models.DateField()
    greeting = models.CharField(max_length=200, blank=True)
    remark = models.CharField(max_length=600, blank=True)
    sections = stored(SECTIONS, default=list, blank=True)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    published_at = models.DateTimeField(null=True, blank=True)

    objects = ReportQuerySet.as_manager()

    class Meta:
        ordering = ["-on", "-id"]
        constraints = [
            models.UniqueConstraint(fields=["player", "on"], name="one_report_a_player_and_day"),
        ]

    def __str__(self) -> str:
        return f"Report of {self.player}, {self.on}"
