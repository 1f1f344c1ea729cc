"""Looking for drills."""

from typing import Any

from django import forms

from drill_ladder.apps.library.drills.form import KINDS
from drill_ladder.apps.library.models import Caution, Drill, People
from drill_ladder.apps.people.models import Club
from drill_ladder.ui.fields import Line


class SearchForm(forms.Form):
    """Looking for drills."""

    words = Line(label="Words", required=False, max_length=100)
    skill = forms.ChoiceField(label="Skill", required=False)
    kind = forms.ChoiceField(label="Scored by", choices=[("", "any"), *KINDS], required=False)
    lane = forms.ChoiceField(label="Lane", required=False)
    tool = forms.ChoiceField(label="Tool", required=False)
    surface = forms.ChoiceField(label="Surface", required=False)
    people = forms.ChoiceField(
        label="Who", choices=[("", "anybody"), *People.choices], required=False
    )
    caution = forms.ChoiceField(
        label="Where", choices=[("", "anywhere"), *Caution.choices], required=False
    )

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        drills = Drill.objects.of_club(club).values_list(
            "skill__name", "lanes", "tools", "surfaces"
        )
        rows = [([skill] if skill else [], *listed) for skill, *listed in drills]
        for column, name in enumerate(("skill", "lane", "tool", "surface")):
            choices = sorted({value for row in rows for value in row[column]})
            self.fields[name].choices = [("", "any"), *((v, v) for v in choices)]  # type: ignore[attr-defined]
