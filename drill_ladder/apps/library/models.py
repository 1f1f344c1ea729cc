"""Skills, drills, ladders and rungs. Measures, doses, targets, rules and floor plans are JSON in
the table and values of the core in Python (apps.stored).
"""

from dataclasses import fields

from django.db import models
from django.db.models import F, Q

from drill_ladder.apps.library.querysets import DrillQuerySet, LadderQuerySet, RungQuerySet
from drill_ladder.apps.people.models import Club
from drill_ladder.apps.personal import Personal
from drill_ladder.apps.stored import refuse, stored, stored_or_none
from drill_ladder.core.judging import Intent
from drill_ladder.core.judging import Rung as CoreRung
from drill_ladder.core.planning import FITS_FROM
from drill_ladder.core.plans import FloorPlan
from drill_ladder.core.work import Sound
from drill_ladder.formats.documents import (
    AGES,
    CALLER,
    DOSE,
    KIT,
    MEASURE,
    PLAN,
    RULE,
    RUNG,
    TARGET,
    VERSIONS,
)
from drill_ladder.formats.rung_fields import INTENTS


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


HEARD = (
    (Sound.HIT.value, "Each hit"),
    (Sound.BOUNCE.value, "Each bounce"),
    (Sound.CATCH.value, "Each catch"),
)


class Skill(models.Model):
    """What a drill is for."""

    personal = Personal(free=("name",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="skills")
    name = models.CharField(max_length=80)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(fields=["club", "name"], name="skill_name_once_a_club")
        ]

    def __str__(self) -> str:
        return self.name


class LanesAre(models.TextChoices):
    """What left and right are in a drill."""

    SIDES = "sides", "Sides of the body: mirrored for left-handers"
    PLACES = "places", "Places, or a tool of one hand: the same for everybody"


class Drill(models.Model):
    """A drill: cues (said), checkpoints (seen when it is right, ticked for form) and faults are
    lists of short texts; measure, lanes, floor plan and versions in the open format.

    group_of: players, for a group; feeds_judged: whether a feed can be a bad one that counts for
    nothing, None: where there is a feeder or a partner; surfaces empty: any; versions: ways to do
    it with less, from the fullest down; fits_from: the least share of its size at which it is still
    the drill, None: the usual; lanes_are: sides of the body, or places; kit: tools whose size goes
    with the body; heard: what a phone can count by ear.
    """

    personal = Personal(
        free=("title", "purpose", "how", "cues", "checkpoints", "caution_note", "sources"),
        plain=(
            *(
                "faults",
                "measure",
                "lanes",
                "worn",
                "tools",
                "surfaces",
                "axes",
                "strain",
                "versions",
            ),
            *("kit", "plan"),
        ),
    )

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="drills")
    skill = models.ForeignKey(
        Skill, null=True, blank=True, on_delete=models.PROTECT, related_name="drills"
    )
    title = models.CharField(max_length=120)
    purpose = models.CharField(max_length=300, blank=True)
    how = models.TextField(blank=True)
    cues = models.JSONField(default=list, blank=True)
    checkpoints = models.JSONField(default=list, blank=True)
    faults = models.JSONField(default=list, blank=True)
    measure = stored(MEASURE)
    lanes = models.JSONField(default=list, blank=True)
    caution = models.CharField(max_length=16, choices=Caution, default=Caution.HOME_ALONE)
    caution_note = models.CharField(max_length=300, blank=True)
    only_fresh = models.BooleanField(default=False)
    worn = models.JSONField(default=list, blank=True)
    people = models.CharField(max_length=8, choices=People, default=People.SOLO)
    group_of = models.PositiveSmallIntegerField(null=True, blank=True)
    feeds_judged = models.BooleanField(null=True, blank=True)
    heard = models.CharField(max_length=10, choices=HEARD, blank=True, default="")
    tools = models.JSONField(default=list, blank=True)
    surfaces = models.JSONField(default=list, blank=True)
    wall = models.BooleanField(default=False)
    axes = models.JSONField(default=list, blank=True)
    strain = models.JSONField(default=list, blank=True)
    versions = stored(VERSIONS, default=list, blank=True)
    sources = models.TextField(blank=True)
    fits_from = models.FloatField(null=True, blank=True)
    lanes_are = models.CharField(max_length=6, choices=LanesAre, default=LanesAre.SIDES)
    kit = stored(KIT, default=list, blank=True)
    plan = stored_or_none(PLAN)
    revision = models.PositiveIntegerField(default=1)
    archived_on = models.DateField(null=True, blank=True)

    objects = DrillQuerySet.as_manager()

    class Meta:
        ordering = ["title"]
        constraints = [
            models.UniqueConstraint(fields=["club", "title"], name="drill_title_once_a_club"),
            models.CheckConstraint(
                condition=Q(caution__in=Caution.values), name="drill_caution_known"
            ),
            models.CheckConstraint(
                condition=Q(people__in=People.values), name="drill_people_known"
            ),
            models.CheckConstraint(
                condition=Q(lanes_are__in=LanesAre.values), name="drill_lanes_known"
            ),
        ]

    def __str__(self) -> str:
        return self.title

    def clean(self) -> None:
        """Refuse a measure, a floor plan or versions that break a rule of their format."""
        refuse("measure", MEASURE.faults_of(self.measure))
        if self.plan is not None:
            refuse("plan", PLAN.faults_of(self.plan))
        refuse("versions", VERSIONS.faults_of(self.versions))

    @property
    def fed(self) -> bool:
        """Whether somebody feeds whose feeds can be bad ones."""
        if self.feeds_judged is None:
            return self.people in (People.FEEDER, People.PARTNER)
        return self.feeds_judged

    @property
    def smallest(self) -> float:
        """The least share of its size at which it is still the drill: times ask for all of it."""
        return self.fits_from or (1.0 if self.measure.is_timed else FITS_FROM)


class Ladder(models.Model):
    """Rungs from the easiest to the hardest, with the rule for those that have none of their own.
    revision goes up with every change, so that two coaches who change one ladder notice each other.
    """

    personal = Personal(free=("title", "purpose"), plain=("rule",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="ladders")
    skill = models.ForeignKey(
        Skill, null=True, blank=True, on_delete=models.PROTECT, related_name="ladders"
    )
    title = models.CharField(max_length=120)
    purpose = models.CharField(max_length=300, blank=True)
    rule = stored(RULE)
    revision = models.PositiveIntegerField(default=1)
    archived_on = models.DateField(null=True, blank=True)

    objects = LadderQuerySet.as_manager()

    class Meta:
        ordering = ["title"]
        constraints = [
            models.UniqueConstraint(fields=["club", "title"], name="ladder_title_once_a_club")
        ]

    def __str__(self) -> str:
        return self.title

    def rung_ids(self) -> list[int]:
        """The stored ids of its rungs, from the bottom."""
        if "rungs" in getattr(self, "_prefetched_objects_cache", {}):
            return [rung.pk for rung in self.rungs.all()]
        return list(self.rungs.order_by("position").values_list("pk", flat=True))

    def clean(self) -> None:
        """Refuse a rule that the core cannot read."""
        refuse("rule", RULE.faults_of(self.rule))


class Rung(models.Model):
    """One step. position counts from 1 at the bottom; floor and success band are in the measure's
    own unit.

    reps_high, sets_high: upper ends of a dose's band; minutes: of a dose given in minutes; tempo: a
    share of full speed, tempo_high: up to which it may rise; plan: how the drill is set up on this
    rung, None: as the drill has it; caller: who or what calls; hits_a_second, silence_s: how a
    phone counts it by ear; turns: lanes in turn; rest_each_s: between attempts; ease_faults: when
    the easier way is offered; rest_ready: a rest ends when the player says so; slow_first_s: rest
    after a slow one before each set; by_age: what differs by age; feeds: from gentle to hard;
    finish_good: what ends each set.
    """

    personal = Personal(
        free=("title", "changes", "ease_note"),
        plain=("axis", "turns", "feeds", "dose", "target", "rule", "caller", "plan", "by_age"),
    )

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    ladder = models.ForeignKey(Ladder, on_delete=models.CASCADE, related_name="rungs")
    drill = models.ForeignKey(Drill, on_delete=models.PROTECT, related_name="rungs")
    position = models.PositiveSmallIntegerField()
    title = models.CharField(max_length=120)
    changes = models.CharField(max_length=200, blank=True)
    axis = models.JSONField(default=list, blank=True)
    dose = stored(DOSE, default=dict)
    target = stored(TARGET)
    floor = models.FloatField(null=True, blank=True)
    ease_note = models.CharField(max_length=200, blank=True)
    rule = stored_or_none(RULE)
    intent = models.CharField(max_length=10, choices=INTENTS, default=Intent.SKILL)
    tempo = models.FloatField(null=True, blank=True)
    reps_high = models.PositiveIntegerField(null=True, blank=True)
    sets_high = models.PositiveIntegerField(null=True, blank=True)
    minutes = models.PositiveSmallIntegerField(null=True, blank=True)
    success_low = models.FloatField(null=True, blank=True)
    success_high = models.FloatField(null=True, blank=True)
    tempo_high = models.FloatField(null=True, blank=True)
    hits_a_second = models.FloatField(null=True, blank=True)
    silence_s = models.FloatField(null=True, blank=True)
    turns = models.JSONField(default=list, blank=True)
    rest_each_s = models.FloatField(null=True, blank=True)
    ease_faults = models.PositiveSmallIntegerField(null=True, blank=True)
    rest_ready = models.BooleanField(default=False)
    slow_first_s = models.FloatField(null=True, blank=True)
    by_age = stored(AGES, default=list, blank=True)
    feeds = models.JSONField(default=list, blank=True)
    finish_good = models.PositiveSmallIntegerField(null=True, blank=True)
    caller = stored_or_none(CALLER)
    plan = stored_or_none(PLAN)

    objects = RungQuerySet.as_manager()

    class Meta:
        ordering = ["ladder", "position"]
        constraints = [
            models.UniqueConstraint(
                fields=["ladder", "position"],
                name="rung_position_once",
                deferrable=models.Deferrable.DEFERRED,
            ),
            models.CheckConstraint(condition=Q(position__gte=1), name="rung_position_from_one"),
            models.CheckConstraint(
                condition=Q(floor__isnull=True) | Q(floor__gte=0), name="rung_floor_not_negative"
            ),
            models.CheckConstraint(
                condition=Q(intent__in=[value for value, _ in INTENTS]), name="rung_intent_known"
            ),
            models.CheckConstraint(
                condition=Q(success_low__isnull=True) | Q(success_high__gte=F("success_low")),
                name="rung_band_in_order",
            ),
            models.CheckConstraint(
                condition=Q(tempo__isnull=True) | Q(tempo__gt=0, tempo__lte=1), name="rung_tempo"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.position}. {self.title}"

    def clean(self) -> None:
        """Refuse terms and a floor plan that break a rule of their format."""
        refuse("target", RUNG.faults_of(self.core))
        if self.plan is not None:
            refuse("plan", PLAN.faults_of(self.plan))

    @property
    def core(self) -> CoreRung:
        """The rung as the core's value, with its drill's measure and lanes."""
        return CoreRung(
            id=f"r{self.pk or 'new'}",
            measure=self.drill.measure,
            lanes=tuple(self.drill.lanes),
            ease=self.ease_note or None,
            axis=tuple(self.axis),
            turns=tuple(self.turns),
            feeds=tuple(self.feeds),
            success=self.success,
            intent=Intent(self.intent),
            **{name: getattr(self, name) for name in SAME},
        )

    @core.setter
    def core(self, rung: CoreRung) -> None:
        """Take everything but the id, and what is the drill's."""
        self.ease_note, self.axis, self.intent = rung.ease or "", list(rung.axis), rung.intent.value
        self.success_low, self.success_high = rung.success or (None, None)
        self.turns, self.feeds = list(rung.turns), list(rung.feeds)
        for name in SAME:
            setattr(self, name, getattr(rung, name))

    @property
    def floor_plan(self) -> FloorPlan | None:
        """How it is set up: the rung's own floor plan, else the drill's."""
        return self.plan or self.drill.plan

    @property
    def success(self) -> tuple[float, float] | None:
        """The expected band, in the measure's unit."""
        low, high = self.success_low, self.success_high
        return None if low is None or high is None else (low, high)


# what a row of the table and the core's rung hold alike, under one name
SAME = tuple(
    field.name
    for field in fields(CoreRung)
    if field.name
    not in ("id", "measure", "lanes", "ease", "axis", "success", "intent", "turns", "feeds")
)
OWN = ("ease_note", "axis", "intent", "success_low", "success_high", "turns", "feeds")
CORE_COLUMNS = (*SAME, *OWN)


# models of this app in modules of their own
from drill_ladder.apps.library.routine_models import Routine as Routine  # noqa: E402
from drill_ladder.apps.library.routine_models import RoutinePart as RoutinePart  # noqa: E402
from drill_ladder.apps.library.strain_models import StrainLimit as StrainLimit  # noqa: E402
from drill_ladder.apps.library.strain_models import ToolLimit as ToolLimit  # noqa: E402
from drill_ladder.apps.library.treatment_models import Treatment as Treatment  # noqa: E402
