"""The rows of a drill's form: its faults with what treats them, and the ways to do it with less."""

from collections.abc import Iterator
from typing import Any

from django import forms

from drill_ladder.apps.library.drills.services import TreatmentInput
from drill_ladder.apps.library.models import Drill, People, Rung
from drill_ladder.apps.people.models import Club
from drill_ladder.core.planning import SoloVersion
from drill_ladder.ui.fields import FormValues, Line, Row, Words

MOST_FAULTS, MOST_VERSIONS = 12, 6


class FaultForm(Row):
    """One fault. A row without a name is no fault."""

    name = Line(label="Fault", max_length=80, required=False)
    cue = Line(label="Cue that treats it", max_length=200, required=False)
    by = forms.ChoiceField(label="Or go to", required=False)

    def __init__(self, *args: Any, places: list[Any], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["by"].choices = places  # type: ignore[attr-defined]
        self.fields["cue"].widget.attrs["list"] = "cues-so-far"

    def clean(self) -> FormValues:
        """What treats needs something to treat."""
        data = super().clean() or self.cleaned_data
        if not data.get("name") and (data.get("cue") or data.get("by")):
            self.add_error("name", "Which fault does this treat?")
        return data


class VersionForm(Row):
    """One way to do the drill with less. A row without a name is none."""

    name = Line(label="Name", max_length=120, required=False)
    people = forms.ChoiceField(label="Who it takes", choices=People.choices, required=False)
    tools = Words(label="Tools", max_length=200, required=False)
    wall = forms.BooleanField(label="Needs a wall", required=False)
    loses = Words(label="What is lost", max_length=300, required=False)

    def clean(self) -> FormValues:
        """Honest about what is lost."""
        data = super().clean() or self.cleaned_data
        if data.get("name") and not data.get("loses"):
            self.add_error("loses", "Say what is lost: no live feed, no opponent...")
        if not data.get("name") and (data.get("tools") or data.get("loses") or data.get("wall")):
            self.add_error("name", "What is this way called?")
        return data


def places(club: Club, drill: Drill | None) -> list[Any]:
    """Where a fault may be treated: another drill, or a rung of a ladder."""
    drills = (
        Drill.objects.in_use()
        .of_club(club)
        .exclude(pk__in=[drill.pk] if drill else [])
        .order_by("title")
    )
    rungs = Rung.objects.filter(club=club, ladder__archived_on__isnull=True).select_related(
        "ladder"
    )
    rungs = rungs.order_by("ladder__title", "position")
    return [
        ("", "nowhere else"),
        ("Drills", [(f"drill-{d.pk}", d.title) for d in drills]),
        ("Rungs", [(f"rung-{r.pk}", f"{r.ladder}, {r.position}: {r.title}") for r in rungs]),
    ]


class Parts:
    """Both tables of a drill's form, bound to what was posted or opened with what is stored."""

    def __init__(self, posted: Any, club: Club, drill: Drill | None, model: Drill | None) -> None:
        self.club = club
        kwargs: FormValues = {"places": places(club, drill)}
        fault_rows = forms.formset_factory(
            FaultForm, extra=2, max_num=MOST_FAULTS, absolute_max=MOST_FAULTS
        )
        version_rows = forms.formset_factory(
            VersionForm, extra=1, max_num=MOST_VERSIONS, absolute_max=MOST_VERSIONS
        )
        opened = None if posted else fault_values(model)
        self.faults: Any = fault_rows(posted, prefix="fault", form_kwargs=kwargs, initial=opened)
        self.versions: Any = version_rows(
            posted, prefix="version", initial=None if posted else _versions(model)
        )

    def is_valid(self) -> bool:
        """Both tables, so that all faults are told at once."""
        return all([self.faults.is_valid(), self.versions.is_valid(), self._once()])

    def _once(self) -> bool:
        """A fault is named once."""
        seen: set[str] = set()
        for form in self.faults.forms:
            name = (form.cleaned_data.get("name") or "").casefold() if form.is_valid() else ""
            if name and name in seen:
                form.add_error("name", "This fault is named twice.")
                return False
            seen.add(name)
        return True

    def rows(self) -> Iterator[FormValues]:
        """The faults that have a name, in order."""
        yield from (
            form.cleaned_data for form in self.faults.forms if form.cleaned_data.get("name")
        )

    def fault_names(self) -> list[str]:
        """Faults as the drill keeps them."""
        return [row["name"] for row in self.rows()]

    def treatments(self) -> list[TreatmentInput]:
        """What treats them."""
        rows = []
        for row in self.rows():
            kind, _, pk = row["by"].partition("-")
            drill, rung = (int(pk) if kind == name else None for name in ("drill", "rung"))
            if row["cue"] or row["by"]:
                rows.append(TreatmentInput(row["name"], row["cue"], drill, rung))
        return rows

    def ways(self) -> tuple[SoloVersion, ...]:
        """The versions."""
        named = [form.cleaned_data for form in self.versions.forms if form.cleaned_data.get("name")]
        return tuple(
            SoloVersion(
                row["name"],
                row["people"] or People.SOLO,
                row["wall"],
                tuple(row["tools"]),
                loses=tuple(row["loses"]),
            )
            for row in named
        )


def fault_values(drill: Drill | None) -> list[FormValues]:
    """The faults' rows as they open."""
    if drill is None:
        return []
    treated = {treatment.fault: treatment for treatment in drill.treatments.all()}
    return [{"name": name, **_treatment(treated.get(name))} for name in drill.faults]


def _treatment(known: Any) -> dict[str, str]:
    if known is None:
        return {}
    by = f"rung-{known.by_rung_id}" if known.by_rung_id else ""
    by = f"drill-{known.by_drill_id}" if known.by_drill_id else by
    return {"cue": known.cue, "by": by}


def _versions(drill: Drill | None) -> list[FormValues]:
    rows = drill.versions if drill else ()
    return [
        {
            "name": v.name,
            "people": v.people,
            "tools": list(v.tools),
            "wall": v.wall,
            "loses": list(v.loses),
        }
        for v in rows
    ]
