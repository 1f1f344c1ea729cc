"""What the core proposed, and what a coach made of it."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.personal import ERASED, Personal
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.review.before import BEFORE
from drill_ladder.apps.review.querysets import DecisionQuerySet, ProposalQuerySet
from drill_ladder.apps.stored import stored
from drill_ladder.formats.decision_documents import SAID


class State(models.TextChoices):
    """Whether a proposal still waits."""

    OPEN = "open", "Waiting"
    NOTED = "noted", "Nothing to decide"
    DECIDED = "decided", "Decided"
    REPLACED = "replaced", "Replaced by a later one"


class Proposal(models.Model):
    """One answer of the core for a stay. `said` is what it said; the days behind it are judged
    days.
    """

    personal = Personal("player", plain=("kind", "said"))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    # the stay's own: what waits is counted on every page, without asking for it
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="+", db_index=False)
    stay = models.ForeignKey(Stay, on_delete=models.CASCADE, related_name="proposals")
    kind = models.CharField(max_length=10)
    to_rung = models.ForeignKey(
        Rung, null=True, blank=True, on_delete=models.PROTECT, related_name="+"
    )
    said = stored(SAID)
    made_on = models.DateField()
    state = models.CharField(max_length=8, choices=State, default=State.OPEN)

    objects = ProposalQuerySet.as_manager()

    class Meta:
        ordering = ["made_on", "id"]
        indexes = [
            # what waits in a club is counted on every page
            models.Index(fields=["club"], condition=Q(state="open"), name="open_proposals"),
            models.Index(fields=["player", "stay", "-id"], name="proposals_of_a_player"),
        ]
        constraints = [
            models.UniqueConstraint(
                fields=["stay"], condition=Q(state="open"), name="one_open_proposal_a_stay"
            ),
            models.CheckConstraint(
                condition=Q(state__in=State.values), name="proposal_state_known"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.kind}: {self.stay}"

    @property
    def word(self) -> str:
        """The kind as a word."""
        return self.kind.replace("_", " ")


class Action(models.TextChoices):
    """What a coach did with a proposal."""

    CONFIRM = "confirm", "Confirmed"
    HOLD = "hold", "Held"
    OVERRIDE = "override", "Overridden"
    MOVED = "moved", "Moved by hand"


class Decision(models.Model):
    """Who decided what, when and why. `before` holds what undo needs to put back."""

    personal = Personal(
        "proposal__player", blank={"reason": ERASED}, free=("reason",), plain=("applied", "before")
    )

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    proposal = models.ForeignKey(Proposal, on_delete=models.CASCADE, related_name="decisions")
    action = models.CharField(max_length=8, choices=Action)
    applied = models.CharField(max_length=10)
    to_rung = models.ForeignKey(
        Rung, null=True, blank=True, on_delete=models.PROTECT, related_name="+"
    )
    reason = models.CharField(max_length=300, blank=True)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    on = models.DateField()
    at = models.DateTimeField(auto_now_add=True)
    before = stored(BEFORE, default=dict)
    undone_at = models.DateTimeField(null=True, blank=True)

    objects = DecisionQuerySet.as_manager()

    class Meta:
        ordering = ["-at", "-id"]
        indexes = [
            models.Index(
                fields=["by", "-id"], condition=Q(undone_at=None), name="standing_decisions_of"
            ),
        ]
        constraints = [
            models.CheckConstraint(
                condition=Q(action__in=Action.values), name="decision_action_known"
            ),
            models.CheckConstraint(
                condition=~Q(action__in=("override", "moved")) | ~Q(reason=""),
                name="override_says_why",
            ),
            models.UniqueConstraint(
                fields=["proposal"],
                condition=Q(undone_at__isnull=True),
                name="one_decision_in_force",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.get_action_display()} {self.proposal}"

    @property
    def said_short(self) -> str:
        """What it did, in a few words."""
        if self.to_rung is not None:
            return f"now on rung {self.to_rung.position}"
        return {"finish": "ladder finished", "ease": "eased", "recheck": "recheck first"}.get(
            self.applied, "held"
        )
