"""How long a club keeps what, and the receipts of what it erased."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.people.querysets import ClubQuerySet
from drill_ladder.apps.personal import Personal

LONGEST = 240  # months


class Retention(models.Model):
    """A club's periods, in months; empty: until somebody does it by hand. players: after they were
    put aside; mail: of the outbox.
    """

    personal = Personal()

    club = models.OneToOneField(Club, on_delete=models.CASCADE, related_name="retention")
    players = models.PositiveSmallIntegerField(null=True, blank=True)
    mail = models.PositiveSmallIntegerField(null=True, blank=True)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=(Q(players=None) | Q(players__gte=1, players__lte=LONGEST))
                & (Q(mail=None) | Q(mail__gte=1, mail__lte=LONGEST)),
                name="retention_in_months",
            )
        ]

    def __str__(self) -> str:
        return f"periods of {self.club}"


class UnreadDocument(models.Model):
    """A stored document that could not be read when it was last looked at: where it is, and why."""

    personal = Personal(plain=("table", "row", "column", "why"))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="unread_documents")
    table = models.CharField(max_length=60)
    row = models.CharField(max_length=40)
    column = models.CharField(max_length=40)
    why = models.CharField(max_length=300)
    seen_on = models.DateField()

    objects = ClubQuerySet.as_manager()

    class Meta:
        ordering = ["table", "row"]

    def __str__(self) -> str:
        return f"{self.table} {self.row}, {self.column}: {self.why}"


class ReceiptQuerySet(ClubQuerySet):
    """Receipts."""

    def with_by(self) -> "ReceiptQuerySet":
        """With who erased at hand."""
        return self.select_related("by")


class Receipt(models.Model):
    """That somebody was erased: number, when, by whom, how many rows of what. It holds no name."""

    personal = Personal(plain=("number", "counts"))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    number = models.CharField(max_length=12, unique=True)
    at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    counts = models.JSONField(default=dict)

    objects = ReceiptQuerySet.as_manager()

    class Meta:
        ordering = ["-at", "-id"]

    def __str__(self) -> str:
        return f"Receipt {self.number}"
