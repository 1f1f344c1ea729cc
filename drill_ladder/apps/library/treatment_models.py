"""What treats a fault: a cue, a drill, a rung."""

from django.db import models

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.personal import Personal


class Treatment(models.Model):
    """What treats a fault of a drill: a cue, another drill, a rung; at least one of them."""

    personal = Personal(free=("cue",), plain=("fault",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    drill = models.ForeignKey("library.Drill", on_delete=models.CASCADE, related_name="treatments")
    fault = models.CharField(max_length=80)
    cue = models.CharField(max_length=200, blank=True)
    by_drill = models.ForeignKey(
        "library.Drill", null=True, blank=True, on_delete=models.SET_NULL, related_name="treats"
    )
    by_rung = models.ForeignKey(
        "library.Rung", null=True, blank=True, on_delete=models.SET_NULL, related_name="treats"
    )

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["drill", "fault"], name="one_treatment_a_fault")
        ]

    def __str__(self) -> str:
        return f"{self.fault}: {self.words}"

    @property
    def words(self) -> str:
        """The cue in quotes, then what to do instead."""
        by = (
            f"{self.by_rung.ladder}, rung {self.by_rung.position}"
            if self.by_rung
            else str(self.by_drill or "")
        )
        return "; ".join(part for part in (f"“{self.cue}”" if self.cue else "", by) if part)
