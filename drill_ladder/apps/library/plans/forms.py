"""Asking about a floor plan: does it fit, and how many paces is it?"""

from typing import Any

from django import forms

from drill_ladder.apps.people.models import PACE_CM, SHOE_CM, Club, Player
from drill_ladder.ui.fields import Number


class SpaceForm(forms.Form):
    """A space to try a floor plan in."""

    width = Number(label="Width, m", min_value=0.5, max_value=200)
    depth = Number(label="Depth, m", min_value=0.5, max_value=200)


class StrideForm(forms.Form):
    """How long a pace and a shoe are, for setting up without a tape: a player's own, or as
    typed.
    """

    player = forms.ModelChoiceField(
        queryset=Player.objects.none(), label="Whose", required=False, empty_label="as typed"
    )
    pace_cm = Number(
        label="One pace, cm", min_value=PACE_CM[0], max_value=PACE_CM[1], required=False
    )
    shoe_cm = Number(
        label="One shoe, cm", min_value=SHOE_CM[0], max_value=SHOE_CM[1], required=False
    )

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        players = Player.objects.of_club(club).exclude(stride_m__isnull=True, shoe_m__isnull=True)
        self.fields["player"].queryset = players  # type: ignore[attr-defined]

    def lengths(self) -> dict[str, float | None]:
        """In metres."""
        pace, shoe = self.cleaned_data["pace_cm"], self.cleaned_data["shoe_cm"]
        who = self.cleaned_data["player"]
        if who is not None:
            return {"stride_m": who.stride_m, "shoe_m": who.shoe_m}
        return {
            "stride_m": pace / 100 if pace else None,
            "shoe_m": shoe / 100 if shoe else None,
        }
