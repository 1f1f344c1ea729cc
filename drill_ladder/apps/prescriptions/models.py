"""Who is on which ladder, and where they stood when."""

from collections.abc import Iterable
from typing import Any

from django.db import models
from django.db.models import F, Q

from drill_ladder.apps.library.models import Ladder, Routine, Rung, Skill
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.personal import ERASED, Personal
from drill_ladder.apps.prescriptions.querysets import (
    FocusQuerySet,
    PlayerRoutineQuerySet,
    PrescriptionQuerySet,
    StayQuerySet,
)
from drill_ladder.apps.stored import stored
from drill_ladder.formats.documents import FIRST_LANES, OVERRIDES, PROBES, TERMS
from drill_ladder.formats.rung_fields import INTENTS


class Setting(models.TextChoices):
    """Where the work is done."""

    HOME = "home", "Home"
    COACHED = "coached", "Coached"
    BOTH = "both", "Home and coached"


class Status(models.TextChoices):
    """Whether the prescription is being worked on."""

    ACTIVE = "active", "Active"
    FINISHED = "finished", "Finished"
    ENDED = "ended", "Ended"


class PlayerRoutine(models.Model):
    """A routine that a player has: its parts are prescriptions, planned and shown as one block."""

    personal = Personal("player")

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="routines")
    routine = models.ForeignKey(Routine, on_delete=models.PROTECT, related_name="given")
    started_on = models.DateField()
    ended_on = models.DateField(null=True, blank=True)

    objects = PlayerRoutineQuerySet.as_manager()

    class Meta:
        ordering = ["-started_on", "-id"]
        constraints = [
            models.UniqueConstraint(
                fields=["player", "routine"],
                condition=Q(ended_on__isnull=True),
                name="a_routine_once_a_player",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.routine} for {self.player}"


class Prescription(models.Model):
    """A player on a ladder. per_week: wanted sessions a week; priority 1 is the highest.

    smaller: at home at any size that there is room for; tired_too: on each of its days once fresh
    and once more, tired, at the end. intent: empty for the rungs' own. overrides: what is different
    for this player; first_lanes: lanes to begin with, each with the day on which it was done last
    before that. retention: whether finished rungs are checked again. not_at_home: why it may not be
    done at home any more, until a coach has seen to it; empty where it may. last_on: the last day
    of work anywhere on the ladder. prescribed_at: the moment, empty where only the day is known.
    player_routine: the routine in which it is a part, and part: which one; made_for_it: it came
    with the routine, and ends with it.
    """

    personal = Personal("player", blank={"not_at_home": ERASED}, plain=("overrides", "first_lanes"))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="prescriptions")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="prescriptions")
    ladder = models.ForeignKey(Ladder, on_delete=models.PROTECT, related_name="prescriptions")
    per_week = models.PositiveSmallIntegerField(default=2)
    place = models.CharField(max_length=8, choices=Setting, default=Setting.BOTH)
    status = models.CharField(max_length=8, choices=Status, default=Status.ACTIVE)
    started_on = models.DateField()
    ended_on = models.DateField(null=True, blank=True)
    priority = models.PositiveSmallIntegerField(default=2)
    intent = models.CharField(max_length=10, choices=INTENTS, blank=True)
    rest_day_between = models.BooleanField(default=False)
    smaller = models.BooleanField(default=False)
    tired_too = models.BooleanField(default=False)
    review_on = models.DateField(null=True, blank=True)
    retention = models.BooleanField(default=True)
    overrides = stored(OVERRIDES, default=dict, blank=True)
    first_lanes = stored(FIRST_LANES, default=list, blank=True)
    not_at_home = models.CharField(max_length=300, blank=True)
    last_on = models.DateField(null=True, blank=True, editable=False)
    prescribed_at = models.DateTimeField(null=True, blank=True, editable=False)
    player_routine = models.ForeignKey(
        PlayerRoutine,
        null=True,
        blank=True,
        on_delete=models.SET_NULL,
        related_name="prescriptions",
    )
    part = models.PositiveSmallIntegerField(null=True, blank=True)
    made_for_it = models.BooleanField(default=False)

    objects = PrescriptionQuerySet.as_manager()

    # filled by with_standing() and with_glyph(): where the player stands now, one or none
    current: list["Stay"]
    rung_count: int  # filled by with_glyph()

    class Meta:
        ordering = ["player__name", "ladder__title"]
        constraints = [
            models.UniqueConstraint(
                fields=["player", "ladder"],
                condition=Q(status="active"),
                name="one_active_prescription_a_ladder",
            ),
            models.CheckConstraint(
                condition=Q(per_week__gte=1, per_week__lte=14), name="per_week_1_to_14"
            ),
            models.CheckConstraint(
                condition=Q(place__in=Setting.values), name="prescription_place_known"
            ),
            models.CheckConstraint(
                condition=Q(priority__gte=1, priority__lte=3), name="priority_1_to_3"
            ),
            models.CheckConstraint(
                condition=Q(status__in=Status.values), name="prescription_status_known"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.player} on {self.ladder}"

    @property
    def block_title(self) -> str:
        """What its block is called: the routine, where it is a part of one."""
        return str(self.player_routine.routine if self.player_routine else self.ladder)

    @property
    def is_finished(self) -> bool:
        """Whether the top rung was done."""
        return self.status == Status.FINISHED


class Arrival(models.TextChoices):
    """How a player came to a rung."""

    PLACED = "placed", "Placed"
    CLIMB = "climb", "Climbed"
    SKIP = "skip", "Skipped"
    STEP_DOWN = "step_down", "Stepped down"
    NEW_TERMS = "new_terms", "New terms"


class Stay(models.Model):
    """A player's time on one rung. `terms` holds the rung and rule as they were on arrival: the
    results are judged by them for ever, whatever becomes of the ladder.
    """

    personal = Personal("prescription__player", plain=("terms",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    prescription = models.ForeignKey(Prescription, on_delete=models.CASCADE, related_name="stays")
    rung = models.ForeignKey(Rung, on_delete=models.PROTECT, related_name="stays")
    terms = stored(TERMS)
    arrived = models.DateField()
    left = models.DateField(null=True, blank=True)
    how = models.CharField(max_length=10, choices=Arrival, default=Arrival.PLACED)
    eased = models.BooleanField(default=False)
    recheck = models.BooleanField(default=False)

    objects = StayQuerySet.as_manager()

    class Meta:
        ordering = ["arrived", "id"]
        constraints = [
            models.UniqueConstraint(
                fields=["prescription"],
                condition=Q(left__isnull=True),
                name="one_current_rung_a_prescription",
            ),
            models.CheckConstraint(
                condition=Q(left__isnull=True) | Q(left__gte=F("arrived")),
                name="left_after_arriving",
            ),
            models.CheckConstraint(condition=Q(how__in=Arrival.values), name="arrival_known"),
        ]

    @property
    def worked_on(self) -> Rung:
        """The rung to work on: while a recheck is due the one below, with its own drill and its own
        caution.
        """
        return self.rung_for(self.recheck)

    def rung_for(self, recheck: bool) -> Rung:
        """The rung of a session: for a recheck the one below, if there is one."""
        if not recheck:
            return self.rung
        below = self.rung.position - 1
        known: Any = getattr(self.prescription.ladder, "_prefetched_objects_cache", {}).get("rungs")
        if known is not None:
            return next((rung for rung in known if rung.position == below), self.rung)
        rungs = Rung.objects.filter(ladder=self.rung.ladder_id, position=below)
        return rungs.select_related("drill").first() or self.rung

    def __str__(self) -> str:
        return f"{self.prescription}, {self.rung}"


class Source(models.TextChoices):
    """How a coach came to want something."""

    OBSERVATION = "observation", "Seen"
    TEST = "test", "A test"
    WISH = "wish", "The player's wish"


class Focus(models.Model):
    """A skill that a player should work on. priority 1 is the highest."""

    personal = Personal("player", gone=True, free=("why",), most=2_000)

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="focuses")
    skill = models.ForeignKey(Skill, on_delete=models.CASCADE, related_name="+")
    priority = models.PositiveSmallIntegerField(default=2)
    source = models.CharField(max_length=12, choices=Source, default=Source.OBSERVATION)
    why = models.CharField(max_length=300, blank=True)
    on = models.DateField()

    objects = FocusQuerySet.as_manager()

    class Meta:
        ordering = ["priority", "skill__name"]
        constraints = [
            models.UniqueConstraint(fields=["player", "skill"], name="a_skill_once_a_player"),
            models.CheckConstraint(
                condition=Q(priority__gte=1, priority__lte=3), name="focus_priority_1_to_3"
            ),
            models.CheckConstraint(
                condition=Q(source__in=Source.values), name="focus_source_known"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.skill} for {self.player}"


class Placement(models.Model):
    """Finding where a player starts on a ladder. probes: in their order, each rung by its stored
    id.

    chosen: where the coach let them start; reason: why, where it was not the program's proposal.
    """

    personal = Personal("player", blank={"reason": ERASED}, free=("reason",), plain=("probes",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="placements")
    ladder = models.ForeignKey(Ladder, on_delete=models.CASCADE, related_name="+")
    guess = models.ForeignKey(
        Rung, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    probes = stored(PROBES, default=list, blank=True)
    chosen = models.ForeignKey(
        Rung, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    reason = models.CharField(max_length=300, blank=True)
    on = models.DateField()

    class Meta:
        ordering = ["-on", "-id"]

    def __str__(self) -> str:
        return f"Placement of {self.player} on {self.ladder}"


def by_routine(stays: Iterable[Stay]) -> dict[int, list[Stay]]:
    """Routine of a player -> the stays of its parts, the first part first."""
    found: dict[int, list[Stay]] = {}
    for stay in sorted(stays, key=lambda one: one.prescription.part or 0):
        if stay.prescription.player_routine_id is not None:
            found.setdefault(stay.prescription.player_routine_id, []).append(stay)
    return found
