"""Putting a player on a ladder."""

from typing import Any

from django import forms

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.prescriptions.models import Place


class RungChoice(forms.ModelChoiceField):
    """Rungs by number and title."""

    def label_from_instance(self, obj: Any) -> str:
        """4. Gate at 8 m."""
        return f"{obj.position}. {obj.title}"


class PrescribeForm(forms.Form):
    """Starting rung, sessions a week, place."""

    rung = RungChoice(
        queryset=Rung.objects.none(),
        label="Starting rung",
        empty_label=None,
        help_text="Where the player mostly succeeds and still misses some.",
    )
    per_week = forms.IntegerField(
        label="Sessions a week",
        min_value=1,
        max_value=14,
        initial=3,
        error_messages={"min_value": "At least one a week.", "max_value": "At most 14 a week."},
    )
    place = forms.ChoiceField(label="Where", choices=Place.choices, initial=Place.BOTH)

    def __init__(self, *args: Any, ladder: Ladder, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["rung"].queryset = ladder.rungs.all()  # type: ignore[attr-defined]
