"""Limits on what strains a body. The program ships none: a club enters those of its own governing
body.
"""

from django.db import models
from django.db.models import Q

from drill_ladder.apps.library.querysets import StrainLimitQuerySet
from drill_ladder.apps.people.models import Club, Squad
from drill_ladder.apps.personal import Personal
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
