"""What is done in the hall: taps of one or many, and stations for a group."""

from typing import Any

from django.conf import settings
from django.db import models
from django.db.models import Q

from drill_ladder.apps.floor.querysets import GroupQuerySet, TapQuerySet
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.personal import Personal
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.stored import stored
from drill_ladder.formats.documents import SLOTS, STATIONS


class GroupSession(models.Model):
    """Stations for a group. players: who is there now, by their ids; past: the slots that were run
    before the players changed, by the players' ids; drills: station -> drill, so that what is
    counted lands on the worker's own ladder; turn_reps: how many each worker does before all
    change, None: they change by the clock, and slot_s is no more than what that takes.
    """

    personal = Personal(free=("title",), plain=("players", "stations", "past", "drills"))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    title = models.CharField(max_length=120)
    on = models.DateField()
    players = models.JSONField(default=list)
    stations = stored(STATIONS, default=list)
    slot_s = models.PositiveIntegerField()
    change_s = models.PositiveIntegerField(default=0)
    turn_reps = models.PositiveSmallIntegerField(null=True, blank=True)
    slots = models.PositiveSmallIntegerField()
    past = stored(SLOTS, default=list)
    drills = models.JSONField(default=dict, blank=True)

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

    @property
    def everybody(self) -> list[int]:
        """Who is there now, then who was."""
        before = (player for slot in self.past for player in slot)
        return list(dict.fromkeys([*self.players, *before]))


class GoalKind(models.TextChoices):
    """What a group works for together."""

    SUM = "sum", "in all"
    ROW = "row", "in a row, nobody misses"
    MINUTE = "minute", "within a minute"
    POINTS = "points", "in points"
    TEAMS = "teams", "by two teams, who is first"


class HallDay(models.Model):
    """A day in a club's hall. goal: what the group works for together, None for nothing; goal_kind:
    good ones in all, in a row, or within a minute, or points, of which a good one brings its worth;
    or two teams, each for itself.
    Its row is what the devices of a day wait for in turn, so that their taps get numbers in the
    order in which they can be read.
    """

    personal = Personal()

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    on = models.DateField()
    goal = models.PositiveIntegerField(null=True, blank=True)
    goal_kind = models.CharField(max_length=6, choices=GoalKind, default=GoalKind.SUM)
    goal_worth = models.PositiveSmallIntegerField(default=1)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["club", "on"], name="one_hall_a_day")]

    def __str__(self) -> str:
        return f"{self.club} on {self.on}"


def without_words(value: dict[str, Any]) -> dict[str, Any]:
    """What a tap counted, without the name of who fed."""
    return {key: one for key, one in value.items() if key != "word"}


class FloorTap(models.Model):
    """One tap of a device in the hall; nothing here is ever changed. Its id is its place in the
    order of receipt. uid: as the device named it; at: when it was tapped, by the server's clock;
    value: what the act needs; by: who was signed in there; after_stop: tapped after it was told
    that something hurts, so kept and never counted. told is the server's own: what a stay's day
    came to.
    """

    ids_of_devices = ("uid",)
    personal = Personal(
        "player",
        blank={"device": "", "value": without_words},
        free=("value",),
        plain=("act", "lane"),
        most=2_000_000,
    )

    uid = models.UUIDField()
    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+", db_index=False)
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="+")
    stay = models.ForeignKey(
        Stay, null=True, blank=True, on_delete=models.CASCADE, related_name="taps", db_index=False
    )
    on = models.DateField()
    at = models.DateTimeField()
    act = models.CharField(max_length=8)
    lane = models.CharField(max_length=60, blank=True)
    value = models.JSONField(default=dict, blank=True)
    device = models.CharField(max_length=36, blank=True)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    as_coach = models.BooleanField(default=False)
    after_stop = models.BooleanField(default=False)

    objects = TapQuerySet.as_manager()

    class Meta:
        ordering = ["id"]
        indexes = [
            models.Index(fields=["club", "on", "id"], name="taps_of_a_day"),
            models.Index(fields=["stay", "on"], name="taps_of_a_stay"),
        ]
        constraints = [models.UniqueConstraint(fields=["club", "uid"], name="a_tap_once_a_club")]

    def __str__(self) -> str:
        return f"{self.act} of {self.player}"


# models of this app in modules of their own
from drill_ladder.apps.floor.battery_models import Battery as Battery  # noqa: E402
from drill_ladder.apps.floor.battery_models import Challenge as Challenge  # noqa: E402
from drill_ladder.apps.floor.battery_models import Protocol as Protocol  # noqa: E402
from drill_ladder.apps.floor.battery_models import RoutineBy as RoutineBy  # noqa: E402
from drill_ladder.apps.floor.battery_models import Sides as Sides  # noqa: E402
from drill_ladder.apps.floor.battery_models import Timing as Timing  # noqa: E402
from drill_ladder.apps.floor.battery_models import Trial as Trial  # noqa: E402
from drill_ladder.apps.floor.gate_models import GateCall as GateCall  # noqa: E402
from drill_ladder.apps.floor.gate_models import GateMessage as GateMessage  # noqa: E402
