"""The floor plan's editor: a structured plan beside a live drawing."""

import json
from typing import Any

from django.contrib import messages
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.library.plans import preview, shaped
from drill_ladder.apps.library.services import save_plan
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.core.plan_templates import SHAPES
from drill_ladder.formats.documents import part_faults

LARGEST = 60_000
EMPTY = {"units": "m", "markers": [{"id": "A", "x": 0, "y": 0}], "legs": [], "zones": [], "paths": [], "margin": 0.5}


def _read(text: str) -> Any:
    """The document, or None when it is none."""
    try:
        return json.loads(text) if len(text) <= LARGEST else None
    except ValueError:
        return None


@coach_required
def edit(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """The editor. What is wrong is said with its place, and nothing of it is stored."""
    drill = get_object_or_404(Drill.objects.of_club(member.club), pk=pk)
    plan: Any = drill.plan or EMPTY
    wrong: list[str] = []
    if request.method == "POST":
        plan = _read(request.POST.get("plan", ""))
        wrong = ["$: is no floor plan"] if plan is None else part_faults("plan", plan)
        revision = request.POST.get("revision", "")
        if not wrong:
            try:
                save_plan(member=member, drill=drill, plan=plan, revision=int(revision) if revision.isdigit() else 0)
            except Refused as error:
                wrong = [str(error)]
            else:
                messages.success(request, f"The floor plan of {drill} is saved.")
                return redirect("library:drill", drill.pk)
    context = {
        "drill": drill,
        "plan": plan or EMPTY,
        "wrong": wrong,
        "shapes": [{"key": key, "name": s.name, "numbers": list(s.numbers.items())} for key, s in SHAPES.items()],
    }
    return render(request, "library/plan.html", context, status=422 if wrong else 200)


@require_POST
@coach_required
def look(request: HttpRequest, member: Membership) -> HttpResponse:
    """The drawing of a plan that is not stored, or what is wrong with it."""
    plan = _read(request.POST.get("plan", ""))
    return JsonResponse(preview(plan) if isinstance(plan, dict) else {"faults": ["$: is no floor plan"]})


@coach_required
def shape(request: HttpRequest, member: Membership, name: str) -> HttpResponse:
    """A plan from a general shape."""
    plan = shaped(name, request.GET.dict())
    if plan is None:
        return JsonResponse({"wrong": "Numbers above 0 and up to 200, at most 24 places, please."}, status=422)
    return JsonResponse({"plan": plan})
