"""Who did and saw what: a trail that the database itself keeps append-only."""

from django.conf import settings
from django.db import models

from drill_ladder.apps.history.querysets import EventQuerySet
from drill_ladder.apps.personal import Personal


class SentForm(models.Model):
    """A form that was done, by the id that its page carried, and where it led to. user_id: a plain
    number.
    """

    ids_of_devices = ("id",)
    personal = Personal(plain=("answer",))

    id = models.UUIDField(primary_key=True, editable=False)
    user_id = models.BigIntegerField()
    answer = models.CharField(max_length=500, blank=True)
    at = models.DateTimeField(auto_now_add=True, db_index=True)

    def __str__(self) -> str:
        return f"form {self.id}"


class Event(models.Model):
    """One thing that somebody did. club_id is a plain number: this lowest layer knows no other app.

    kind, row_id: the row that it is about, such as people.player and 7; subject: how it was called
    then.
    """

    personal = Personal(free=("subject",), plain=("verb", "kind", "row_id", "details"))

    club_id = models.BigIntegerField(db_index=True)
    actor = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)
    verb = models.CharField(max_length=40)
    subject = models.CharField(max_length=200)
    kind = models.CharField(max_length=60, blank=True)
    row_id = models.CharField(max_length=40, blank=True)
    details = models.JSONField(default=dict)

    objects = EventQuerySet.as_manager()

    class Meta:
        ordering = ["-at", "-id"]
        indexes = [
            models.Index(fields=["kind", "row_id"], name="event_of_a_row"),
            models.Index(fields=["club_id", "-at"], name="events_of_a_club"),
        ]

    def __str__(self) -> str:
        return f"{self.verb} {self.subject}"
