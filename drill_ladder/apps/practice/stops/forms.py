"""The form that ends a stop."""

from django import forms

from drill_ladder.ui.fields import Line


class EndStopForm(forms.Form):
    """Who cleared the player."""

    cleared_by = Line(
        label="Who cleared the player?",
        max_length=200,
        help_text="For example: physiotherapist, by phone with the guardian",
        error_messages={"required": "Please note who cleared the player. The stop is still open."},
    )
