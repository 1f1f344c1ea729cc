"""Looking at drills."""

from dataclasses import dataclass

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render, resolve_url

from drill_ladder.apps.library.drills.search_form import SearchForm
from drill_ladder.apps.library.models import Drill, Treatment
from drill_ladder.apps.library.plans import (
    OWN_UNITS,
    UNITS,
    SpaceForm,
    StrideForm,
    drawn,
    fit_words,
    ruler,
)
from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.models import Club, Membership
from drill_ladder.formats.measures import measure_words
from drill_ladder.ui.pages import Context

RARE = ("kind", "people", "tool", "lane", "surface")  # folded away until one of them is used


@member_required
def drills(request: HttpRequest, member: Membership) -> HttpResponse:
    """All drills of the club, or those that a search leaves."""
    form = SearchForm(request.GET, club=member.club)
    form.is_valid()  # what cannot be read is not searched for
    aside = Drill.objects.archived().of_club(member.club)
    rows = (
        Drill.objects.in_use().of_club(member.club).matching(**form.cleaned_data).with_rung_counts()
    )
    searched = any(form.cleaned_data.values())
    narrowed = any(form.cleaned_data.get(name) for name in RARE)
    context = {
        "drills": rows,
        "form": form,
        "searched": searched,
        "narrowed": narrowed,
        "aside": aside,
    }
    return render(request, "library/drills.html", context)


@member_required
def drill(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One drill, so that anyone can set it up right."""
    drill_row = get_object_or_404(Drill.objects.of_club(member.club).for_file(), pk=pk)
    used = drill_row.rungs.by_ladder()
    context = {
        "drill": drill_row,
        "used": used,
        "fit": "",
        "faults": fault_lines(drill_row),
        "scored": measure_words(drill_row.measure),
        **_plan_context(request, drill_row, member.club),
    }
    return render(request, "library/drill.html", context)


@dataclass(frozen=True, slots=True)
class FaultLine:
    """A fault of a drill, with what treats it (None: nothing is noted), and the address and name of
    where that is.
    """

    name: str
    by: Treatment | None
    place: str = ""
    place_name: str = ""


def fault_lines(drill: Drill) -> list[FaultLine]:
    """The drill's faults, each with what treats it and where that is."""
    treated = {treatment.fault: treatment for treatment in drill.treatments.all()}
    return [_fault_line(name, treated.get(name)) for name in drill.faults]


def _fault_line(name: str, by: Treatment | None) -> FaultLine:
    if by and by.by_rung:
        place = resolve_url("library:ladder", by.by_rung.ladder_id)
        return FaultLine(name, by, place, f"{by.by_rung.ladder}, {by.by_rung}")
    if by and by.by_drill:
        return FaultLine(name, by, resolve_url("library:drill", by.by_drill_id), str(by.by_drill))
    return FaultLine(name, by)


def _plan_context(request: HttpRequest, drill: Drill, club: Club) -> Context:
    """The floor plan in the unit asked for, and whether it fits the space asked about (metres)."""
    if drill.plan is None:
        return {"shown": None}
    own = StrideForm(request.GET, club=club)
    lengths = own.lengths() if own.is_valid() else {}
    shown = drawn(
        drill.plan, ruler(request.GET.get("units", ""), **lengths), title=f"Floor plan of {drill}"
    )
    form = SpaceForm(request.GET if "width" in request.GET else None)
    timed, fit = drill.measure.is_timed, ""
    if form.is_bound and form.is_valid():
        fit = fit_words(shown.plan, **form.cleaned_data, smallest=drill.smallest, timed=timed)
    return {
        "shown": shown,
        "fit": fit,
        "space": form,
        "units": UNITS,
        "own_units": OWN_UNITS,
        "own": own,
    }
