"""Trying and taking rules."""

from dataclasses import asdict, fields, replace

from django import forms

from drill_ladder.apps.library.rules.odds import (
    USUAL_MARKS,
    Marks,
    Numbers,
    choices,
    numbers_of,
    school_of,
)
from drill_ladder.core.judging import Rule, Trust
from drill_ladder.ui.fields import FormValues, Number, Row, Whole

TRUST = [
    (Trust.ANY.value, "Anybody's count"),
    (Trust.LAST_PASS_OBSERVED.value, "The last pass seen by a coach"),
    (Trust.OBSERVED_ONLY.value, "Only what a coach or a device saw"),
]


def _whole(label: str, low: int, high: int) -> forms.IntegerField:
    wrong = {
        "min_value": f"At least {low}.",
        "max_value": f"At most {high}.",
        "required": "A number, please.",
    }
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

    def clean(self) -> FormValues:
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

    def numbers(self) -> Numbers:
        """The numbers of the schools as typed."""
        return Numbers.typed(
            **{field.name: self.cleaned_data[field.name] for field in fields(Numbers)}
        )

    def rule(self, base: Rule) -> Rule:
        """The rule as typed; what the form does not show stays as it was."""
        data = self.cleaned_data
        return replace(
            base,
            school=school_of(data["school"], self.numbers()),
            min_sessions=data["min_sessions"],
            min_days_between=data["min_days_between"],
            trust=Trust(data["trust"]),
        )


def first_values(rule: Rule, revision: int) -> FormValues:
    """The form as it opens: the rule in force and usual marks."""
    numbers = numbers_of(rule.school)
    return {
        "school": rule.school.name,
        **asdict(numbers),
        "reps": numbers.reps or "",
        "min_sessions": rule.min_sessions,
        "min_days_between": rule.min_days_between,
        "trust": rule.trust.value,
        **USUAL_MARKS,
        "revision": revision,
    }
