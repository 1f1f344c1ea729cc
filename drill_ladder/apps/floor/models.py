"""What is done in the hall with a group."""

from django.db import models
from django.db.models import Q

from drill_ladder.apps.floor.querysets import GroupQuerySet
from drill_ladder.apps.people.models import Club
from drill_ladder.apps.stored import stored
from drill_ladder.formats.documents import SLOTS, STATIONS


class GroupSession(models.Model):
    """Stations for a group. players: their names now; past: the slots that were run before the
    players changed, by the players' names.
    """

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    title = models.CharField(max_length=120)
    on = models.DateField()
    players = models.JSONField(default=list)
    stations = stored(STATIONS, default=list)
    slot_s = models.PositiveIntegerField()
    change_s = models.PositiveIntegerField(default=0)
    slots = models.PositiveSmallIntegerField()
    past = stored(SLOTS, default=list)

    objects = GroupQuerySet.as_manager()

    class Meta:
        ordering = ["-on", "-id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(slot_s__gte=10, slot_s__lte=7200), name="slot_of_some_length"
            ),
            models.CheckConstraint(condition=Q(slots__gte=1), name="slots_from_one"),
        ]

    def __str__(self) -> str:
        return self.title
