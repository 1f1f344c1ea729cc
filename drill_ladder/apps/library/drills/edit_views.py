"""Writing drills."""

from dataclasses import asdict

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render

from drill_ladder.apps.history.once import once
from drill_ladder.apps.library.drills.differences import stored_drill, told_drill
from drill_ladder.apps.library.drills.form import DrillForm, drill_values
from drill_ladder.apps.library.drills.parts_form import Parts
from drill_ladder.apps.library.drills.run import RunForm, first_run, phases, rest_notes
from drill_ladder.apps.library.drills.services import save_drill
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.errors import Overtaken, Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.formats.kit_words import windows_text
from drill_ladder.formats.reading import whole
from drill_ladder.ui.differences import differences
from drill_ladder.ui.pages import Context


@coach_required
@once
def edit(request: HttpRequest, member: Membership, pk: int | None = None) -> HttpResponse:
    """A new drill (?from=ID: a copy of another one), or one that exists."""
    drills = Drill.objects.of_club(member.club).with_skill()
    drill = get_object_or_404(drills, pk=pk) if pk else None
    source = whole(request.GET.get("from", ""))
    model = drill or (get_object_or_404(drills, pk=source) if source is not None else None)
    first = drill_values(model) if model else {"kind": "makes", "caution": "home_alone"}
    if model and not drill:
        first |= {"title": f"{model.title} (copy)", "revision": 0}
    form = DrillForm(request.POST or None, initial=first, club=member.club, drill=drill)
    parts = Parts(request.POST or None, member.club, drill, model)
    conflict: Context = {}
    if request.method == "POST" and all([form.is_valid(), parts.is_valid()]):
        values = form.values() | {"faults": parts.fault_names(), "versions": parts.ways()}
        values |= {"plan": model.plan} if model else {}
        try:
            saved = save_drill(
                member=member,
                drill=drill,
                values=values,
                skill=form.cleaned_data["skill"],
                revision=form.cleaned_data["revision"],
                treatments=parts.treatments(),
            )
        except Overtaken as error:
            typed = told_drill(values, form.cleaned_data["skill"])
            conflict = {
                "said": str(error),
                "differences": differences(stored_drill(error.current), typed),
            }
            form = DrillForm(
                initial={
                    **form.cleaned_data,
                    "kit": windows_text(form.cleaned_data["kit"]),
                    "revision": error.current.revision,
                },
                club=member.club,
                drill=drill,
            )
        except Refused as error:
            form.add_error(None, str(error))
        else:
            messages.success(request, f"{saved} is saved.")
            return redirect("library:drill", saved.pk)
    wrong = request.method == "POST"  # what was right has led elsewhere
    context = {"form": form, "drill": drill, "parts": parts, "wrong": wrong, **conflict}
    return render(request, "library/drill_edit.html", context, status=422 if wrong else 200)


@member_required
def run(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """The drill's timer and caller, tried out with a dose; with ?sets=... the parts of that
    dose.
    """
    drill = get_object_or_404(Drill.objects.of_club(member.club), pk=pk)
    rung = drill.rungs.from_the_bottom().first()
    form = RunForm(request.GET if "sets" in request.GET else first_run(drill, rung))
    context: Context = {"drill": drill, "form": form, "phases": [], "notes": []}
    if form.is_valid():
        dose = form.run()
        parts = phases(dose, drill.lanes)
        context |= {
            "phases": [asdict(part) for part in parts],
            "notes": rest_notes(rung, dose),
            "total": sum(part.seconds for part in parts),
        }
    return render(request, "library/drill_run.html", context, status=422 if form.errors else 200)
