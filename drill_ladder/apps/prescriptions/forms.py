"""Putting a player on a ladder."""

from dataclasses import asdict, replace
from datetime import date, timedelta
from typing import Any

from django import forms

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.library.rules import Numbers, choices, numbers_of, school_of
from drill_ladder.apps.people.models import Squad
from drill_ladder.apps.prescriptions.dose import minutes_of
from drill_ladder.apps.prescriptions.models import Prescription, Setting, Source
from drill_ladder.core.judging import DoseChange, Overrides, Rule, TargetChange
from drill_ladder.formats.rung_fields import INTENTS
from drill_ladder.ui.fields import Day, FormValues, Line, Number, Whole

PRIORITIES = [(1, "first"), (2, "as usual"), (3, "when there is time")]
DAY = forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")


class RungChoice(forms.ModelChoiceField):
    """Rungs by number and title."""

    def label_from_instance(self, obj: Any) -> str:
        """4. Gate at 8 m."""
        return f"{obj.position}. {obj.title}"


# what the form and the prescription hold alike
PLAIN = ("rest_day_between", "tired_too", "smaller", "intent", "review_on", "retention")


def _minutes(rung: Rung) -> int:
    """What a session there takes."""
    return minutes_of(rung.core)


def _whole(label: str, low: int, high: int, **more: Any) -> forms.IntegerField:
    return Whole(label=label, min_value=low, max_value=high, required=False, **more)


class PrescribeForm(forms.Form):
    """Starting rung, sessions a week, place, and what is different for this player (empty: as the
    ladder has it).
    """

    rung = RungChoice(
        queryset=Rung.objects.none(),
        label="Starting rung",
        empty_label=None,
        help_text="Where the player mostly succeeds and still misses some.",
    )
    per_week = Whole(
        label="Sessions a week",
        min_value=1,
        max_value=14,
        initial=3,
        error_messages={"min_value": "At least one a week.", "max_value": "At most 14 a week."},
    )
    place = forms.ChoiceField(label="Where", choices=Setting.choices, initial=Setting.BOTH)
    priority = forms.TypedChoiceField(
        label="How urgent",
        choices=PRIORITIES,
        coerce=int,
        initial=2,
        empty_value=None,
        required=False,
    )
    rest_day_between = forms.BooleanField(label="A rest day between", required=False)
    smaller = forms.BooleanField(
        label="Smaller than drawn where the home has no more room", required=False
    )
    tired_too = forms.BooleanField(
        label="Once more on the same day, tired",
        help_text="Fresh first, and again at the end: the difference is what tiredness costs.",
        required=False,
    )
    intent = forms.ChoiceField(
        label="What for", choices=[("", "as the rungs say"), *INTENTS], required=False
    )
    starts_on = Day(label="From", required=False, widget=DAY)
    review_on = Day(label="Look at it again on", required=False, widget=DAY)
    retention = forms.BooleanField(
        label="Check finished rungs again later", required=False, initial=True
    )
    sets = _whole("Sets", 1, 50)
    reps = _whole("Attempts a set", 1, 1000)
    rest_s = Number(label="Rest, s", min_value=0, max_value=3600, required=False)
    makes = _whole("Good ones", 0, 1000)
    of = _whole("of", 1, 1000)
    value = Number(label="Target value", min_value=0, required=False)
    school = forms.ChoiceField(
        label="Climbs by", choices=[("", "the ladder's rule"), *choices()], required=False
    )
    passes = _whole("Passes", 1, 10)
    of_last = _whole("of the last", 1, 10)
    sessions = _whole("Sessions here", 1, 50)

    def __init__(self, *args: Any, ladder: Ladder, today: date, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.ladder, self.today = ladder, today
        self.kept_review: date | None = None
        self.fields["rung"].queryset = ladder.rungs.all()  # type: ignore[attr-defined]

    def clean(self) -> FormValues:
        """Days in order, targets whole."""
        data = super().clean() or self.cleaned_data
        first, again = data.get("starts_on"), data.get("review_on")
        if first and abs(first - self.today) > timedelta(days=366):
            self.add_error("starts_on", "More than a year away: is the year right?")
        if again and again < (first or self.today) and again != self.kept_review:
            self.add_error("review_on", "That is before it starts.")
        if (data.get("makes") is None) != (data.get("of") is None):
            self.add_error("makes", "Good ones of how many? Give both, or neither.")
        if data.get("school") == "window" and (data.get("passes") or 2) > (
            data.get("of_last") or 3
        ):
            self.add_error("passes", "More passes than sessions looked at.")
        return data

    def more(self) -> FormValues:
        """What else the prescription keeps."""
        data = self.cleaned_data
        plain = {key: data[key] for key in PLAIN}
        return {**plain, "priority": data["priority"] or 2, "overrides": self.overrides()}

    def overrides(self) -> Overrides:
        """What is different for this player."""
        data = self.cleaned_data
        target = TargetChange(data["makes"], data["of"], data["value"])
        return Overrides(
            dose=DoseChange(data["sets"], data["reps"], data["rest_s"]),
            target=target,
            target_rung=None if target == TargetChange() else self.at_rung().pk,
            rule=self._rule() if data["school"] else None,
        )

    def at_rung(self) -> Rung:
        """The rung whose target may be different for this player."""
        chosen: Rung = self.cleaned_data["rung"]
        return chosen

    def _rule(self) -> Rule:
        data = self.cleaned_data
        numbers = Numbers.typed(
            passes=data["passes"], of=data["of_last"], sessions=data["sessions"]
        )
        return replace(self.ladder.rule, school=school_of(data["school"], numbers))


class ChangeForm(PrescribeForm):
    """A prescription that runs: the rung is where the player stands."""

    seen = Line(widget=forms.HiddenInput)

    def __init__(self, *args: Any, prescription: Prescription, at: Rung, **kwargs: Any) -> None:
        super().__init__(*args, ladder=prescription.ladder, **kwargs)
        del self.fields["rung"], self.fields["starts_on"]
        self.before, self.at = prescription.overrides, at
        self.kept_review = prescription.review_on

    def at_rung(self) -> Rung:
        """Where the player stands."""
        return self.at

    def overrides(self) -> Overrides:
        """As typed; a target of another rung stays, and so does a rule whose school stays."""
        typed, before = super().overrides(), self.before
        if typed.target_rung is None and before.target_rung not in (None, self.at.pk):
            typed = replace(typed, target=before.target, target_rung=before.target_rung)
        if before.rule and typed.rule and before.rule.school == typed.rule.school:
            typed = replace(typed, rule=before.rule)
        return typed


def change_values(prescription: Prescription, at: Rung) -> FormValues:
    """What is prescribed, as the form opens."""
    plain = ("per_week", "place", "priority", *PLAIN)
    own = prescription.overrides
    values = {name: getattr(prescription, name) for name in plain} | asdict(own.dose)
    if own.target_rung == at.pk:
        values |= asdict(own.target)
    if own.rule:
        numbers = numbers_of(own.rule.school)
        values |= {
            "school": own.rule.school.name,
            "passes": numbers.passes,
            "of_last": numbers.of,
            "sessions": numbers.sessions,
        }
    return values


class FocusForm(forms.Form):
    """A skill that a player should work on."""

    skill = Line(label="Skill", max_length=80, widget=forms.TextInput(attrs={"list": "skills"}))
    priority = forms.TypedChoiceField(label="How urgent", choices=PRIORITIES, coerce=int, initial=2)
    source = forms.ChoiceField(label="From", choices=Source.choices)
    why = Line(label="Why", max_length=300, required=False)


class ChosenForm(forms.Form):
    """Where a player starts after a placement, and why, where it is not the proposal."""

    rung = RungChoice(queryset=Rung.objects.none(), label="Start on", empty_label=None)
    reason = Line(label="Why, if you start elsewhere", max_length=300, required=False)

    def __init__(self, *args: Any, ladder: Ladder, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["rung"].queryset = ladder.rungs.all()  # type: ignore[attr-defined]


class SquadForm(forms.Form):
    """One ladder for many, each from their own rung."""

    per_week = Whole(label="Sessions a week", min_value=1, max_value=14, initial=2)
    place = forms.ChoiceField(label="Where", choices=Setting.choices, initial=Setting.BOTH)

    def __init__(
        self, *args: Any, ladder: Ladder, squad: Squad, starts: dict[int, int], **kwargs: Any
    ) -> None:
        super().__init__(*args, **kwargs)
        self.players = list(squad.players.all())
        rungs = ladder.rungs.select_related("drill")
        named = [
            (rung.pk, f"{rung.position}. {rung.title}, {_minutes(rung)}\u00a0min") for rung in rungs
        ]
        for player in self.players:
            field = RungChoice(
                queryset=rungs,
                label=f"{player} starts on",
                required=False,
                initial=starts.get(player.pk),
            )
            field.choices = [("", "not now"), *named]  # asked for once, not once a player
            field.widget.attrs["aria-label"] = field.label
            self.fields[f"rung-{player.pk}"] = field

    def rows(self) -> list[tuple[Any, Any]]:
        """Players with their fields."""
        return [(player, self[f"rung-{player.pk}"]) for player in self.players]
