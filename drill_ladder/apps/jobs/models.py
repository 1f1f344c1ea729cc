"""Long work as a row: what, how far, how it ended."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from drill_ladder.apps.jobs.querysets import JobQuerySet
from drill_ladder.apps.personal import Personal


class State(models.TextChoices):
    """How far a job is."""

    WAITING = "waiting", "Waiting"
    RUNNING = "running", "Running"
    DONE = "done", "Done"
    FAILED = "failed", "Failed"


class Job(models.Model):
    """One piece of long work. lines: what it has to tell at the end; beat_at: its last sign of
    life. attempt: how often somebody began it; mark: the last thing that is done, from which the
    next attempt goes on.
    """

    personal = Personal(
        free=("label",), plain=("name", "given", "lines", "back", "file", "file_name")
    )

    club = models.ForeignKey("people.Club", on_delete=models.CASCADE, related_name="+")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=60)
    label = models.CharField(max_length=200)
    given = models.JSONField(default=dict)
    state = models.CharField(max_length=8, choices=State, default=State.WAITING)
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    lines = models.JSONField(default=list)
    attempt = models.PositiveSmallIntegerField(default=0)
    mark = models.BigIntegerField(default=0)
    back = models.CharField(max_length=200, blank=True)
    file = models.BinaryField(null=True, editable=False)
    file_name = models.CharField(max_length=80, blank=True)
    made_at = models.DateTimeField(auto_now_add=True)
    beat_at = models.DateTimeField(auto_now=True)

    objects = JobQuerySet.as_manager()

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.CheckConstraint(condition=Q(state__in=State.values), name="job_state_known")
        ]

    def __str__(self) -> str:
        return self.label

    @property
    def over(self) -> bool:
        """Whether there is nothing more to wait for."""
        return self.state in (State.DONE, State.FAILED)

    @property
    def percent(self) -> int:
        """How far, 0 to 100."""
        return round(100 * self.done / self.total) if self.total else 0
