"""What guardians agreed to, and what they took back."""

from datetime import date

from django.conf import settings
from django.db import models
from django.db.models import Q

from drill_ladder.apps.people.querysets import AgreementQuerySet
from drill_ladder.apps.personal import Personal


class AgreedTo(models.TextChoices):
    """What a guardian is asked for."""

    HOME = "home", "Work at home"
    BOARDS = "boards", "Challenge boards, by initials"
    REPORTS = "reports", "Reports by mail"
    EAR = "ear", "Counting by ear: the microphone, while counting"
    REMINDER = "reminder", "A reminder of work at home, once a week at most"


class Agreement(models.Model):
    """A guardian's word. by: who gave it, as the club knows them; given_on, withdrawn_on: the days
    of it; noted_by: the member who noted it. It is never changed, only withdrawn.
    """

    personal = Personal("player", gone=True, plain=("by",), most=2_000)

    club = models.ForeignKey("people.Club", on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey("people.Player", on_delete=models.CASCADE, related_name="agreements")
    what = models.CharField(max_length=8, choices=AgreedTo)
    by = models.CharField(max_length=120)
    given_on = models.DateField()
    noted_at = models.DateTimeField(auto_now_add=True)
    noted_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    withdrawn_on = models.DateField(null=True, blank=True)

    objects = AgreementQuerySet.as_manager()

    class Meta:
        ordering = ["-given_on", "-id"]
        constraints = [
            models.CheckConstraint(condition=Q(what__in=AgreedTo.values), name="agreed_to_known"),
            models.CheckConstraint(
                condition=Q(withdrawn_on=None) | Q(withdrawn_on__gte=models.F("given_on")),
                name="withdrawn_after_it_was_given",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.get_what_display()}: {self.by}"

    @property
    def words(self) -> str:
        """Who and when."""
        words = f"{self.by}, {_day(self.given_on)}"
        return f"{words}; withdrawn {_day(self.withdrawn_on)}" if self.withdrawn_on else words


def _day(on: date) -> str:
    return f"{on:%-d %B %Y}"
