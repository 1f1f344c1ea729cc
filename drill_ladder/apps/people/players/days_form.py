"""The form of a player's week: which weekdays, how long, where, with whom."""

from collections.abc import Iterator
from typing import Any

from django import forms
from django.forms import BoundField

from drill_ladder.apps.people.models import PLACES, Player
from drill_ladder.core.work import Place
from drill_ladder.ui.fields import FormValues, Whole

WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
PARTS = ("minutes", "place", "helper", "adult")


class DaysForm(forms.Form):
    """Seven rows. A day without minutes is no day for drills."""

    def __init__(self, *args: Any, player: Player | None = None, **kwargs: Any) -> None:
        kwargs.setdefault("prefix", "day")
        super().__init__(*args, **kwargs)
        days = {day.weekday: day for day in player.days.all()} if player and player.pk else {}
        for number, name in enumerate(WEEKDAYS):
            self._add(number, name, days.get(number))

    def _add(self, number: int, name: str, known: Any) -> None:
        wrong = {
            "min_value": "At least one minute, or leave it empty.",
            "max_value": "At most eight hours.",
            "invalid": "A number of minutes.",
        }
        fields: dict[str, forms.Field] = {
            "minutes": Whole(min_value=1, max_value=480, required=False, error_messages=wrong),
            "place": forms.ChoiceField(choices=list(PLACES.items()), required=False),
            "helper": forms.BooleanField(required=False),
            "adult": forms.BooleanField(required=False),
        }
        words = {
            "minutes": "minutes",
            "place": "where",
            "helper": "somebody who feeds",
            "adult": "an adult is there",
        }
        for part, field in fields.items():
            field.label = f"{name}: {words[part]}"
            field.initial = getattr(known, part) if known else None
            field.widget.attrs["aria-label"] = field.label
            self.fields[f"{number}-{part}"] = field
        self.fields[f"{number}-minutes"].widget.attrs["inputmode"] = "numeric"

    def rows(self) -> Iterator[tuple[str, list[BoundField]]]:
        """Weekday and its fields."""
        for number, name in enumerate(WEEKDAYS):
            yield name, [self[f"{number}-{part}"] for part in PARTS]

    def values(self) -> list[FormValues]:
        """The days with minutes."""
        data = self.cleaned_data
        rows = [{"weekday": n, **{part: data[f"{n}-{part}"] for part in PARTS}} for n in range(7)]
        return [{**row, "place": row["place"] or Place.HOME} for row in rows if row["minutes"]]
