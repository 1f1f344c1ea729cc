"""Skills, drills, ladders and rungs. Measures, doses, targets and rules are kept in the open format and
read by the same reader as files (formats.ladder_shapes)."""

from typing import Any

from django.core.exceptions import ValidationError
from django.db import models
from django.db.models import F, Q

from drill_ladder.apps.library.querysets import DrillQuerySet, LadderQuerySet
from drill_ladder.apps.people.models import Club
from drill_ladder.formats.documents import part_faults


class Caution(models.TextChoices):
    """Where a drill may go."""

    HOME_ALONE = "home_alone", "Home alone"
    HOME_WITH_ADULT = "home_with_adult", "Home with an adult"
    COACHED_ONLY = "coached_only", "Coached only"


class People(models.TextChoices):
    """Who a drill takes."""

    SOLO = "solo", "Solo"
    FEEDER = "feeder", "With a feeder"
    PARTNER = "partner", "With a partner"
    TARGET = "target", "With a target player"
    GROUP = "group", "A group"


class Skill(models.Model):
    """What a drill is for."""

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="skills")
    name = models.CharField(max_length=80)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["club", "name"], name="skill_name_once_a_club")]

    def __str__(self) -> str:
        return self.name


class Drill(models.Model):
    """A drill: cues and faults are lists of short texts; measure, lanes, floor plan and versions in the open format.

    group_of: players, for a group; surfaces empty: any; versions: ways to do it with less, from the fullest down.
    """

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="drills")
    skill = models.ForeignKey(Skill, null=True, blank=True, on_delete=models.PROTECT, related_name="drills")
    title = models.CharField(max_length=120)
    purpose = models.CharField(max_length=300, blank=True)
    how = models.TextField(blank=True)
    cues = models.JSONField(default=list, blank=True)
    faults = models.JSONField(default=list, blank=True)
    measure = models.JSONField()
    lanes = models.JSONField(default=list, blank=True)
    caution = models.CharField(max_length=16, choices=Caution, default=Caution.HOME_ALONE)
    caution_note = models.CharField(max_length=300, blank=True)
    people = models.CharField(max_length=8, choices=People, default=People.SOLO)
    group_of = models.PositiveSmallIntegerField(null=True, blank=True)
    tools = models.JSONField(default=list, blank=True)
    surfaces = models.JSONField(default=list, blank=True)
    wall = models.BooleanField(default=False)
    axes = models.JSONField(default=list, blank=True)
    versions = models.JSONField(default=list, blank=True)
    sources = models.TextField(blank=True)
    plan = models.JSONField(null=True, blank=True)
    revision = models.PositiveIntegerField(default=1)
    archived_on = models.DateField(null=True, blank=True)

    objects = DrillQuerySet.as_manager()

    class Meta:
        ordering = ["title"]
        constraints = [
            models.UniqueConstraint(fields=["club", "title"], name="drill_title_once_a_club"),
            models.CheckConstraint(condition=Q(caution__in=Caution.values), name="drill_caution_known"),
            models.CheckConstraint(condition=Q(people__in=People.values), name="drill_people_known"),
        ]

    def __str__(self) -> str:
        return self.title

    def clean(self) -> None:
        """Refuse a measure or a floor plan that the core cannot read."""
        _refuse("measure", part_faults("measure", self.measure))
        if self.plan is not None:
            _refuse("plan", part_faults("plan", self.plan))
        _refuse("versions", part_faults("versions", self.versions))


class Treatment(models.Model):
    """What treats a fault of a drill: a cue, another drill, a rung; at least one of them."""

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    drill = models.ForeignKey(Drill, on_delete=models.CASCADE, related_name="treatments")
    fault = models.CharField(max_length=80)
    cue = models.CharField(max_length=200, blank=True)
    by_drill = models.ForeignKey(Drill, null=True, blank=True, on_delete=models.SET_NULL, related_name="treats")
    by_rung = models.ForeignKey("Rung", null=True, blank=True, on_delete=models.SET_NULL, related_name="treats")

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["drill", "fault"], name="one_treatment_a_fault")]

    def __str__(self) -> str:
        return f"{self.fault}: {self.words}"

    @property
    def words(self) -> str:
        """The cue in quotes, then what to do instead."""
        by = f"{self.by_rung.ladder}, rung {self.by_rung.position}" if self.by_rung else str(self.by_drill or "")
        return "; ".join(part for part in (f"“{self.cue}”" if self.cue else "", by) if part)


class Intent(models.TextChoices):
    """What a block is for."""

    SKILL = "skill", "Skill"
    SPEED = "speed", "Speed"
    ENDURANCE = "endurance", "Endurance"
    PRESSURE = "pressure", "Pressure"


class Ladder(models.Model):
    """Rungs from the easiest to the hardest, with the rule for those that have none of their own.

    revision goes up with every change, so that two coaches who change one ladder notice each other.
    """

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="ladders")
    skill = models.ForeignKey(Skill, null=True, blank=True, on_delete=models.PROTECT, related_name="ladders")
    title = models.CharField(max_length=120)
    purpose = models.CharField(max_length=300, blank=True)
    rule = models.JSONField()
    revision = models.PositiveIntegerField(default=1)
    archived_on = models.DateField(null=True, blank=True)

    objects = LadderQuerySet.as_manager()

    class Meta:
        ordering = ["title"]
        constraints = [models.UniqueConstraint(fields=["club", "title"], name="ladder_title_once_a_club")]

    def __str__(self) -> str:
        return self.title

    def clean(self) -> None:
        """Refuse a rule that the core cannot read."""
        _refuse("rule", part_faults("rule", self.rule))


class Rung(models.Model):
    """One step. position counts from 1 at the bottom; floor and success band are in the measure's own unit.

    reps_high: the upper end of a dose band whose lower end is the dose's reps; tempo: a share of full speed; plan: how
    the drill is set up on this rung, None: as the drill has it.
    """

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    ladder = models.ForeignKey(Ladder, on_delete=models.CASCADE, related_name="rungs")
    drill = models.ForeignKey(Drill, on_delete=models.PROTECT, related_name="rungs")
    position = models.PositiveSmallIntegerField()
    title = models.CharField(max_length=120)
    changes = models.CharField(max_length=200, blank=True)
    axis = models.JSONField(default=list, blank=True)
    dose = models.JSONField(default=dict)
    target = models.JSONField()
    floor = models.FloatField(null=True, blank=True)
    ease_note = models.CharField(max_length=200, blank=True)
    rule = models.JSONField(null=True, blank=True)
    intent = models.CharField(max_length=10, choices=Intent, default=Intent.SKILL)
    tempo = models.FloatField(null=True, blank=True)
    reps_high = models.PositiveIntegerField(null=True, blank=True)
    success_low = models.FloatField(null=True, blank=True)
    success_high = models.FloatField(null=True, blank=True)
    plan = models.JSONField(null=True, blank=True)

    class Meta:
        ordering = ["ladder", "position"]
        constraints = [
            models.UniqueConstraint(
                fields=["ladder", "position"], name="rung_position_once", deferrable=models.Deferrable.DEFERRED
            ),
            models.CheckConstraint(condition=Q(position__gte=1), name="rung_position_from_one"),
            models.CheckConstraint(condition=Q(floor__isnull=True) | Q(floor__gte=0), name="rung_floor_not_negative"),
            models.CheckConstraint(condition=Q(intent__in=Intent.values), name="rung_intent_known"),
            models.CheckConstraint(
                condition=Q(success_low__isnull=True) | Q(success_high__gte=F("success_low")), name="rung_band_in_order"
            ),
            models.CheckConstraint(condition=Q(tempo__isnull=True) | Q(tempo__gt=0, tempo__lte=1), name="rung_tempo"),
        ]

    def __str__(self) -> str:
        return f"{self.position}. {self.title}"

    def clean(self) -> None:
        """Refuse terms and a floor plan that the core cannot read."""
        _refuse("target", part_faults("rung", self.document()))
        if self.plan is not None:
            _refuse("plan", part_faults("plan", self.plan))

    def document(self) -> dict[str, Any]:
        """The rung in the open format."""
        return {
            "id": f"r{self.pk or 'new'}",
            "title": self.title,
            "measure": self.drill.measure,
            "lanes": self.drill.lanes,
            "dose": self.dose,
            "target": self.target,
            "floor": self.floor,
            "ease": {"note": self.ease_note} if self.ease_note else None,
            "axis": self.axis,
            "rule": self.rule,
        }

    @property
    def floor_plan(self) -> dict[str, Any] | None:
        """How it is set up: the rung's own floor plan, else the drill's."""
        found: dict[str, Any] | None = self.plan or self.drill.plan
        return found

    @property
    def success(self) -> tuple[float, float] | None:
        """The expected band, in the measure's unit."""
        low, high = self.success_low, self.success_high
        return None if low is None or high is None else (low, high)


def _refuse(name: str, faults: list[str]) -> None:
    if faults:
        raise ValidationError({name: faults})
