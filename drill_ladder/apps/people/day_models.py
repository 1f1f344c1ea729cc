"""A player's days, and dated words about them."""

from django.db import models
from django.db.models import Q

from drill_ladder.apps.people.querysets import PlayerNoteQuerySet
from drill_ladder.apps.personal import Personal
from drill_ladder.core.work import Place

PLACES = {Place.HOME: "Home", Place.CLUB: "Club"}


class PlayerDay(models.Model):
    """A weekday on which a player has time. weekday: 0 is Monday; helper: somebody who can feed is
    there.
    """

    personal = Personal("player", gone=True, most=200)

    club = models.ForeignKey("people.Club", on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey("people.Player", on_delete=models.CASCADE, related_name="days")
    weekday = models.PositiveSmallIntegerField()
    minutes = models.PositiveSmallIntegerField()
    place = models.CharField(max_length=4, choices=PLACES, default=Place.HOME)
    helper = models.BooleanField(default=False)
    adult = models.BooleanField(default=False)

    class Meta:
        ordering = ["weekday"]
        constraints = [
            models.UniqueConstraint(fields=["player", "weekday"], name="a_weekday_once"),
            models.CheckConstraint(condition=Q(weekday__lte=6), name="weekday_of_a_week"),
            models.CheckConstraint(
                condition=Q(minutes__gte=1, minutes__lte=480), name="minutes_of_a_day"
            ),
            models.CheckConstraint(condition=Q(place__in=list(Place)), name="day_place_known"),
        ]

    def __str__(self) -> str:
        return f"{self.get_place_display()}, {self.minutes} min"


class PlayerNote(models.Model):
    """A dated word about a player. shared: the family may read it; else it is for coaches only."""

    personal = Personal("player", gone=True, free=("text",), most=20_000)

    club = models.ForeignKey("people.Club", on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey("people.Player", on_delete=models.CASCADE, related_name="notes")
    on = models.DateField()
    text = models.CharField(max_length=500)
    shared = models.BooleanField(default=False)
    by = models.ForeignKey(
        "people.User", null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )

    objects = PlayerNoteQuerySet.as_manager()

    class Meta:
        ordering = ["-on", "-id"]

    def __str__(self) -> str:
        return self.text
