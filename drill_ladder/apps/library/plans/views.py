"""The floor plan's editor: a structured plan beside a live drawing."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render, resolve_url
from django.utils.text import slugify
from django.views.decorators.http import require_POST

from drill_ladder.apps.library.models import Drill, Rung
from drill_ladder.apps.library.plans.drawing import far_words, on_paper, preview, shaped
from drill_ladder.apps.library.plans.services import save_plan, save_rung_plan
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.core.plans import SHAPES, FloorPlan
from drill_ladder.formats.documents import PLAN
from drill_ladder.formats.reading import json_value, whole
from drill_ladder.ui.pages import SVG, attachment

LARGEST = 60_000
EMPTY = {
    "units": "m",
    "markers": [{"id": "A", "x": 0, "y": 0}],
    "legs": [],
    "zones": [],
    "paths": [],
    "walls": [],
    "margin": 0.5,
}


@dataclass(frozen=True)
class Edited:
    """Whose plan is edited: a drill's, or that of one rung; revision: the row's that keeps it."""

    drill: Drill
    revision: int
    back: str
    rung: Rung | None = None

    @property
    def of(self) -> Drill | Rung:
        """What the plan is of."""
        return self.rung or self.drill


def _read(text: str) -> Any:
    """The document, or None when it is none."""
    return json_value(text, LARGEST)


@coach_required
def edit(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """The floor plan of a drill."""
    drill = get_object_or_404(Drill.objects.of_club(member.club), pk=pk)
    about = Edited(drill, drill.revision, resolve_url("library:drill", drill.pk))

    def save(plan: FloorPlan | None, revision: int) -> None:
        save_plan(member=member, drill=drill, plan=plan, revision=revision)

    return _edited(request, drill.plan, save, about)


@coach_required
def edit_rung(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """How a drill is set up on one rung, beginning with what the drill has."""
    rung = get_object_or_404(Rung.objects.of_club(member.club).with_drill(), pk=pk)
    back = resolve_url("library:ladder", rung.ladder_id)
    about = Edited(rung.drill, rung.ladder.revision, back, rung)

    def save(plan: FloorPlan | None, revision: int) -> None:
        save_rung_plan(member=member, rung=rung, plan=plan, revision=revision)

    return _edited(request, rung.floor_plan, save, about)


def _edited(
    request: HttpRequest,
    stored: FloorPlan | None,
    save: Callable[[FloorPlan | None, int], None],
    about: Edited,
) -> HttpResponse:
    """The editor. What is wrong is said with its place, and nothing of it is stored."""
    wrong: list[str] = []
    plan = PLAN.write(stored) if stored else None
    if request.method == "POST":
        as_drill = about.rung and request.POST.get("as_drill")
        plan = None if as_drill else _read(request.POST.get("plan", ""))
        if not as_drill:
            wrong = ["$: is no floor plan"] if plan is None else PLAN.faults(plan, stored=True)
        revision = whole(request.POST.get("revision", "")) or 0
        if not wrong and plan is not None and not request.POST.get("sure"):
            wrong = far_words(PLAN.read(plan))
        if not wrong:
            try:
                save(None if plan is None else PLAN.read(plan), revision)
            except Refused as error:
                wrong = [str(error)]
            else:
                messages.success(request, f"The floor plan of {about.of} is saved.")
                return redirect(about.back)
    shapes = [
        {"key": key, "name": s.name, "numbers": list(s.numbers.items())}
        for key, s in SHAPES.items()
    ]
    empty = EMPTY | {"units": about.drill.club.unit}
    context = {"about": about, "plan": plan or empty, "wrong": wrong, "shapes": shapes}
    return render(request, "library/plan.html", context, status=422 if wrong else 200)


@require_POST
@coach_required
def preview_plan(request: HttpRequest, member: Membership) -> HttpResponse:
    """The drawing of a plan that is not stored, or what is wrong with it."""
    plan = _read(request.POST.get("plan", ""))
    return JsonResponse(
        preview(plan) if isinstance(plan, dict) else {"faults": ["$: is no floor plan"]}
    )


@coach_required
def shape(request: HttpRequest, member: Membership, name: str) -> HttpResponse:
    """A plan from a general shape."""
    plan = shaped(name, request.GET.dict())
    if plan is None:
        return JsonResponse(
            {"wrong": "Numbers above 0 and up to 200, at most 24 places, please."}, status=422
        )
    return JsonResponse({"plan": plan})


@member_required
def plan_file(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A drill's floor plan as an SVG file that stands alone."""
    drill = get_object_or_404(Drill.objects.of_club(member.club), pk=pk)
    if drill.plan is None:
        raise Http404
    svg = on_paper(drill.plan, title=f"Floor plan of {drill}")
    return attachment(svg, SVG, f"{slugify(drill.title) or 'drill'}.svg")
