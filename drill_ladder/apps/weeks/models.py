"""A player's week as it is planned, and as it was told."""

from collections.abc import Sequence
from datetime import date, datetime

from django.db import models
from django.db.models import Q
from django.utils import timezone

from drill_ladder.apps.people.models import PLACES, Club, Player
from drill_ladder.apps.personal import Personal
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.stored import stored
from drill_ladder.apps.weeks.querysets import BlockQuerySet, WeekQuerySet
from drill_ladder.core.planning import ToldBlock, ToldChange
from drill_ladder.core.work import Place
from drill_ladder.formats.documents import TOLD_BLOCKS, TOLD_CHANGES, UNPLACED, WEEKDAYS


class Week(models.Model):
    """A player's planned week. skipped: weekdays without drills; published: the blocks as they were
    told to the player, and told: what changed since. told_at: when a coach last told it
    (published_at also moves when the program tells a change). revision goes up with every
    publishing.
    unplaced: what found no place when the plan was last changed; unplaced_of: the sign of the plan
    and the demand that this was worked out for.
    """

    personal = Personal(
        "player",
        blank={"told": [], "unplaced": []},
        plain=("skipped", "published", "unplaced_of"),
    )

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="weeks", db_index=False)
    player = models.ForeignKey(
        Player, on_delete=models.CASCADE, related_name="weeks", db_index=False
    )
    monday = models.DateField()
    skipped = stored(WEEKDAYS, default=list, blank=True)
    revision = models.PositiveIntegerField(default=0)
    published_at = models.DateTimeField(null=True, blank=True)
    told_at = models.DateTimeField(null=True, blank=True)
    published = stored(TOLD_BLOCKS, default=list, blank=True)
    told = stored(TOLD_CHANGES, default=list, blank=True)
    unplaced = stored(UNPLACED, default=list, blank=True)
    unplaced_of = models.CharField(max_length=16, blank=True)

    objects = WeekQuerySet.as_manager()

    class Meta:
        ordering = ["monday"]
        indexes = [models.Index(fields=["club", "monday"])]
        constraints = [
            models.UniqueConstraint(fields=["player", "monday"], name="one_week_a_player"),
            models.CheckConstraint(
                condition=Q(monday__iso_week_day=1), name="a_week_begins_on_monday"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.player}, week of {self.monday}"

    def came_later(self, prescription: Prescription) -> bool:
        """Whether a ladder was prescribed after a coach told this week: it does not wait for the
        next publishing. One that the coach had in view has in this week what was told, and be it
        nothing.
        """
        moment = self.told_at or self.published_at
        if moment is None:
            return True
        if prescription.prescribed_at is not None:
            return prescription.prescribed_at > moment
        return prescription.started_on >= timezone.localdate(moment)

    def tell(
        self, published: tuple[ToldBlock, ...], lines: Sequence[str], on: date, at: datetime
    ) -> None:
        """The week as the player is told it from now on, and what changed (nothing: no lines)."""
        Week.objects.tell([(self, published, lines)], on, at)

    def set_told(
        self, published: tuple[ToldBlock, ...], lines: Sequence[str], on: date, at: datetime
    ) -> None:
        """As `tell`, stored by whoever tells."""
        if lines:
            self.told = (*self.told, ToldChange(on, tuple(lines)))
        self.published, self.published_at, self.revision = published, at, self.revision + 1


class PlannedBlock(models.Model):
    """A block on a day of a week. locked: put there by hand, planned around; way: the home version
    that is done, empty for the full drill; stay: the rung that it was planned on, which a day that
    is over keeps; sets, reps and bound: what a dose band came to, and which bound decided; tired:
    the second of a day, at its end.
    """

    personal = Personal("week__player", plain=("way", "bound"))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+", db_index=False)
    week = models.ForeignKey(Week, on_delete=models.CASCADE, related_name="blocks")
    prescription = models.ForeignKey(Prescription, on_delete=models.CASCADE, related_name="blocks")
    on = models.DateField()
    order = models.PositiveSmallIntegerField()
    minutes = models.PositiveSmallIntegerField()
    place = models.CharField(max_length=4, choices=PLACES)
    way = models.CharField(max_length=120, blank=True)
    stay = models.ForeignKey(
        Stay, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    sets = models.PositiveSmallIntegerField(null=True, blank=True)
    reps = models.PositiveIntegerField(null=True, blank=True)
    bound = models.CharField(max_length=12, blank=True)
    locked = models.BooleanField(default=False)
    tired = models.BooleanField(default=False)

    objects = BlockQuerySet.as_manager()

    class Meta:
        ordering = ["on", "order", "id"]
        indexes = [models.Index(fields=["club", "on"])]
        constraints = [
            models.CheckConstraint(condition=Q(place__in=list(Place)), name="block_place_known"),
            models.CheckConstraint(condition=Q(order__gte=1), name="block_order_from_one"),
        ]

    def __str__(self) -> str:
        return f"{self.prescription.block_title}, {self.minutes} min"
