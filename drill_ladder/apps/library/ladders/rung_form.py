"""The form of a whole ladder: its head and its rungs."""

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType
from typing import Any

from django import forms

from drill_ladder.apps.library.models import Drill, Intent, Ladder, Rung
from drill_ladder.apps.library.rules.odds import choices, numbers_of, school_of
from drill_ladder.apps.people.models import Club
from drill_ladder.core.coaching import Axis
from drill_ladder.core.judging import Rule
from drill_ladder.formats.documents import part_faults, plan_faults, rule_from
from drill_ladder.formats.rule_document import rule_document
from drill_ladder.ui.fields import Document, Line, Number, Row, Whole

AXES = [("", "nothing new")] + [(axis.value, axis.value) for axis in Axis]
TEMPOS = [("", "any"), ("0.5", "half speed"), ("0.75", "three quarters"), ("1.0", "full speed")]
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
        if same.exclude(pk=self.ladder.pk if self.ladder else None).exists():
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

    def create_option(self, name: str, value: Any, *args: Any, **kwargs: Any) -> dict[str, Any]:
        """The option with its kind of measure."""
        option = super().create_option(name, value, *args, **kwargs)
        option["attrs"]["data-kind"] = self.kinds.get(str(value), "")
        return option


class HiddenPlan(Document):
    """A rung's own floor plan, drawn on a page of its own: here it goes along when rows are copied and moved."""

    widget = forms.HiddenInput

    def prepare_value(self, value: Any) -> Any:
        """As text, once."""
        return "" if value is None else value if isinstance(value, str) else super().prepare_value(value)


class RungForm(Row):
    """One rung. The target is makes of attempts for drills scored in makes, a value for all others."""

    id = Whole(widget=forms.HiddenInput, required=False)
    drill = forms.ModelChoiceField(
        queryset=Drill.objects.none(), label="Drill", empty_label="Choose a drill", widget=DrillSelect
    )
    title = Line(label="Name of the rung", max_length=120)
    changes = Line(label="What changes here", max_length=200, required=False)
    axis = forms.ChoiceField(label="Harder by", choices=AXES, required=False)
    also = forms.ChoiceField(label="and by", choices=AXES, required=False)
    sets = _whole("Sets", 1, 50)
    reps = _whole("Attempts", 1)
    reps_high = _whole("Attempts, up to", 1)
    rest_s = _number("Rest, s")
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

    def clean(self) -> dict[str, Any]:
        """Terms that the core can read together with the drill's measure and lanes; bands from low to high."""
        data = super().clean() or self.cleaned_data
        drill = data.get("drill")
        if drill is None or self.errors:
            return data
        self._check_bands(data)
        if data["school"] == "evidence" and drill.measure["kind"] != "makes":
            self.add_error("school", "Evidence is for drills that count good ones.")
        if self.errors:
            return data
        if data["plan"] is not None and plan_faults(data["plan"]):
            raise forms.ValidationError("The floor plan of this rung cannot be read. Load the page again, please.")
        rung = Rung(drill=drill, **self.values())
        for line in part_faults("rung", rung.document()):
            place, _, words = line.partition(": ")
            self.add_error(_field_of(place), f"{words[:1].upper()}{words[1:]}.")
        return data

    def _check_bands(self, data: dict[str, Any]) -> None:
        if data["reps_high"] is not None and data["reps_high"] < (data["reps"] or MOST + 1):
            self.add_error("reps_high", "A band runs from fewer to more: give both ends.")
        low, high = data["success_low"], data["success_high"]
        if (low is None) != (high is None) or (low is not None and high is not None and low > high):
            self.add_error("success_low", "A band runs from low to high: give both ends.")
        if data["school"] == "window" and (data["passes"] or 2) > (data["of_last"] or 3):
            self.add_error("passes", "More passes than sessions looked at.")

    @property
    def more_open(self) -> bool:
        """Whether something in the folded part says more than usual, or is wrong."""
        usual = ("", None, "skill")
        folded = ("reps_high", "tempo", "intent", "form_min", "faults_max", "success_low", "success_high", "school")
        return any(self[name].value() not in usual or self[name].errors for name in folded)

    def values(self) -> dict[str, Any]:
        """The rung's own fields."""
        data = self.cleaned_data
        counts = data["drill"].measure["kind"] == "makes"
        goal = {"makes": data["makes"], "of": data["of"]} if counts else {"value": data["value"]}
        gates = {"each_lane": data["each_lane"], "form_min": _share(data["form_min"]), "faults_max": data["faults_max"]}
        rated = {key: _share(data[key]) if counts else data[key] for key in ("floor", "success_low", "success_high")}
        return {
            "title": data["title"],
            "changes": data["changes"],
            "axis": [axis for axis in (data["axis"], data["also"]) if axis],
            "dose": {
                "sets": data["sets"] or 1,
                "reps": data["reps"],
                "rest_s": data["rest_s"] or 0,
                "s_per_rep": data["s_per_rep"] or None,
            },
            "target": {**goal, **gates},
            "ease_note": data["ease_note"],
            "reps_high": data["reps_high"],
            "intent": data["intent"] or Intent.SKILL,
            "tempo": float(data["tempo"]) if data["tempo"] else None,
            "rule": self.own_rule(),
            "plan": data["plan"],
            **rated,
        }

    def own_rule(self) -> dict[str, Any] | None:
        """The rung's own rule in the open format: the school as chosen here, its gates from the rule it stands for."""
        data = self.cleaned_data
        if not data["school"]:
            return None
        given = {key: data[key] for key in ("passes", "confidence", "sessions")}
        given |= {"of": data["of_last"], "reps": data["volume"]}
        return rule_document(replace(self.base, school=school_of(data["school"], given)))


def _field_of(place: str) -> str | None:
    key = place.removeprefix("$.").rpartition(".")[2].split("[")[0]
    return key if key in RungForm.base_fields else None


def _share(percent: float | None) -> float | None:
    return None if percent is None else percent / 100


def rung_values(rung: Rung) -> dict[str, Any]:
    """A rung as its row opens."""
    counts = rung.drill.measure["kind"] == "makes"
    axis = [*rung.axis, "", ""]
    rated = {key: getattr(rung, key) for key in ("floor", "success_low", "success_high")}
    return {
        "id": rung.pk,
        "drill": rung.drill_id,
        "title": rung.title,
        "changes": rung.changes,
        "axis": axis[0],
        "also": axis[1],
        "sets": rung.dose.get("sets", 1),
        "reps": rung.dose.get("reps"),
        "reps_high": rung.reps_high,
        "rest_s": _tidy(rung.dose.get("rest_s")) or None,
        "s_per_rep": _tidy(rung.dose.get("s_per_rep")),
        "makes": rung.target.get("makes"),
        "of": rung.target.get("of"),
        "value": rung.target.get("value"),
        "each_lane": rung.target.get("each_lane", False),
        "form_min": _tidy(rung.target.get("form_min"), 100),
        "faults_max": rung.target.get("faults_max"),
        "ease_note": rung.ease_note,
        "plan": rung.plan,
        "intent": rung.intent,
        "tempo": "" if rung.tempo is None else str(float(rung.tempo)),
        **{key: _tidy(value, 100 if counts else 1) for key, value in rated.items()},
        **_rule_values(rung.rule),
    }


def _rule_values(document: dict[str, Any] | None) -> dict[str, Any]:
    if document is None:
        return {"school": ""}
    school = rule_from(document).school
    numbers = numbers_of(school)
    plain = {key: numbers[key] for key in ("passes", "confidence", "sessions")}
    return {"school": school.name, "of_last": numbers["of"], "volume": numbers["reps"], **plain}


def _tidy(value: float | None, times: float = 1) -> float | int | None:
    """40 and not 40.0."""
    if value is None:
        return None
    value = round(value * times, 4)
    return int(value) if value == int(value) else value
