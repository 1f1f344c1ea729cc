"""Tests: a drill in test mode with its protocol, days on which many are tested, and every trial."""

from datetime import date

from django.conf import settings
from django.db import models
from django.db.models import Q

from drill_ladder.apps.floor.battery_querysets import (
    BatteryQuerySet,
    ChallengeQuerySet,
    ProtocolQuerySet,
)
from drill_ladder.apps.floor.battery_querysets import TrialQuerySet as Trials
from drill_ladder.apps.library.models import Drill, Routine
from drill_ladder.apps.people.models import Club, Player, Squad
from drill_ladder.apps.personal import Personal
from drill_ladder.core.judging import Makes, Measure, Time


class Sides(models.TextChoices):
    """On which side a test is done."""

    NONE = "", "One way only"
    OWN = "own", "The player’s own choice of side"
    BOTH = "both", "Both sides, each for itself"


class Timing(models.TextChoices):
    """Who measured."""

    HAND = "hand", "By hand"
    GATE = "gate", "By a gate"


class RoutineBy(models.TextChoices):
    """What counts of a routine that is gone through as a test."""

    NONE = "", "no routine"
    MAKES = "makes", "Good ones in all its parts"
    TIME = "time", "The time for all of it"


class Protocol(models.Model):
    """A drill in test mode, or a routine from its first part to its last, each as on the first rung
    of its ladder; routine_by: what counts of it. trials: how many count; score_by: best, mean or
    median of them; attempts: of a trial scored in good ones; rest_s: full rest between two trials;
    counts: what counts as one; ends: when a trial is over; called: the side is called out.

    error: the typical error as somebody published or measured it, with its source; offset_s: what a
    gate says less than a hand, with how that was measured. A changed protocol is another row
    (`before` is the one it replaces), because its results are not those of the old one.
    """

    personal = Personal(free=("title", "counts", "ends", "error_source", "offset_how"))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="protocols")
    drill = models.ForeignKey(
        Drill, null=True, blank=True, on_delete=models.PROTECT, related_name="protocols"
    )
    routine = models.ForeignKey(
        Routine, null=True, blank=True, on_delete=models.PROTECT, related_name="protocols"
    )
    routine_by = models.CharField(
        max_length=5, choices=RoutineBy, default=RoutineBy.NONE, blank=True
    )
    title = models.CharField(max_length=120)
    sides = models.CharField(max_length=4, choices=Sides, default=Sides.NONE, blank=True)
    trials = models.PositiveSmallIntegerField(default=3)
    score_by = models.CharField(
        max_length=6,
        choices=[("best", "The best"), ("mean", "The mean"), ("median", "The median")],
        default="best",
    )
    attempts = models.PositiveSmallIntegerField(null=True, blank=True)
    rest_s = models.PositiveIntegerField(default=180)
    counts = models.CharField(max_length=300, blank=True)
    ends = models.CharField(max_length=300, blank=True)
    called = models.BooleanField(default=False)
    error = models.FloatField(null=True, blank=True)
    error_source = models.CharField(max_length=200, blank=True)
    offset_s = models.FloatField(null=True, blank=True)
    offset_how = models.CharField(max_length=200, blank=True)
    version = models.PositiveSmallIntegerField(default=1)
    before = models.OneToOneField(
        "self", null=True, blank=True, on_delete=models.PROTECT, related_name="after"
    )

    objects = ProtocolQuerySet.as_manager()

    class Meta:
        ordering = ["title", "version"]
        constraints = [
            models.CheckConstraint(condition=Q(trials__gte=1, trials__lte=20), name="some_trials"),
            models.CheckConstraint(
                condition=Q(drill__isnull=False, routine__isnull=True, routine_by="")
                | (Q(drill__isnull=True, routine__isnull=False) & ~Q(routine_by="")),
                name="drill_or_routine",
            ),
            models.CheckConstraint(
                condition=Q(error__isnull=True) | Q(error__gt=0), name="error_above_nothing"
            ),
            models.CheckConstraint(
                condition=Q(offset_s__isnull=True) | ~Q(offset_how=""), name="offset_with_its_how"
            ),
        ]

    def __str__(self) -> str:
        return self.title

    @property
    def of(self) -> str:
        """What is done, by its title."""
        return str(self.drill or self.routine)

    @property
    def measure(self) -> Measure:
        """In what it is measured."""
        if self.drill is not None:
            return self.drill.measure
        return Time() if self.routine_by == RoutineBy.TIME else Makes()


class Battery(models.Model):
    """A day on which players are tested. players: their ids, in the order of being called up;
    weather, surface, shoes, light: as it was, empty where nobody said; retest: held to learn how
    noisy the tests are.
    """

    personal = Personal(free=("title",), plain=("players", "weather", "surface", "shoes"))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="batteries")
    squad = models.ForeignKey(
        Squad,
        null=True,
        blank=True,
        on_delete=models.SET_NULL,
        related_name="+",
        db_constraint=False,
    )
    title = models.CharField(max_length=120)
    on = models.DateField()
    protocols = models.ManyToManyField(Protocol, related_name="batteries")
    players = models.JSONField(default=list)
    weather = models.CharField(max_length=60, blank=True)
    surface = models.CharField(max_length=60, blank=True)
    shoes = models.CharField(max_length=60, blank=True)
    light = models.CharField(
        max_length=6, blank=True, choices=[("bright", "bright"), ("dim", "dim")]
    )
    retest = models.BooleanField(default=False)
    closed_at = models.DateTimeField(null=True, blank=True)

    objects = BatteryQuerySet.as_manager()

    class Meta:
        ordering = ["-on", "-id"]

    def __str__(self) -> str:
        return self.title

    def is_over(self, today: date) -> bool:
        """Whether it is finished: somebody said so, or its day has passed. What is changed in it
        after that is asked about.
        """
        return self.closed_at is not None or self.on < today


class Trial(models.Model):
    """One trial; nothing is changed in it, it can only be taken back. value: in the measure's own
    unit (good ones of a trial scored in good ones). doubts: why a gate's time is not to be trusted
    as it is.
    """

    ids_of_devices = ("uid",)
    personal = Personal("player", plain=("side", "doubts"))

    uid = models.UUIDField()
    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+", db_index=False)
    battery = models.ForeignKey(Battery, on_delete=models.CASCADE, related_name="trials")
    protocol = models.ForeignKey(Protocol, on_delete=models.PROTECT, related_name="trials_done")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="trials")
    side = models.CharField(max_length=5, blank=True)
    value = models.FloatField()
    timing = models.CharField(max_length=4, choices=Timing, default=Timing.HAND)
    doubts = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField()
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    taken_back = models.BooleanField(default=False)

    objects = Trials.as_manager()

    class Meta:
        ordering = ["at", "id"]
        constraints = [
            models.UniqueConstraint(fields=["battery", "uid"], name="a_trial_once_a_day"),
            models.CheckConstraint(condition=Q(value__gte=0), name="trial_not_negative"),
            models.CheckConstraint(condition=Q(timing__in=Timing.values), name="timing_known"),
        ]

    def __str__(self) -> str:
        return f"{self.protocol}: {self.value:g}"


class Challenge(models.Model):
    """Own best against own best in a test, from a day to another; it ends by itself. board: whether
    adults may see each other's results there by initials; nobody else ever stands on it.
    """

    personal = Personal(free=("title",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="challenges")
    protocol = models.ForeignKey(Protocol, on_delete=models.PROTECT, related_name="challenges")
    squad = models.ForeignKey(
        Squad,
        null=True,
        blank=True,
        on_delete=models.SET_NULL,
        related_name="+",
        db_constraint=False,
    )
    title = models.CharField(max_length=120)
    begins = models.DateField()
    ends = models.DateField()
    board = models.BooleanField(default=False)

    objects = ChallengeQuerySet.as_manager()

    class Meta:
        ordering = ["-ends", "-id"]
        constraints = [
            models.CheckConstraint(condition=Q(ends__gte=models.F("begins")), name="ends_after_it")
        ]

    def __str__(self) -> str:
        return self.title
