"""What the club's learning model knows, kept with its date: fitted at night and after fifty new
days, read by whatever decides or looks ahead.
"""

from django.db import models

from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.people.models import Club
from drill_ladder.apps.personal import Personal
from drill_ladder.apps.practice.querysets import LearntQuerySet
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.stored import stored
from drill_ladder.formats.learning_documents import KNOWN, STEPS


class LearntBy(models.TextChoices):
    """What a ladder's learning goes by: good ones that were counted, what a day's score was over
    the target, days passed.
    """

    COUNTS = "counts", "good ones"
    SCORES = "scores", "score"
    PASSES = "passes", "days passed"


class LadderLearning(models.Model):
    """A ladder's model: the gain a session with its 95 % interval, and what each rung costs on
    arriving, on the log-odds, of scores in the measure's unit. days, players: behind it; since:
    days on or after the day of the fit that were in it; fives: whether most were told in round
    numbers, of which nothing is forecast.
    """

    personal = Personal(plain=("steps",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    ladder = models.OneToOneField(Ladder, on_delete=models.CASCADE, related_name="learning")
    on = models.DateField()
    days = models.PositiveIntegerField()
    players = models.PositiveIntegerField()
    since = models.PositiveIntegerField(default=0)
    by = models.CharField(max_length=6, choices=LearntBy)
    fives = models.BooleanField(default=False)
    gain = models.FloatField()
    gain_low = models.FloatField()
    gain_high = models.FloatField()
    steps = stored(STEPS, default=list, blank=True)

    objects = LearntQuerySet.as_manager()

    class Meta:
        ordering = ["ladder"]

    def __str__(self) -> str:
        return f"{self.ladder}: {self.gain:+.3f} a session, from {self.days} days"


class PlayerLearning(models.Model):
    """What is known of a player on a ladder: their level, gain and the steps with how unsure each
    is; before: full days on the ladder, in_stay: those of the stay in which they stood; next_*,
    top_*: sessions to the next rung and to the top (80 % between low and high; null: further than
    anybody waits, or a coach's word decides on the way).
    """

    personal = Personal("prescription__player", plain=("known",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    prescription = models.OneToOneField(
        Prescription, on_delete=models.CASCADE, related_name="learning"
    )
    stay = models.ForeignKey(Stay, on_delete=models.CASCADE, related_name="+")
    on = models.DateField()
    by = models.CharField(max_length=6, choices=LearntBy)
    # a club's record carries its sums for odds and outlook only from so many days and players on
    carries = models.BooleanField()
    known = stored(KNOWN)
    before = models.PositiveIntegerField()
    in_stay = models.PositiveIntegerField()
    next_low = models.PositiveSmallIntegerField(null=True, blank=True)
    next_middle = models.PositiveSmallIntegerField(null=True, blank=True)
    next_high = models.PositiveSmallIntegerField(null=True, blank=True)
    top_low = models.PositiveSmallIntegerField(null=True, blank=True)
    top_middle = models.PositiveSmallIntegerField(null=True, blank=True)
    top_high = models.PositiveSmallIntegerField(null=True, blank=True)

    objects = LearntQuerySet.as_manager()

    class Meta:
        ordering = ["prescription"]

    def __str__(self) -> str:
        return f"{self.prescription}: as known on {self.on}"
