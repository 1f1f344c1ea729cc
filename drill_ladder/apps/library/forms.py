"""Trying and taking rules."""

from dataclasses import replace
from typing import Any

from django import forms

from drill_ladder.apps.library.drill_form import KINDS
from drill_ladder.apps.library.models import Caution, Drill, People
from drill_ladder.apps.library.odds import USUAL_MARKS, Marks, choices, numbers_of, school_of
from drill_ladder.apps.people.models import PACE_CM, SHOE_CM, Club, Player
from drill_ladder.core.rules import Rule, Trust
from drill_ladder.web.fields import Line, Number, Row, Whole

TRUST = [
    (Trust.ANY.value, "Anybody's count"),
    (Trust.LAST_PASS_OBSERVED.value, "The last pass seen by a coach"),
    (Trust.OBSERVED_ONLY.value, "Only what a coach or a device saw"),
]


def _whole(label: str, low: int, high: int) -> forms.IntegerField:
    wrong = {"min_value": f"At least {low}.", "max_value": f"At most {high}.", "required": "A number, please."}
    return Whole(label=label, min_value=low, max_value=high, error_messages=wrong)


class RuleForm(Row):
    """A rule in numbers, and the two marks by which it is looked at."""

    school = forms.ChoiceField(label="School", choices=choices(), widget=forms.RadioSelect)
    passes = _whole("Passes", 1, 10)
    of = _whole("Of the last", 1, 10)
    confidence = _whole("Certain to, %", 50, 99)
    half_life = Number(label="Half-life, sessions", min_value=0.5, max_value=20)
    sessions = _whole("Sessions here", 1, 50)
    reps = Whole(label="or repetitions", min_value=1, max_value=100_000, required=False)
    min_sessions = _whole("At least sessions here", 1, 20)
    min_days_between = _whole("Days between passes", 0, 30)
    trust = forms.ChoiceField(label="Whose count", choices=TRUST)
    not_ready = _whole("Not ready is, %", 0, 99)
    ready = _whole("Ready is, %", 1, 100)
    horizon = _whole("Within sessions", 1, 30)
    alpha = _whole("Moved up too soon, at most %", 1, 50)
    beta = _whole("Kept back, at most %", 1, 50)
    revision = Whole(widget=forms.HiddenInput)

    def clean(self) -> dict[str, Any]:
        """Not ready is under ready; a window is as long as its passes."""
        data = super().clean() or self.cleaned_data
        if data.get("not_ready", 0) >= data.get("ready", 101):
            self.add_error("not_ready", "“Not ready” has to be a lower rate than “ready”.")
        if data.get("school") == "window" and data.get("passes", 0) > data.get("of", 99):
            self.add_error("passes", "More passes than sessions looked at.")
        return data

    def marks(self) -> Marks:
        """The coach's marks."""
        data = self.cleaned_data
        return Marks(data["not_ready"] / 100, data["ready"] / 100, data["horizon"])

    def own_marks(self) -> dict[str, int]:
        """The marks as a coach's membership keeps them."""
        return {key: self.cleaned_data[key] for key in USUAL_MARKS}

    def rule(self, base: Rule) -> Rule:
        """The rule as typed; what the form does not show stays as it was."""
        data = self.cleaned_data
        return replace(
            base,
            school=school_of(data["school"], data),
            min_sessions=data["min_sessions"],
            min_days_between=data["min_days_between"],
            trust=Trust(data["trust"]),
        )


def first_values(rule: Rule, revision: int) -> dict[str, Any]:
    """The form as it opens: the rule in force and usual marks."""
    return {
        "school": rule.school.name,
        **numbers_of(rule.school),
        "min_sessions": rule.min_sessions,
        "min_days_between": rule.min_days_between,
        "trust": rule.trust.value,
        **USUAL_MARKS,
        "revision": revision,
    }


class SpaceForm(forms.Form):
    """A space to try a floor plan in."""

    width = Number(label="Width, m", min_value=0.5, max_value=200)
    depth = Number(label="Depth, m", min_value=0.5, max_value=200)


class StrideForm(forms.Form):
    """How long a pace and a shoe are, for setting up without a tape: a player's own, or as typed."""

    player = forms.ModelChoiceField(
        queryset=Player.objects.none(), label="Whose", required=False, empty_label="as typed"
    )
    pace_cm = Number(label="One pace, cm", min_value=PACE_CM[0], max_value=PACE_CM[1], required=False)
    shoe_cm = Number(label="One shoe, cm", min_value=SHOE_CM[0], max_value=SHOE_CM[1], required=False)

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        known = Player.objects.of_club(club).exclude(stride_m__isnull=True, shoe_m__isnull=True)
        self.fields["player"].queryset = known  # type: ignore[attr-defined]

    def lengths(self) -> dict[str, float | None]:
        """In metres."""
        pace, shoe = self.cleaned_data["pace_cm"], self.cleaned_data["shoe_cm"]
        who = self.cleaned_data["player"]
        if who is not None:
            return {"stride_m": who.stride_m, "shoe_m": who.shoe_m}
        return {"stride_m": pace / 100 if pace else None, "shoe_m": shoe / 100 if shoe else None}


class SearchForm(forms.Form):
    """Looking for drills."""

    words = Line(label="Words", required=False, max_length=100)
    skill = forms.ChoiceField(label="Skill", required=False)
    kind = forms.ChoiceField(label="Scored by", choices=[("", "any"), *KINDS], required=False)
    lane = forms.ChoiceField(label="Lane", required=False)
    tool = forms.ChoiceField(label="Tool", required=False)
    surface = forms.ChoiceField(label="Surface", required=False)
    people = forms.ChoiceField(label="Who", choices=[("", "anybody"), *People.choices], required=False)
    caution = forms.ChoiceField(label="Where", choices=[("", "anywhere"), *Caution.choices], required=False)

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        known = Drill.objects.of_club(club).values_list("skill__name", "lanes", "tools", "surfaces")
        rows = [([skill] if skill else [], *listed) for skill, *listed in known]
        for column, name in enumerate(("skill", "lane", "tool", "surface")):
            found = sorted({value for row in rows for value in row[column]})
            self.fields[name].choices = [("", "any"), *((v, v) for v in found)]  # type: ignore[attr-defined]
