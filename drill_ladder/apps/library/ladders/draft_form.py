"""A first draft of a ladder from chosen axes."""

from typing import Any

from django import forms

from drill_ladder.apps.library.ladders.rung_form import AXES
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.models import Club
from drill_ladder.core.coaching import Axis, Steps, draft_ladder
from drill_ladder.core.judging import Makes
from drill_ladder.ui.fields import FormValues, Line, Whole, listed

MOST_RUNGS = 30  # of a draft: more is no draft any more


class DraftForm(forms.Form):
    """A first draft: one drill, up to three axes with their steps from the easiest to the
    hardest.
    """

    drill = forms.ModelChoiceField(queryset=Drill.objects.none(), label="Drill", empty_label=None)
    makes = Whole(label="Good ones", min_value=0, max_value=1000, initial=8)
    of = Whole(label="of", min_value=1, max_value=1000, initial=10)
    axis_1 = forms.ChoiceField(label="Harder by", choices=AXES[1:])
    steps_1 = Line(label="Steps, the easiest first", help_text="With commas between: 4 m, 6 m, 8 m")
    axis_2 = forms.ChoiceField(label="then by", choices=AXES, required=False)
    steps_2 = Line(label="Steps", required=False)
    axis_3 = forms.ChoiceField(label="then by", choices=AXES, required=False)
    steps_3 = Line(label="Steps", required=False)

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["drill"].queryset = Drill.objects.in_use().of_club(club)  # type: ignore[attr-defined]

    def clean(self) -> FormValues:
        """Two steps at least on every axis, each axis once, not too many rungs."""
        data = super().clean() or self.cleaned_data
        if (
            data.get("makes") is not None
            and data.get("of") is not None
            and data["makes"] > data["of"]
        ):
            self.add_error("makes", "More good ones than attempts.")
        for number in (1, 2, 3):
            if data.get(f"axis_{number}") and len(self._steps(number)) < 2:
                self.add_error(f"steps_{number}", "Two steps at least, with a comma between.")
        axes = [axis.axis for axis in self.axes()]
        if len(set(axes)) < len(axes):
            raise forms.ValidationError("Each way of getting harder once, please.")
        if sum(len(axis.steps) - 1 for axis in self.axes()) >= MOST_RUNGS:
            raise forms.ValidationError(f"That would be more than {MOST_RUNGS} rungs.")
        return data

    def _steps(self, number: int) -> tuple[str, ...]:
        return tuple(listed(self.cleaned_data.get(f"steps_{number}")))

    def axes(self) -> list[Steps]:
        """The axes that were chosen."""
        chosen = [(self.cleaned_data.get(f"axis_{n}"), self._steps(n)) for n in (1, 2, 3)]
        return [Steps(Axis(axis), steps) for axis, steps in chosen if axis]

    def rows(self) -> list[FormValues]:
        """The draft as rows of the builder: one axis changes a rung, the axes take turns."""
        data = self.cleaned_data
        counts = isinstance(data["drill"].measure, Makes)
        goal = {"makes": data["makes"], "of": data["of"], "reps": data["of"]} if counts else {}
        order = {axis.axis: i for i, axis in enumerate(self.axes())}
        rows = []
        for rung in draft_ladder(self.axes()):
            words = (
                {"axis": rung.changed.value, "changes": rung.values[order[rung.changed]]}
                if rung.changed
                else {}
            )
            same = {"drill": data["drill"].pk, "sets": 1, "each_lane": bool(data["drill"].lanes)}
            rows.append({**same, "title": ", ".join(rung.values), **goal, **words})
        return rows
