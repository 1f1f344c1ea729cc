"""Routines: parts in a fixed order, each on a ladder of its own, with inserts between them."""

from django.db import models
from django.db.models import Q

from drill_ladder.apps.library.querysets import RoutinePartQuerySet, RoutineQuerySet
from drill_ladder.apps.people.models import Club
from drill_ladder.apps.personal import Personal


class Routine(models.Model):
    """Many short parts as one block. change_s: seconds between one part and the next.

    insert_of, insert_reps, insert_s: a few scored attempts on one of its ladders, after the parts
    that say so; insert_s: seconds of one of them. revision goes up with every change.
    """

    personal = Personal(free=("title", "purpose"))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="routines")
    title = models.CharField(max_length=120)
    purpose = models.CharField(max_length=300, blank=True)
    change_s = models.FloatField(default=20)
    insert_of = models.ForeignKey(
        "library.Ladder", null=True, blank=True, on_delete=models.PROTECT, related_name="+"
    )
    insert_reps = models.PositiveSmallIntegerField(null=True, blank=True)
    insert_s = models.FloatField(null=True, blank=True)
    revision = models.PositiveIntegerField(default=1)
    archived_on = models.DateField(null=True, blank=True)

    objects = RoutineQuerySet.as_manager()

    class Meta:
        ordering = ["title"]
        constraints = [
            models.UniqueConstraint(fields=["club", "title"], name="routine_title_once_a_club"),
            models.CheckConstraint(
                condition=Q(insert_of__isnull=True)
                | Q(insert_reps__gte=1, insert_s__gt=0, insert_s__isnull=False),
                name="insert_has_attempts_and_seconds",
            ),
        ]

    def __str__(self) -> str:
        return self.title


class RoutinePart(models.Model):
    """One part. sets: other than its rung's, None for those; keep: never left out; insert_after:
    whether the insert follows it; together: judged in the same repetitions as the part before it.
    """

    personal = Personal()

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    routine = models.ForeignKey(Routine, on_delete=models.CASCADE, related_name="parts")
    ladder = models.ForeignKey(
        "library.Ladder", on_delete=models.PROTECT, related_name="routine_parts"
    )
    position = models.PositiveSmallIntegerField()
    sets = models.PositiveSmallIntegerField(null=True, blank=True)
    keep = models.BooleanField(default=False)
    insert_after = models.BooleanField(default=False)
    together = models.BooleanField(default=False)

    objects = RoutinePartQuerySet.as_manager()

    class Meta:
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(
                fields=["routine", "position"],
                name="routine_position_once",
                deferrable=models.Deferrable.DEFERRED,
            ),
            models.UniqueConstraint(fields=["routine", "ladder"], name="a_ladder_once_a_routine"),
            models.CheckConstraint(
                condition=Q(sets__isnull=True) | Q(sets__gte=1), name="part_sets_from_one"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.position}. {self.ladder}"
