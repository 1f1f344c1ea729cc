"""The form of a whole ladder: its head and its rungs, changed row by row before anything is saved."""

from dataclasses import dataclass
from typing import Any

from django import forms

from drill_ladder.apps.library.models import Drill, Ladder, Rung
from drill_ladder.apps.people.models import Club
from drill_ladder.core.coverage import Axis, Steps, draft_ladder
from drill_ladder.formats.documents import part_faults

AXES = [("", "nothing new")] + [(axis.value, axis.value) for axis in Axis]
MOST_RUNGS = 30


class HeadForm(forms.Form):
    """What a ladder is for."""

    title = forms.CharField(label="Name", max_length=120)
    skill = forms.CharField(label="Skill", max_length=80, required=False)
    purpose = forms.CharField(label="What it is for", max_length=300, required=False)
    revision = forms.IntegerField(widget=forms.HiddenInput, initial=0)

    def __init__(self, *args: Any, club: Club, ladder: Ladder | None = None, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.club, self.ladder = club, ladder

    def clean_title(self) -> str:
        """A name once a club."""
        title = str(self.cleaned_data["title"]).strip()
        same = Ladder.objects.of_club(self.club).filter(title__iexact=title)
        if same.exclude(pk=self.ladder.pk if self.ladder else None).exists():
            raise forms.ValidationError("There is a ladder of that name already.")
        return title


def _whole(label: str, low: int = 0, high: int = 1000) -> forms.IntegerField:
    return forms.IntegerField(label=label, min_value=low, max_value=high, required=False)


def _number(label: str) -> forms.FloatField:
    return forms.FloatField(label=label, min_value=0, required=False)


class DraftForm(forms.Form):
    """A first draft: one drill, up to three axes with their steps from the easiest to the hardest."""

    drill = forms.ModelChoiceField(queryset=Drill.objects.none(), label="Drill", empty_label=None)
    makes = forms.IntegerField(label="Good ones", min_value=0, max_value=1000, initial=8)
    of = forms.IntegerField(label="of", min_value=1, max_value=1000, initial=10)
    axis_1 = forms.ChoiceField(label="Harder by", choices=AXES[1:])
    steps_1 = forms.CharField(label="Steps, the easiest first", help_text="With commas between: 4 m, 6 m, 8 m")
    axis_2 = forms.ChoiceField(label="then by", choices=AXES, required=False)
    steps_2 = forms.CharField(label="Steps", required=False)
    axis_3 = forms.ChoiceField(label="then by", choices=AXES, required=False)
    steps_3 = forms.CharField(label="Steps", required=False)

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["drill"].queryset = Drill.objects.in_use().of_club(club)  # type: ignore[attr-defined]

    def clean(self) -> dict[str, Any]:
        """Two steps at least on every axis, each axis once, not too many rungs."""
        data = super().clean() or self.cleaned_data
        if data.get("makes") is not None and data.get("of") is not None and data["makes"] > data["of"]:
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
        return tuple(s.strip() for s in (self.cleaned_data.get(f"steps_{number}") or "").split(",") if s.strip())

    def axes(self) -> list[Steps]:
        """The axes that were chosen."""
        chosen = [(self.cleaned_data.get(f"axis_{n}"), self._steps(n)) for n in (1, 2, 3)]
        return [Steps(Axis(axis), steps) for axis, steps in chosen if axis]

    def rows(self) -> list[dict[str, Any]]:
        """The draft as rows of the builder: one axis changes a rung, the axes take turns."""
        data = self.cleaned_data
        counts = data["drill"].measure["kind"] == "makes"
        goal = {"makes": data["makes"], "of": data["of"], "reps": data["of"]} if counts else {}
        order = {axis.axis: i for i, axis in enumerate(self.axes())}
        rows = []
        for rung in draft_ladder(self.axes()):
            told = {"axis": rung.changed.value, "changes": rung.values[order[rung.changed]]} if rung.changed else {}
            same = {"drill": data["drill"].pk, "sets": 1, "each_lane": bool(data["drill"].lanes)}
            rows.append({**same, "title": ", ".join(rung.values), **goal, **told})
        return rows


class RungForm(forms.Form):
    """One rung. The target is makes of attempts for drills scored in makes, a value for all others."""

    id = forms.IntegerField(widget=forms.HiddenInput, required=False)
    drill = forms.ModelChoiceField(queryset=Drill.objects.none(), label="Drill", empty_label="Choose a drill")
    title = forms.CharField(label="Name of the rung", max_length=120)
    changes = forms.CharField(label="What changes here", max_length=200, required=False)
    axis = forms.ChoiceField(label="Harder by", choices=AXES, required=False)
    also = forms.ChoiceField(label="and by", choices=AXES, required=False)
    sets = _whole("Sets", 1, 50)
    reps = _whole("Attempts a set", 1)
    rest_s = _number("Rest, s")
    makes = _whole("Good ones")
    of = _whole("of", 1)
    value = _number("Target value")
    each_lane = forms.BooleanField(label="In each lane", required=False)
    floor = _number("Low is under (makes: %)")
    ease_note = forms.CharField(label="Made easier by", max_length=200, required=False)

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["drill"].queryset = Drill.objects.of_club(club)  # type: ignore[attr-defined]
        for field in self.fields.values():
            field.widget.attrs["aria-label"] = field.label

    def clean(self) -> dict[str, Any]:
        """Terms that the core can read together with the drill's measure and lanes."""
        data = super().clean() or self.cleaned_data
        drill = data.get("drill")
        if drill is None or self.errors:
            return data
        rung = Rung(drill=drill, **self.values())
        for line in part_faults("rung", rung.document()):
            place, _, words = line.partition(": ")
            self.add_error(_field_of(place), f"{words[:1].upper()}{words[1:]}.")
        return data

    def values(self) -> dict[str, Any]:
        """The rung's own fields."""
        data = self.cleaned_data
        counts = data["drill"].measure["kind"] == "makes"
        goal = {"makes": data["makes"], "of": data["of"]} if counts else {"value": data["value"]}
        floor = data["floor"]
        return {
            "title": data["title"],
            "changes": data["changes"],
            "axis": [axis for axis in (data["axis"], data["also"]) if axis],
            "dose": {"sets": data["sets"] or 1, "reps": data["reps"], "rest_s": data["rest_s"] or 0},
            "target": {**goal, "each_lane": data["each_lane"]},
            "floor": floor / 100 if counts and floor is not None else floor,
            "ease_note": data["ease_note"],
        }


def _field_of(place: str) -> str | None:
    key = place.removeprefix("$.").rpartition(".")[2].split("[")[0]
    return key if key in ("makes", "of", "value", "each_lane", "floor", "reps", "sets", "rest_s") else None


def rung_values(rung: Rung) -> dict[str, Any]:
    """A rung as its row opens."""
    counts = rung.drill.measure["kind"] == "makes"
    axis = [*rung.axis, "", ""]
    return {
        "id": rung.pk,
        "drill": rung.drill_id,
        "title": rung.title,
        "changes": rung.changes,
        "axis": axis[0],
        "also": axis[1],
        "sets": rung.dose.get("sets", 1),
        "reps": rung.dose.get("reps"),
        "rest_s": rung.dose.get("rest_s") or None,
        "makes": rung.target.get("makes"),
        "of": rung.target.get("of"),
        "value": rung.target.get("value"),
        "each_lane": rung.target.get("each_lane", False),
        "floor": _tidy(rung.floor * 100 if counts and rung.floor is not None else rung.floor),
        "ease_note": rung.ease_note,
    }


def _tidy(value: float | None) -> float | int | None:
    """40 and not 40.0."""
    if value is None:
        return None
    value = round(value, 4)
    return int(value) if value == int(value) else value


Row = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Step:
    """A change of the rows that saves nothing: what, and at which row."""

    what: str
    row: int


def step_of(name: str) -> Step | None:
    """up-2 as a step; None for anything else."""
    what, _, row = name.partition("-")
    if what not in STEPS or not row.isdigit():
        return None
    return Step(what, int(row))


def stepped(rows: list[Row], step: Step) -> list[Row]:
    """The rows after a step; a step that leads nowhere changes nothing."""
    if step.what != "add" and not 0 <= step.row < len(rows):
        return rows
    if len(rows) >= MOST_RUNGS and step.what in ("add", "copy", "split"):
        return rows
    return STEPS[step.what](list(rows), step.row)


def _add(rows: list[Row], at: int) -> list[Row]:
    like = rows[-1] if rows else {"sets": 1, "reps": 10, "makes": 8, "of": 10}
    kept = ("drill", "sets", "reps", "rest_s", "makes", "of", "value", "each_lane", "floor")
    return [*rows, {key: like.get(key) for key in kept}]


def _copy(rows: list[Row], at: int) -> list[Row]:
    rows.insert(at + 1, {**rows[at], "id": None})
    return rows


def _drop(rows: list[Row], at: int) -> list[Row]:
    del rows[at]
    return rows


def _move(rows: list[Row], at: int, by: int) -> list[Row]:
    to = min(max(0, at + by), len(rows) - 1)
    rows.insert(to, rows.pop(at))
    return rows


def _split(rows: list[Row], at: int) -> list[Row]:
    """A half-step between a rung and the one below it: the numbers between, the drill of the harder one."""
    if at == 0:
        return rows
    below, above = rows[at - 1], rows[at]
    half = {**above, "id": None, "title": f"Half-way to {above.get('title') or 'the next'}"}
    for key in ("reps", "makes", "of", "value", "floor", "rest_s"):
        half[key] = _between(below.get(key), above.get(key), whole=key in ("reps", "makes", "of"))
    rows.insert(at, half)
    return rows


def _between(low: Any, high: Any, whole: bool) -> Any:
    """The middle of two numbers; the harder one's where there are no two."""
    try:
        middle = (float(low) + float(high)) / 2
    except (TypeError, ValueError):
        return high
    return round(middle) if whole else round(middle, 2)


STEPS = {
    "add": _add,
    "copy": _copy,
    "drop": _drop,
    "up": lambda rows, at: _move(rows, at, 1),
    "down": lambda rows, at: _move(rows, at, -1),
    "split": _split,
}
