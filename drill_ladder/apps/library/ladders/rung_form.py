"""The form of a whole ladder: its head and its rungs."""

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType
from typing import Any

from django import forms

from drill_ladder.apps.library.ladders.caller_form import CallerFields, caller_values
from drill_ladder.apps.library.ladders.services import RungInput
from drill_ladder.apps.library.models import Drill, Intent, Ladder, Rung
from drill_ladder.apps.library.rules.odds import Numbers, choices, numbers_of, school_of
from drill_ladder.apps.people.models import Club
from drill_ladder.core.coaching import Axis
from drill_ladder.core.judging import Dose, Makes, Rule, Target
from drill_ladder.core.judging import Intent as Purpose
from drill_ladder.core.judging import Rung as CoreRung
from drill_ladder.formats.documents import PLAN, RUNG
from drill_ladder.ui.fields import Document, FormValues, Line, Number, Row, Whole

AXES = [("", "nothing new")] + [(axis.value, axis.value) for axis in Axis]
TEMPOS = [("", "any"), ("0.5", "half speed"), ("0.75", "three quarters"), ("1.0", "full speed")]
TEMPOS_UP = [("", "no higher"), *TEMPOS[1:]]
OWN = [("", "the ladder's rule"), *choices()]
MOST = 1000


class HeadForm(forms.Form):
    """What a ladder is for."""

    title = Line(label="Name", max_length=120)
    skill = Line(label="Skill", max_length=80, required=False)
    purpose = Line(label="What it is for", max_length=300, required=False)
    revision = Whole(widget=forms.HiddenInput, initial=0)

    def __init__(self, *args: Any, club: Club, ladder: Ladder | None = None, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.club, self.ladder = club, ladder
        self.told = ""  # who was quicker

    def clean_title(self) -> str:
        """A name once a club."""
        title = str(self.cleaned_data["title"]).strip()
        same = Ladder.objects.of_club(self.club).filter(title__iexact=title)
        if same.exclude(pk__in=[self.ladder.pk] if self.ladder else []).exists():
            raise forms.ValidationError("There is a ladder of that name already.")
        return title


def _whole(label: str, low: int = 0, high: int = MOST) -> forms.IntegerField:
    return Whole(label=label, min_value=low, max_value=high, required=False)


def _number(label: str, high: float | None = None) -> forms.FloatField:
    return Number(label=label, min_value=0, max_value=high, required=False)


class Drills:
    """The drills that rungs may use, asked for once for all rows of a page."""

    def __init__(self, club: Club) -> None:
        self.rows = Drill.objects.of_club(club).order_by("title")
        known = list(self.rows.values_list("pk", "title", "archived_on", "measure__kind"))
        named = [(pk, f"{title} (archived)" if aside else title) for pk, title, aside, _ in known]
        self.kinds = {str(pk): kind for pk, _, _, kind in known}
        self.choices: list[tuple[Any, str]] = [("", "Choose a drill"), *named]


class DrillSelect(forms.Select):
    """Each drill says how it is scored, so that its row shows only what it needs, in its unit."""

    kinds: Mapping[str, str] = MappingProxyType({})

    def create_option(self, name: str, value: Any, *args: Any, **kwargs: Any) -> FormValues:
        """The option with its kind of measure."""
        option = super().create_option(name, value, *args, **kwargs)
        option["attrs"]["data-kind"] = self.kinds.get(str(value), "")
        return option


class HiddenPlan(Document):
    """A rung's own floor plan, drawn on a page of its own: here it goes along when rows are copied
    and moved.
    """

    widget = forms.HiddenInput

    def prepare_value(self, value: Any) -> Any:
        """As text, once."""
        if value is None or isinstance(value, str):
            return value or ""
        return super().prepare_value(value)


class RungForm(CallerFields, Row):
    """One rung. The target is makes of attempts for drills scored in makes, a value for all
    others.
    """

    id = Whole(widget=forms.HiddenInput, required=False)
    drill = forms.ModelChoiceField(
        queryset=Drill.objects.none(),
        label="Drill",
        empty_label="Choose a drill",
        widget=DrillSelect,
    )
    title = Line(label="Name of the rung", max_length=120)
    changes = Line(label="What changes here", max_length=200, required=False)
    axis = forms.ChoiceField(label="Harder by", choices=AXES, required=False)
    also = forms.ChoiceField(label="and by", choices=AXES, required=False)
    sets = _whole("Sets", 1, 50)
    reps = _whole("Attempts", 1)
    reps_high = _whole("Attempts, up to", 1)
    sets_high = _whole("Sets, up to", 1, 50)
    minutes = _whole("Or in minutes", 1, 240)
    rest_s = _number("Rest, s")
    stop_drop = _number("Stops when slower by, %", 100)
    s_per_rep = _number("Seconds each", 600)
    makes = _whole("Good ones")
    of = _whole("of", 1)
    value = _number("Target")
    each_lane = forms.BooleanField(label="In each lane", required=False)
    form_min = _number("Form at least, %", 100)
    faults_max = _whole("Faults at most")
    floor = _number("Floor")
    success_low = _number("Expected from")
    success_high = _number("to")
    intent = forms.ChoiceField(label="What it is for", choices=Intent.choices, required=False)
    tempo = forms.ChoiceField(label="Tempo", choices=TEMPOS, required=False)
    tempo_high = forms.ChoiceField(label="Tempo, up to", choices=TEMPOS_UP, required=False)
    ease_note = Line(label="Made easier by", max_length=200, required=False)
    school = forms.ChoiceField(label="Climbs by", choices=OWN, required=False)
    passes = _whole("Passes", 1, 10)
    of_last = _whole("of the last", 1, 10)
    confidence = _whole("Certain to, %", 50, 99)
    sessions = _whole("Sessions here", 1, 50)
    volume = _whole("or repetitions", 1, 100_000)
    plan = HiddenPlan(required=False)

    def __init__(self, *args: Any, drills: "Drills", base: Rule, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.base, self.drills = base, drills
        self.fields["drill"].queryset = drills.rows  # type: ignore[attr-defined]
        self.fields["drill"].choices = drills.choices  # type: ignore[attr-defined]
        self.fields["drill"].widget.kinds = drills.kinds  # type: ignore[attr-defined]

    def clean(self) -> FormValues:
        """Terms that the core can read together with the drill's measure and lanes; bands from low
        to high.
        """
        data = super().clean() or self.cleaned_data
        drill = data.get("drill")
        if drill is None or self.errors:
            return data
        self._check_bands(data)
        if data["school"] == "evidence" and not isinstance(drill.measure, Makes):
            self.add_error("school", "Evidence is for drills that count good ones.")
        if self.errors:
            return data
        if data["plan"] is not None and PLAN.faults(data["plan"], stored=True):
            raise forms.ValidationError(
                "The floor plan of this rung cannot be read. Load the page again, please."
            )
        for line in RUNG.faults_of(self.core()):
            place, _, words = line.partition(": ")
            self.add_error(_field_of(place), f"{words[:1].upper()}{words[1:]}.")
        return data

    def _check_bands(self, data: FormValues) -> None:
        if data["reps_high"] is not None and data["reps_high"] < (data["reps"] or MOST + 1):
            self.add_error("reps_high", "A band runs from fewer to more: give both ends.")
        if data["sets_high"] is not None and data["sets_high"] < (data["sets"] or 1):
            self.add_error("sets_high", "A band runs from fewer to more: give both ends.")
        if data["minutes"] is not None and data["reps"] is not None:
            self.add_error("minutes", "Attempts or minutes, one of the two.")
        if data["tempo_high"] and float(data["tempo_high"]) < float(data["tempo"] or 2):
            self.add_error("tempo_high", "It runs from a tempo upwards: give both ends.")
        self.check_caller(data)
        low, high = data["success_low"], data["success_high"]
        if (low is None) != (high is None) or (low is not None and high is not None and low > high):
            self.add_error("success_low", "A band runs from low to high: give both ends.")
        if data["school"] == "window" and (data["passes"] or 2) > (data["of_last"] or 3):
            self.add_error("passes", "More passes than sessions looked at.")

    @property
    def more_open(self) -> bool:
        """Whether something in the folded part says more than usual, or is wrong."""
        usual = ("", None, "skill")
        folded = (
            "reps_high",
            "sets_high",
            "minutes",
            "stop_drop",
            "tempo",
            "call_mode",
            "intent",
            "form_min",
            "faults_max",
            "success_low",
            "success_high",
            "school",
        )
        return any(self[name].value() not in usual or self[name].errors for name in folded)

    def rung(self) -> RungInput:
        """The row as it is to be stored."""
        data = self.cleaned_data
        plan = PLAN.read(data["plan"]) if data["plan"] is not None else None
        return RungInput(data["id"], data["drill"], data["changes"], self.core(), plan)

    def core(self) -> CoreRung:
        """The terms as typed, with the drill's measure and lanes."""
        data = self.cleaned_data
        drill, counts = data["drill"], isinstance(data["drill"].measure, Makes)
        low, high = (
            _share(data[key]) if counts else data[key] for key in ("success_low", "success_high")
        )
        return CoreRung(
            id="new",
            title=data["title"],
            measure=drill.measure,
            lanes=tuple(drill.lanes),
            dose=Dose(
                data["sets"] or 1,
                data["reps"],
                data["rest_s"] or 0,
                data["s_per_rep"] or None,
                _share(data["stop_drop"]) or None,
            ),
            target=self._target(counts),
            floor=_share(data["floor"]) if counts else data["floor"],
            ease=data["ease_note"] or None,
            axis=tuple(axis for axis in (data["axis"], data["also"]) if axis),
            rule=self.own_rule(),
            intent=Purpose(data["intent"] or Purpose.SKILL),
            tempo=float(data["tempo"]) if data["tempo"] else None,
            reps_high=data["reps_high"],
            sets_high=data["sets_high"],
            minutes=data["minutes"],
            success=None if low is None or high is None else (low, high),
            tempo_high=float(data["tempo_high"]) if data["tempo_high"] else None,
            caller=self.caller(),
        )

    def _target(self, counts: bool) -> Target:
        data = self.cleaned_data
        goal = {"makes": data["makes"], "of": data["of"]} if counts else {"value": data["value"]}
        form_min = _share(data["form_min"])
        return Target(
            **goal, each_lane=data["each_lane"], form_min=form_min, faults_max=data["faults_max"]
        )

    def own_rule(self) -> Rule | None:
        """The rung's own rule: the school as chosen here, its gates from the rule it stands for."""
        data = self.cleaned_data
        if not data["school"]:
            return None
        numbers = Numbers.typed(
            passes=data["passes"],
            of=data["of_last"],
            confidence=data["confidence"],
            sessions=data["sessions"],
            reps=data["volume"],
        )
        return replace(self.base, school=school_of(data["school"], numbers))


def _field_of(place: str) -> str | None:
    key = place.removeprefix("$.").rpartition(".")[2].split("[")[0]
    if key in ("caller", "cues", "late_at"):
        return "calls"
    return key if key in RungForm.base_fields else None


def _share(percent: float | None) -> float | None:
    return None if percent is None else percent / 100


def rung_values(rung: Rung) -> FormValues:
    """A rung as its row opens."""
    core, times = rung.core, 100 if isinstance(rung.drill.measure, Makes) else 1
    axis = [*core.axis, "", ""]
    low, high = core.success or (None, None)
    return {
        "id": rung.pk,
        "drill": rung.drill_id,
        "title": core.title,
        "changes": rung.changes,
        "axis": axis[0],
        "also": axis[1],
        "sets": core.dose.sets,
        "reps": core.dose.reps,
        "reps_high": core.reps_high,
        "sets_high": core.sets_high,
        "minutes": core.minutes,
        "rest_s": _tidy(core.dose.rest_s) or None,
        "s_per_rep": _tidy(core.dose.s_per_rep),
        "stop_drop": _tidy(core.dose.stop_drop, 100),
        "makes": core.target.makes,
        "of": core.target.of,
        "value": core.target.value,
        "each_lane": core.target.each_lane,
        "form_min": _tidy(core.target.form_min, 100),
        "faults_max": core.target.faults_max,
        "ease_note": core.ease or "",
        "plan": PLAN.write(rung.plan) if rung.plan else None,
        "intent": core.intent,
        "tempo": "" if core.tempo is None else str(float(core.tempo)),
        "tempo_high": "" if core.tempo_high is None else str(float(core.tempo_high)),
        **caller_values(core.caller),
        "floor": _tidy(core.floor, times),
        "success_low": _tidy(low, times),
        "success_high": _tidy(high, times),
        **_rule_values(core.rule),
    }


def _rule_values(rule: Rule | None) -> FormValues:
    if rule is None:
        return {"school": ""}
    numbers = numbers_of(rule.school)
    return {
        "school": rule.school.name,
        "passes": numbers.passes,
        "of_last": numbers.of,
        "confidence": numbers.confidence,
        "sessions": numbers.sessions,
        "volume": numbers.reps,
    }


def _tidy(value: float | None, times: float = 1) -> float | int | None:
    """40 and not 40.0."""
    if value is None:
        return None
    value = round(value * times, 4)
    return int(value) if value == int(value) else value
