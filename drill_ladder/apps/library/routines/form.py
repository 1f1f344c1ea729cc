"""The form of a whole routine: its head and its parts in their order."""

from typing import Any

from django import forms

from drill_ladder.apps.library.models import Drill, Ladder, Routine
from drill_ladder.apps.library.routines.services import PartInput, RoutineHead
from drill_ladder.apps.people.models import Club
from drill_ladder.formats.library_file import MOST_PARTS
from drill_ladder.formats.reading import whole
from drill_ladder.ui.fields import FormValues, Line, Number, Row, Whole


class RoutineForm(forms.Form):
    """What a routine is for, the seconds between its parts, and the insert."""

    title = Line(label="Name", max_length=120)
    purpose = Line(label="What it is for", max_length=300, required=False)
    change_s = Number(label="Seconds between parts", min_value=0, max_value=600, initial=20)
    insert_at = Whole(label="The check: of part", min_value=1, max_value=MOST_PARTS, required=False)
    insert_reps = Whole(label="Attempts", min_value=1, max_value=50, required=False)
    insert_s = Number(label="Seconds each", min_value=1, max_value=120, required=False)
    revision = Whole(widget=forms.HiddenInput, initial=0)

    def __init__(
        self, *args: Any, club: Club, routine: Routine | None = None, **kwargs: Any
    ) -> None:
        super().__init__(*args, **kwargs)
        self.club, self.routine = club, routine

    def clean_title(self) -> str:
        """A name once a club."""
        title = str(self.cleaned_data["title"]).strip()
        same = Routine.objects.of_club(self.club).filter(title__iexact=title)
        if same.exclude(pk__in=[self.routine.pk] if self.routine else []).exists():
            raise forms.ValidationError("There is a routine of that name already.")
        return title

    def head(self) -> RoutineHead:
        """The head as typed; attempts and seconds of the insert are usual where nobody said."""
        data = self.cleaned_data
        at = data["insert_at"]
        insert = None if at is None else (at - 1, data["insert_reps"] or 5, data["insert_s"] or 6)
        return RoutineHead(data["title"], data["purpose"], data["change_s"], insert)


class PartForm(Row):
    """One part: a ladder or a plain drill."""

    of = forms.ChoiceField(label="Ladder or drill", required=False)
    sets = Whole(label="Sets, if other", min_value=1, max_value=50, required=False)
    keep = forms.BooleanField(label="Never left out", required=False)
    insert_after = forms.BooleanField(label="The check follows", required=False)
    together = forms.BooleanField(
        label="In the same repetitions as the part before", required=False
    )

    def __init__(self, *args: Any, things: "Things", **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.things = things
        self.fields["of"].choices = things.choices  # type: ignore[attr-defined]

    def part(self) -> PartInput:
        """The part as typed."""
        data = self.cleaned_data
        of = self.things.by_key[data["of"]]
        return PartInput(of, data["sets"], data["keep"], data["insert_after"], data["together"])


class Things:
    """What may be a part: the club's ladders with rungs, and its drills; read once a page."""

    def __init__(self, club: Club) -> None:
        rows = Ladder.objects.of_club(club).in_use().with_any_rung()
        ladders = [(f"l{row.pk}", row) for row in rows]
        drills = [
            (f"d{row.pk}", row)
            for row in Drill.objects.of_club(club).in_use().select_related("skill")
        ]
        self.by_key: dict[str, Ladder | Drill] = dict([*ladders, *drills])
        self.choices: list[Any] = [
            ("", "Choose"),
            ("Ladders", [(key, row.title) for key, row in ladders]),
            ("Drills, as they are", [(key, row.title) for key, row in drills]),
        ]


def head_values(routine: Routine) -> FormValues:
    """A routine as its head opens."""
    at = [part.ladder_id for part in routine.parts.all()]
    return {
        "title": routine.title,
        "purpose": routine.purpose,
        "change_s": routine.change_s,
        "insert_at": at.index(routine.insert_of_id) + 1 if routine.insert_of_id in at else None,
        "insert_reps": routine.insert_reps,
        "insert_s": routine.insert_s,
        "revision": routine.revision,
    }


def part_values(routine: Routine) -> list[FormValues]:
    """Its parts as their rows open."""
    return [
        {
            "of": f"l{part.ladder_id}",
            "sets": part.sets,
            "keep": part.keep,
            "insert_after": part.insert_after,
            "together": part.together,
        }
        for part in routine.parts.all()
    ]


def stepped(rows: list[FormValues], step: str) -> list[FormValues]:
    """The rows after add, up-2, down-2 or drop-2; a step that leads nowhere changes nothing."""
    what, _, place = step.partition("-")
    at, rows = whole(place), list(rows)
    if what == "add" and len(rows) < MOST_PARTS:
        return [*rows, {}]
    if at is None or not 0 <= at < len(rows):
        return rows
    if what == "drop":
        del rows[at]
    elif what in ("up", "down"):
        to = min(max(0, at + (1 if what == "down" else -1)), len(rows) - 1)
        rows.insert(to, rows.pop(at))
    return rows
