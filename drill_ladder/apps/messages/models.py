"""The outbox: every mail as it was written, where it goes and what became of it."""

from typing import Any

from django.db import models
from django.db.models import Q

from drill_ladder.apps.messages.querysets import (
    LocalMailQuerySet,
    MailAddressQuerySet,
    MessageQuerySet,
)
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.people.secrets import make_token
from drill_ladder.apps.personal import Personal

STOPS = "mail"  # what the secret in a mail opens: the page that stops them


class Kind(models.TextChoices):
    """What a message is about."""

    INVITATION = "invitation", "Invitation"
    CARD = "card", "Card link"
    WEEK = "week", "Week told or changed"
    HURT = "hurt", "Something hurts"
    CLEARED = "cleared", "Cleared again"
    REPORT = "report", "Report ready"
    REMINDER = "reminder", "Reminder of home work"


# what the club may switch off, and whoever gets it may stop; hurt and what somebody asked for come
OPTIONAL = (Kind.WEEK, Kind.REPORT, Kind.REMINDER)
URGENT = (Kind.HURT, Kind.CLEARED)


class Fate(models.TextChoices):
    """What became of a message."""

    HELD = "held", "Held until you send it"
    WAITING = "waiting", "On its way"
    SENT = "sent", "Sent"
    FAILED = "failed", "Not sent"
    STOPPED = "stopped", "Not wanted"
    WITHDRAWN = "withdrawn", "Taken back"


def usual_kinds() -> list[str]:
    """What goes out unless a club says otherwise: no reminders."""
    return [Kind.WEEK, Kind.REPORT]


class MailSettings(models.Model):
    """A club's choice. kinds: of the optional ones, what goes out; look_first: whether what is not
    urgent is held until somebody has looked at it.
    """

    personal = Personal(plain=("kinds",))

    club = models.OneToOneField(Club, on_delete=models.CASCADE, related_name="mail")
    kinds = models.JSONField(default=usual_kinds)
    look_first = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"mail of {self.club}"


class MailAddress(models.Model):
    """An address that the club writes to. stopped: the kinds that its owner does not want."""

    personal = Personal(plain=("email", "stopped"))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    email = models.EmailField()
    stopped = models.JSONField(default=list, blank=True)

    objects = MailAddressQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["club", "email"], name="an_address_once_a_club")
        ]

    def __str__(self) -> str:
        return self.email

    @property
    def token(self) -> str:
        """The secret in the address of its page."""
        return make_token(STOPS, self.pk, 1)


class Message(models.Model):
    """One mail. key: what it is about, so that nothing is written twice; lines: its paragraphs;
    link, link_words: where it leads; due_at: not sent before, None for at once; fate, error, tries:
    what became of it.
    """

    personal = Personal(
        "player",
        gone=True,
        plain=("key", "to_name", "to_email", "link", "link_words", "error"),
        free=("subject", "lines"),
    )

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey(
        Player, null=True, blank=True, on_delete=models.CASCADE, related_name="+"
    )
    kind = models.CharField(max_length=10, choices=Kind)
    key = models.CharField(max_length=120)
    to_name = models.CharField(max_length=120, blank=True)
    to_email = models.EmailField()
    subject = models.CharField(max_length=150)
    lines = models.JSONField(default=list)
    link = models.CharField(max_length=300, blank=True)
    link_words = models.CharField(max_length=60, blank=True)
    fate = models.CharField(max_length=10, choices=Fate, default=Fate.WAITING)
    tries = models.PositiveSmallIntegerField(default=0)
    error = models.CharField(max_length=300, blank=True)
    made_at = models.DateTimeField(auto_now_add=True)
    due_at = models.DateTimeField(null=True, blank=True)
    sent_at = models.DateTimeField(null=True, blank=True)

    objects = MessageQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at", "-id"]
        indexes = [
            models.Index(fields=["club", "-made_at"], name="messages_of_a_club"),
            # what did not arrive is counted on the desk
            models.Index(
                fields=["club", "made_at"], condition=Q(fate="failed"), name="messages_not_sent"
            ),
        ]
        constraints = [
            models.UniqueConstraint(fields=["club", "key", "to_email"], name="a_message_once"),
            models.CheckConstraint(condition=Q(kind__in=Kind.values), name="message_kind_known"),
            models.CheckConstraint(condition=Q(fate__in=Fate.values), name="message_fate_known"),
        ]

    def __str__(self) -> str:
        return self.subject

    @property
    def urgent(self) -> bool:
        """Whether it waits for nobody."""
        return self.kind in URGENT

    @property
    def optional(self) -> bool:
        """Whether whoever gets it may stop it."""
        return self.kind in OPTIONAL


class LocalMail(models.Model):
    """A mail as it would have arrived, where no mail server is set: the local mailbox."""

    personal = Personal(
        "player", gone=True, plain=("to", "sender", "headers"), free=("subject", "text", "html")
    )

    club = models.ForeignKey(Club, null=True, on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey(Player, null=True, on_delete=models.CASCADE, related_name="+")
    to = models.CharField(max_length=300)
    sender = models.CharField(max_length=300)
    subject = models.CharField(max_length=200)
    text = models.TextField()
    html = models.TextField(blank=True)
    headers: Any = models.JSONField(default=dict)
    at = models.DateTimeField(auto_now_add=True)

    objects = LocalMailQuerySet.as_manager()

    class Meta:
        ordering = ["-at", "-id"]

    def __str__(self) -> str:
        return self.subject
