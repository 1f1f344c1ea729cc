"""The form of a whole ladder: its head and its rungs."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from types import MappingProxyType
from typing import Any

from django import forms

from drill_ladder.apps.library.ladders.caller_form import CallerFields, caller_values
from drill_ladder.apps.library.ladders.rung_typed import (
    fits,
    folds_out,
    names,
    names_in,
    opened,
    read,
    typed_fields,
    with_own_choice,
)
from drill_ladder.apps.library.ladders.services import RungInput
from drill_ladder.apps.library.models import Drill, Ladder, Rung
from drill_ladder.apps.library.rules import Numbers, choices, numbers_of, school_of
from drill_ladder.apps.people.models import Club
from drill_ladder.core.coaching import Axis
from drill_ladder.core.judging import Intent, Rule
from drill_ladder.core.judging import Rung as CoreRung
from drill_ladder.formats.documents import PLAN, RUNG
from drill_ladder.formats.rung_fields import FIELDS, LONGEST_FEED, MOST_FEEDS
from drill_ladder.ui.fields import Document, FormValues, Line, Row, Whole

AXES = [("", "nothing new")] + [(axis.value, axis.value) for axis in Axis]
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


class Drills:
    """The drills that rungs may use, asked for once for all rows of a page."""

    def __init__(self, club: Club) -> None:
        self.rows = Drill.objects.of_club(club).order_by("title")
        drills = list(self.rows.values_list("pk", "title", "archived_on", "measure__kind"))
        named = [(pk, f"{title} (archived)" if aside else title) for pk, title, aside, _ in drills]
        self.kinds = {str(pk): kind for pk, _, _, kind in drills}
        self.choices: list[tuple[Any, str]] = [("", "Choose a drill"), *named]
        self._found: dict[str, Drill | None] = {}

    def found(self, pk: str) -> Drill | None:
        """One of them; rows of the same drill ask once."""
        if pk not in self._found:
            self._found[pk] = self.rows.filter(pk=pk).first() if pk in self.kinds else None
        return self._found[pk]


class DrillChoice(forms.ModelChoiceField):
    """One of the drills that the page has asked for."""

    drills: Drills

    def to_python(self, value: Any) -> Drill | None:
        """The drill; raises ValidationError where it is none of them."""
        if value in self.empty_values:
            return None
        drill = self.drills.found(str(getattr(value, "pk", value)))
        if drill is None:
            words = self.error_messages["invalid_choice"]
            raise forms.ValidationError(words, code="invalid_choice", params={"value": value})
        return drill


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
    drill = DrillChoice(
        queryset=Drill.objects.none(),
        label="Drill",
        empty_label="Choose a drill",
        widget=DrillSelect,
    )
    title = Line(label="Name of the rung", max_length=120)
    changes = Line(label="What changes here", max_length=200, required=False)
    axis = forms.ChoiceField(label="Harder by", choices=AXES, required=False)
    also = forms.ChoiceField(label="and by", choices=AXES, required=False)
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
        self.fields |= typed_fields()
        self.base, self.drills = base, drills
        self.fields["drill"].drills = drills  # type: ignore[attr-defined]
        self.fields["drill"].queryset = drills.rows  # type: ignore[attr-defined]
        self.fields["drill"].choices = drills.choices  # type: ignore[attr-defined]
        self.fields["drill"].widget.kinds = drills.kinds  # type: ignore[attr-defined]
        for name in ("tempo", "tempo_high"):
            with_own_choice(self.fields[name], self[name].value())

    def clean(self) -> FormValues:
        """Terms that the core can read together with the drill's measure and lanes; bands from low
        to high.
        """
        data = super().clean() or self.cleaned_data
        drill = data.get("drill")
        if drill is None or self.errors:
            return data
        self._check_bands(data)
        if data["school"] == "evidence" and not drill.measure.counts_makes:
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
        self._check_turns(data)
        self._check_feeds(names_in(data["feeds"]))
        low, high = data["success_low"], data["success_high"]
        if (low is None) != (high is None) or (low is not None and high is not None and low > high):
            self.add_error("success_low", "A band runs from low to high: give both ends.")
        if data["school"] == "window" and (data["passes"] or 2) > (data["of_last"] or 3):
            self.add_error("passes", "More passes than sessions looked at.")

    def _check_feeds(self, feeds: Sequence[str]) -> None:
        """From gentle to hard, as many and as short as a row of keys can show."""
        if len(feeds) == 1 or len(set(feeds)) < len(feeds):
            self.add_error("feeds", "From gentle to hard: two at least, each once.")
        if len(feeds) > MOST_FEEDS or any(len(feed) > LONGEST_FEED for feed in feeds):
            words = f"At most {MOST_FEEDS} feeds, each of at most {LONGEST_FEED} letters."
            self.add_error("feeds", words)

    def _check_turns(self, data: FormValues) -> None:
        """Lanes in turn are lanes of the drill."""
        lanes = data["drill"].lanes
        other = next((lane for lane in names_in(data["turns"]) if lane not in lanes), None)
        if other is not None:
            known = f"Its lanes: {', '.join(lanes)}." if lanes else "It has no lanes."
            self.add_error("turns", f"“{other}” is no lane of this drill. {known}")

    @property
    def more_open(self) -> bool:
        """Whether something in the folded part says more than usual, or is wrong."""
        own = ("call_mode", "school")
        return folds_out(self) or any(self[name].value() or self[name].errors for name in own)

    @property
    def numbers(self) -> list[tuple[forms.BoundField, str]]:
        """The fields beside the dose and the target, each with the class of the measures that have
        it.
        """
        return self._at("numbers")

    @property
    def more(self) -> list[tuple[forms.BoundField, str]]:
        """Those of the folded part."""
        return self._at("more")

    def _at(self, where: str) -> list[tuple[forms.BoundField, str]]:
        return [
            (self[name], fits(field))
            for field in FIELDS
            if field.where == where
            for name in names(field)
        ]

    def rung(self) -> RungInput:
        """The row as it is to be stored."""
        data = self.cleaned_data
        plan = PLAN.read(data["plan"]) if data["plan"] is not None else None
        return RungInput(data["id"], data["drill"], data["changes"], self.core(), plan)

    def core(self) -> CoreRung:
        """The terms as typed, with the drill's measure and lanes."""
        data, drill = self.cleaned_data, self.cleaned_data["drill"]
        values = read(data, drill.measure)
        return CoreRung(
            id="new",
            title=data["title"],
            measure=drill.measure,
            lanes=tuple(drill.lanes),
            ease=data["ease_note"] or None,
            axis=tuple(axis for axis in (data["axis"], data["also"]) if axis),
            rule=self.own_rule(),
            caller=self.caller(),
            **{**values, "intent": Intent(values["intent"])},
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
    return key if key in RungForm.base_fields or key in typed_fields() else None


def rung_values(rung: Rung) -> FormValues:
    """A rung as its row opens."""
    core = rung.core
    axis = [*core.axis, "", ""]
    return {
        "id": rung.pk,
        "drill": rung.drill_id,
        "title": core.title,
        "changes": rung.changes,
        "axis": axis[0],
        "also": axis[1],
        "ease_note": core.ease or "",
        "plan": PLAN.write(rung.plan) if rung.plan else None,
        **opened(core),
        **caller_values(core.caller),
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
