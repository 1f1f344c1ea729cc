"""Forms about tests."""

from typing import Any
from uuid import uuid4

from django import forms

from drill_ladder.apps.floor.models import Battery, Protocol, RoutineBy, Sides, Timing
from drill_ladder.apps.floor.test_days.services import TESTABLE, tested, value_fault
from drill_ladder.apps.library.models import Drill, Routine
from drill_ladder.apps.people.models import Club, Player, Squad
from drill_ladder.ui.fields import FormValues, Line, Number, Whole


class ProtocolForm(forms.Form):
    """A drill in test mode."""

    title = Line(label="Name of the test", max_length=120)
    drill = forms.ModelChoiceField(
        queryset=Drill.objects.none(), label="The drill", required=False, empty_label="a routine"
    )
    routine = forms.ModelChoiceField(
        queryset=Routine.objects.none(),
        label="Or a routine, from its first part to its last",
        required=False,
        empty_label="no routine",
    )
    routine_by = forms.ChoiceField(
        label="What counts of it", choices=RoutineBy.choices, required=False
    )
    sides = forms.ChoiceField(label="Side", choices=Sides.choices, required=False)
    trials = Whole(label="Trials that count", min_value=1, max_value=20, initial=3)
    score_by = forms.ChoiceField(
        label="What counts of them",
        choices=[("best", "The best"), ("mean", "The mean"), ("median", "The median")],
    )
    attempts = Whole(
        label="Attempts of one trial",
        min_value=1,
        max_value=1000,
        required=False,
        help_text="Where good ones are counted",
    )
    rest_s = Whole(label="Full rest between trials, s", min_value=0, max_value=3600, initial=180)
    counts = Line(label="What counts as one", max_length=300, required=False)
    ends = Line(label="When is it over?", max_length=300, required=False)
    called = forms.BooleanField(label="The side is called out", required=False)
    error = Number(
        label="Typical error, where somebody measured it",
        min_value=0.0001,
        required=False,
        help_text="In the test's own unit. Empty: from your own repeats",
    )
    error_source = Line(label="Who measured it", max_length=200, required=False)
    offset_s = Number(
        label="A gate says less than a hand by, s",
        min_value=-2,
        max_value=2,
        required=False,
        help_text="Empty: hand and gate are never compared",
    )
    offset_how = Line(label="How that was measured", max_length=200, required=False)

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        drills = Drill.objects.of_club(club).in_use().testable(TESTABLE)
        fields: dict[str, Any] = self.fields
        fields["drill"].queryset = drills
        fields["routine"].queryset = Routine.objects.of_club(club).filter(archived_on=None)

    def clean(self) -> FormValues:
        """A number with its source, and attempts where they are needed."""
        data = super().clean() or self.cleaned_data
        if data.get("error") is not None and not data.get("error_source"):
            self.add_error("error_source", "A typical error needs its source.")
        if data.get("offset_s") is not None and not data.get("offset_how"):
            self.add_error("offset_how", "An offset needs how it was measured.")
        makes = self._counts_makes(data)
        if makes and not data.get("attempts"):
            self.add_error("attempts", "Out of how many?")
        if not makes:
            data["attempts"] = None
        return data

    def _counts_makes(self, data: FormValues) -> bool:
        """Whether good ones are counted. A drill or a routine is asked for, one of the two."""
        drill, routine = data.get("drill"), data.get("routine")
        if "drill" in self.errors or "routine" in self.errors:
            return False
        if (drill is None) == (routine is None):
            self.add_error("drill", "A drill, or a routine: one of the two.")
        if routine is None:
            data["routine_by"] = ""
            return drill is not None and bool(drill.measure.counts_makes)
        if not data.get("routine_by"):
            self.add_error("routine_by", "Good ones in all, or the time?")
        return bool(data.get("routine_by") == RoutineBy.MAKES)


class BatteryForm(forms.Form):
    """A test day."""

    title = Line(label="Name of the day", max_length=120, initial="Test day")
    squad = forms.ModelChoiceField(
        queryset=Squad.objects.none(),
        label="Everybody of",
        required=False,
        empty_label="nobody in particular",
    )
    players = forms.ModelMultipleChoiceField(
        queryset=Player.objects.none(),
        label="And these",
        required=False,
        widget=forms.CheckboxSelectMultiple,
    )
    protocols = forms.ModelMultipleChoiceField(
        queryset=Protocol.objects.none(),
        label="Which tests",
        widget=forms.CheckboxSelectMultiple,
        error_messages={"required": "At least one test, please."},
    )
    weather = Line(label="Weather", max_length=60, required=False)
    surface = Line(label="Surface", max_length=60, required=False)
    shoes = Line(label="Shoes", max_length=60, required=False)
    light = forms.ChoiceField(
        label="Light",
        choices=[("", "not said"), ("bright", "bright"), ("dim", "dim")],
        required=False,
    )
    retest = forms.BooleanField(
        label="A retest: held to learn how noisy the tests are", required=False
    )

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        fields: dict[str, Any] = self.fields
        fields["squad"].queryset = Squad.objects.of_club(club)  # type: ignore[attr-defined]
        fields["players"].queryset = Player.objects.of_club(club).by_name()
        fields["protocols"].queryset = Protocol.objects.of_club(club).in_force()

    def chosen(self) -> list[Player]:
        """The squad's, then the others, each once; who rests is left out."""
        data = self.cleaned_data
        squad = data["squad"]
        mates = list(squad.players.filter(archived_on=None).order_by("name")) if squad else []
        both = {player.pk: player for player in [*mates, *data["players"]]}
        resting = set(Player.objects.resting().among(both.values()).values_list("pk", flat=True))
        return [player for pk, player in both.items() if pk not in resting]


class TrialForm(forms.Form):
    """One trial. uid: given by the page, so that a double tap is one."""

    uid = forms.UUIDField(widget=forms.HiddenInput)
    player = forms.TypedChoiceField(label="Who", coerce=int)
    side = forms.ChoiceField(label="Side", required=False)
    value = Number(label="Result", min_value=0)
    timing = forms.ChoiceField(label="Measured", choices=Timing.choices, required=False)
    sure = forms.BooleanField(label="This test day is finished: change it all the same")

    def __init__(
        self,
        *args: Any,
        battery: Battery,
        protocol: Protocol,
        players: list[Player],
        **kwargs: Any,
    ) -> None:
        kwargs.setdefault("initial", {}).setdefault("uid", uuid4())
        super().__init__(*args, **kwargs)
        self.protocol, self.battery = protocol, battery
        fields: dict[str, Any] = self.fields
        fields["player"].choices = [(player.pk, player.name) for player in players]
        if protocol.sides:
            fields["side"].choices = [("left", "left"), ("right", "right")]
            fields["side"].required = True
        else:
            del fields["side"]
        fields["value"].label = tested(protocol).label
        if not protocol.measure.is_timed:
            del fields["timing"]
        if not battery.is_over(battery.club.today()):
            del fields["sure"]

    def clean_value(self) -> float:
        """No more good ones than attempts, nothing beyond belief."""
        value: float = self.cleaned_data["value"]
        fault = value_fault(self.protocol, value)
        if fault:
            raise forms.ValidationError(fault)
        return value
