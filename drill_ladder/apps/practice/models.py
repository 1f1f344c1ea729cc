"""What was done: sessions, sets and stops. Ids are made on the device, so that nothing is stored
twice.
"""

import uuid

from django.conf import settings
from django.db import models
from django.db.models import F, Q
from django.utils import timezone

from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.personal import ERASED, Personal
from drill_ladder.apps.practice.querysets import (
    JudgedDayQuerySet,
    SessionQuerySet,
    SetQuerySet,
    StopQuerySet,
)
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.stored import stored, stored_or_none
from drill_ladder.core.judging import Day, Judged, Observer, Verdict
from drill_ladder.formats.decision_documents import AHEAD
from drill_ladder.formats.documents import DAY_SETS, EXTRA_WORK, READS

OBSERVERS = {
    Observer.COACH: "Coach",
    Observer.DEVICE: "Device",
    Observer.HELPER: "Helper",
    Observer.EAR: "By ear",
    Observer.SELF: "Player",
}


class Session(models.Model):
    """Sets done in one go at one rung. effort: 0..10; form: share 0..1 of checkpoints seen.

    recheck: done on the rung below after a long time away; it counts for no rung. tired: at the end
    of other work; extra: after the day's dose was full. way: the home version that was done, empty
    for the full drill. ahead: what came next, as it was told when the session was stored.
    word_read: whether a coach has read the word. asked_sets, asked_reps: what a dose band came to
    on that day; None where the rung has none. paper: typed in from a sheet; device: the phone that
    sent it, by a number of its own; both_real: a coach has said that it stands beside another one.
    hall: made of the taps of a day in the hall, one a stay and day. adult: whether it was said that
    an adult was there; worn: what was ticked of what the drill wants worn.
    """

    ids_of_devices = ("id",)
    personal = Personal(
        "stay__prescription__player",
        blank={"word": ERASED, "device": ""},
        free=("word",),
        plain=("way", "ahead", "worn"),
    )

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    stay = models.ForeignKey(
        Stay, on_delete=models.CASCADE, related_name="sessions", db_index=False
    )
    on = models.DateField()
    observer = models.CharField(max_length=6, choices=OBSERVERS)
    eased = models.BooleanField(default=False)
    recheck = models.BooleanField(default=False)
    tired = models.BooleanField(default=False)
    extra = models.BooleanField(default=False)
    form = models.FloatField(null=True, blank=True)
    effort = models.PositiveSmallIntegerField(null=True, blank=True)
    word = models.CharField(max_length=500, blank=True)
    word_read = models.BooleanField(default=False)
    way = models.CharField(max_length=120, blank=True)
    ahead = stored_or_none(AHEAD)
    asked_sets = models.PositiveSmallIntegerField(null=True, blank=True)
    asked_reps = models.PositiveIntegerField(null=True, blank=True)
    paper = models.BooleanField(default=False)
    device = models.CharField(max_length=36, blank=True)
    both_real = models.BooleanField(default=False)
    hall = models.BooleanField(default=False)
    adult = models.BooleanField(default=False)
    worn = models.JSONField(default=list, blank=True)
    recorded_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    recorded_at = models.DateTimeField(auto_now_add=True)

    objects = SessionQuerySet.as_manager()

    class Meta:
        ordering = ["on", "recorded_at"]
        indexes = [
            models.Index(fields=["stay", "on"]),
            models.Index(
                fields=["club"], condition=Q(word_read=False) & ~Q(word=""), name="words_to_read"
            ),
            # what phones sent is looked through for the same day told twice
            models.Index(
                fields=["club", "on"],
                condition=Q(recorded_by=None, both_real=False) & ~Q(device=""),
                name="told_by_phones",
            ),
        ]
        constraints = [
            models.CheckConstraint(
                condition=Q(observer__in=list(Observer)), name="session_observer_known"
            ),
            models.CheckConstraint(
                condition=Q(form__isnull=True) | Q(form__range=(0, 1)), name="form_is_a_share"
            ),
            models.CheckConstraint(
                condition=Q(effort__isnull=True) | Q(effort__range=(0, 10)),
                name="effort_from_0_to_10",
            ),
            models.UniqueConstraint(
                fields=["stay", "on"], condition=Q(hall=True), name="one_hall_session_a_day"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.stay} on {self.on}"


class SetRow(models.Model):
    """One set as it was recorded; null means not measured. voids are kept, and are neither make nor
    miss; faults null: nobody counted them; seen: the checkpoints that were seen, null: nobody
    looked; feeder: who fed; eased: whether it was done easier, null: as its session says; tempo: a
    share of full speed; reads: how its calls were answered; heard: how many the phone heard before
    anybody looked it over, null: it was not counted by ear; heard_pace: hits a minute, and whether
    steady; rested_s: the real rest before it, null where no clock saw it; feed: the gentler one it
    was done with, empty for the one that its rung asks.
    """

    ids_of_devices = ("id",)
    personal = Personal(
        "session__stay__prescription__player",
        blank={"feeder": ERASED},
        free=("feeder", "feed"),
        plain=("lane", "faults", "seen", "strokes", "reads"),
        most=600_000,
    )

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    # no index and no key of their own: sets are looked for by session and order, and one key ties
    # session and club
    club = models.ForeignKey(
        Club, on_delete=models.CASCADE, related_name="+", db_index=False, db_constraint=False
    )
    session = models.ForeignKey(
        Session, on_delete=models.CASCADE, related_name="sets", db_index=False, db_constraint=False
    )
    order = models.PositiveSmallIntegerField()
    lane = models.CharField(max_length=60, blank=True)
    attempts = models.PositiveIntegerField(null=True, blank=True)
    makes = models.PositiveIntegerField(null=True, blank=True)
    points = models.FloatField(null=True, blank=True)
    seconds = models.FloatField(null=True, blank=True)
    count = models.FloatField(null=True, blank=True)
    best_run = models.PositiveIntegerField(null=True, blank=True)
    ticks = models.PositiveIntegerField(null=True, blank=True)
    share = models.FloatField(null=True, blank=True)
    voids = models.PositiveIntegerField(default=0)
    faults = models.JSONField(default=dict, null=True, blank=True)
    seen = models.JSONField(null=True, blank=True)
    feeder = models.CharField(max_length=60, blank=True)
    strokes = models.CharField(max_length=400, blank=True)
    eased = models.BooleanField(null=True, blank=True)
    tempo = models.FloatField(null=True, blank=True)
    reads = stored_or_none(READS)
    heard = models.PositiveSmallIntegerField(null=True, blank=True)
    heard_pace = models.PositiveSmallIntegerField(null=True, blank=True)
    heard_steady = models.BooleanField(null=True, blank=True)
    rested_s = models.PositiveSmallIntegerField(null=True, blank=True)
    feed = models.CharField(max_length=40, blank=True, default="", db_default="")

    objects = SetQuerySet.as_manager()

    class Meta:
        ordering = ["session", "order"]
        indexes = [
            # few sets are fed: whose feeds they were is asked on a player's page
            models.Index(fields=["club", "feeder"], condition=~Q(feeder=""), name="sets_fed_by"),
        ]
        constraints = [
            models.UniqueConstraint(fields=["session", "order"], name="set_order_once"),
            models.CheckConstraint(
                condition=Q(makes__isnull=True)
                | Q(attempts__isnull=False, makes__lte=F("attempts")),
                name="makes_within_attempts",
            ),
            models.CheckConstraint(
                condition=Q(seconds__isnull=True) | Q(seconds__gte=0), name="seconds_not_negative"
            ),
            models.CheckConstraint(
                condition=Q(points__isnull=True) | Q(points__gte=0), name="points_not_negative"
            ),
            models.CheckConstraint(
                condition=Q(count__isnull=True) | Q(count__gte=0), name="count_not_negative"
            ),
            models.CheckConstraint(
                condition=Q(share__isnull=True) | Q(share__range=(0, 1)), name="share_is_a_share"
            ),
            models.CheckConstraint(
                condition=Q(tempo__isnull=True) | Q(tempo__gt=0, tempo__lte=1), name="set_tempo"
            ),
        ]

    def __str__(self) -> str:
        return f"set {self.order} of {self.session}"


class JudgedDay(models.Model):
    """A day of a stay as it was judged, made anew by every write that changes it (judged.py).

    recheck: of the rung below; score in the measure's unit, lanes: lane by lane; sets: those that
    judged the day, beside: others of the same day, which count as work done, extra: practice after
    its dose was full; stopped: lanes that ended by themselves (null: a series without one).
    """

    personal = Personal(
        "stay__prescription__player", plain=("lanes", "sets", "beside", "extra", "stopped")
    )

    # club and day, stay and day have an index, and one key ties stay and club
    club = models.ForeignKey(
        Club, on_delete=models.CASCADE, related_name="+", db_index=False, db_constraint=False
    )
    stay = models.ForeignKey(
        Stay, on_delete=models.CASCADE, related_name="judged", db_index=False, db_constraint=False
    )
    on = models.DateField()
    recheck = models.BooleanField(default=False)
    observer = models.CharField(max_length=6, choices=OBSERVERS)
    eased = models.BooleanField(default=False)
    form = models.FloatField(null=True, blank=True)
    verdict = models.CharField(max_length=5, choices=[(v.value, v.value) for v in Verdict])
    met = models.BooleanField()
    score = models.FloatField(null=True, blank=True)
    lanes = models.JSONField(default=dict, blank=True)
    sets = stored(DAY_SETS, default=list, blank=True)
    beside = stored(DAY_SETS, default=list, blank=True)
    extra = stored(EXTRA_WORK, default=list, blank=True)
    stopped = models.JSONField(default=list, blank=True)

    objects = JudgedDayQuerySet.as_manager()

    class Meta:
        ordering = ["on"]
        indexes = [models.Index(fields=["club", "on"])]
        constraints = [
            models.UniqueConstraint(fields=["stay", "recheck", "on"], name="a_day_is_judged_once"),
            models.CheckConstraint(
                condition=Q(observer__in=list(Observer)), name="judged_observer_known"
            ),
            models.CheckConstraint(
                condition=Q(verdict__in=[v.value for v in Verdict]), name="verdict_known"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.stay} on {self.on}: {self.verdict}"

    @property
    def heard(self) -> bool:
        """Whether a phone counted it by ear."""
        return any(one.heard for one in self.sets)

    @property
    def value(self) -> Judged:
        """As the core judged it."""
        day = Day(
            self.on,
            Observer(self.observer),
            self.eased,
            self.form,
            self.sets,
            (*self.sets, *self.beside),
            frozenset(self.stopped),
        )
        return Judged(day, Verdict(self.verdict), self.met, self.score, self.lanes)


class Stop(models.Model):
    """Something hurts, or a coach said stop. Open, it blocks the player's card; only a coach can
    end it.

    what: the words of all its reports, one after the other; each stands with its time in a
    HurtReport.
    """

    personal = Personal(
        "player",
        blank={"what": ERASED, "cleared_by": ERASED},
        free=("what", "cleared_by"),
        most=5_000,
    )

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="stops")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="stops")
    what = models.TextField()
    opened_on = models.DateField()
    opened_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    ended_on = models.DateField(null=True, blank=True)
    ended_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    cleared_by = models.CharField(max_length=200, blank=True)

    objects = StopQuerySet.as_manager()

    class Meta:
        ordering = ["-opened_on"]
        indexes = [
            models.Index(fields=["player"], condition=Q(ended_on__isnull=True), name="open_stops"),
        ]
        constraints = [
            models.CheckConstraint(
                condition=Q(ended_on__isnull=True)
                | (Q(ended_on__gte=F("opened_on")) & ~Q(cleared_by="")),
                name="ended_stop_says_who_cleared_it",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.player}: {self.what}"


class HurtReport(models.Model):
    """Words about a hurt as they came, each with its time; several belong to one stop.

    by: the member who told it, None for the player's card.
    """

    ids_of_devices = ("id",)
    personal = Personal("stop__player", gone=True, free=("words",), most=20_000)

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    stop = models.ForeignKey(Stop, on_delete=models.CASCADE, related_name="reports")
    words = models.CharField(max_length=300)
    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )

    class Meta:
        ordering = ["at", "id"]
        constraints = [
            models.CheckConstraint(condition=~Q(words=""), name="a_report_says_something")
        ]

    def __str__(self) -> str:
        return self.words


# here so that the app's models are found in one place
from drill_ladder.apps.practice.felt_models import Felt as Felt  # noqa: E402
from drill_ladder.apps.practice.learning_models import (  # noqa: E402
    LadderLearning as LadderLearning,
)
from drill_ladder.apps.practice.learning_models import (  # noqa: E402
    PlayerLearning as PlayerLearning,
)
from drill_ladder.apps.practice.skip_models import Skip as Skip  # noqa: E402
from drill_ladder.apps.practice.skip_models import Why as Why  # noqa: E402
