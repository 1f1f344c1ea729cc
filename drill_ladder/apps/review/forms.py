"""Deciding."""

from django import forms

from drill_ladder.apps.review.models import Action
from drill_ladder.apps.review.services import CHOICES
from drill_ladder.ui.fields import Line


class DecideForm(forms.Form):
    """What a coach does with a proposal."""

    action = forms.ChoiceField(choices=Action.choices)
    applied = forms.ChoiceField(
        choices=[(kind.value, kind.value) for kind in CHOICES], required=False
    )
    reason = Line(max_length=300, required=False)
