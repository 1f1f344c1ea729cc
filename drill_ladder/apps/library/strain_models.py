"""Limits on what strains a body, and on the size of tools. The program ships none: a club enters
those of its own governing body.
"""

from django.db import models
from django.db.models import Q

from drill_ladder.apps.library.querysets import StrainLimitQuerySet, ToolLimitQuerySet
from drill_ladder.apps.people.models import Club, Squad
from drill_ladder.apps.personal import Personal
from drill_ladder.core.planning import SizeLimit
from drill_ladder.core.statistics import Strain


class StrainLimit(models.Model):
    """So many repetitions of a kind in a week. squad: only for it, and there before the one of the
    whole club; body: whose limit it is; of: the date of their rule.
    """

    personal = Personal(free=("body",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="strain_limits")
    squad = models.ForeignKey(
        Squad, null=True, blank=True, on_delete=models.CASCADE, related_name="strain_limits"
    )
    strain = models.CharField(max_length=16, choices=[(k.value, k.value) for k in Strain])
    per_week = models.PositiveIntegerField()
    body = models.CharField(max_length=120)
    of = models.DateField()

    objects = StrainLimitQuerySet.as_manager()

    class Meta:
        ordering = ["strain", "squad__name"]
        constraints = [
            models.UniqueConstraint(
                fields=["club", "squad", "strain"],
                name="one_limit_a_kind",
                nulls_distinct=False,
            ),
            models.CheckConstraint(
                condition=Q(strain__in=[k.value for k in Strain]), name="strain_known"
            ),
            models.CheckConstraint(condition=Q(per_week__gte=1), name="limit_from_one"),
        ]

    def __str__(self) -> str:
        return f"{self.per_week} {self.strain} a week ({self.body}, {self.of:%-d %B %Y})"


class ToolLimit(models.Model):
    """How long a tool may be, centimetres. under: only for players younger than this, full years;
    None: for all; body: whose limit it is; of: the date of their rule.
    """

    personal = Personal(free=("body",), plain=("tool",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    tool = models.CharField(max_length=60)
    least_cm = models.FloatField(null=True, blank=True)
    most_cm = models.FloatField(null=True, blank=True)
    under = models.PositiveSmallIntegerField(null=True, blank=True)
    body = models.CharField(max_length=120)
    of = models.DateField()

    objects = ToolLimitQuerySet.as_manager()

    class Meta:
        ordering = ["tool", "under", "id"]
        constraints = [
            models.UniqueConstraint(
                fields=["club", "tool", "under"], name="one_limit_a_tool", nulls_distinct=False
            ),
            models.CheckConstraint(
                condition=Q(least_cm__gt=0) | Q(most_cm__gt=0), name="tool_limit_says_something"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.tool} {self.words}"

    @property
    def words(self) -> str:
        """From how much to how much, and for whom."""
        least = f"at least {self.least_cm:g}" if self.least_cm else ""
        most = f"at most {self.most_cm:g}" if self.most_cm else ""
        sizes = f"{least}, {most}" if least and most else least or most
        return f"{sizes}\u00a0cm" + (f" under {self.under}" if self.under else "")

    @property
    def core(self) -> SizeLimit:
        """As the core has it."""
        whose = f"{self.body}, {self.of:%-d %B %Y}"
        return SizeLimit(self.tool, self.least_cm, self.most_cm, self.under, whose)
