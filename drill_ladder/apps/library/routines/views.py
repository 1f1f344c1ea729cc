"""Looking at routines and writing them."""

from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render

from drill_ladder.apps.history.once import once
from drill_ladder.apps.library.models import Routine
from drill_ladder.apps.library.routines.form import (
    PartForm,
    RoutineForm,
    Things,
    head_values,
    part_values,
    stepped,
)
from drill_ladder.apps.library.routines.services import save_routine
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.errors import Overtaken, Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.formats.library_file import MOST_PARTS
from drill_ladder.formats.reading import whole

FIRST_ROWS = 3


@member_required
def routines(request: HttpRequest, member: Membership) -> HttpResponse:
    """All routines of the club."""
    rows = Routine.objects.of_club(member.club).with_parts()
    context = {
        "routines": [row for row in rows if row.archived_on is None],
        "aside": [row for row in rows if row.archived_on is not None],
        "for_player": whole(request.GET.get("player", "")),
    }
    return render(request, "library/routines.html", context)


@coach_required
@once
def edit(request: HttpRequest, member: Membership, pk: int | None = None) -> HttpResponse:
    """A new routine, or one that exists; rows are added and moved on the page, only "Save" stores
    anything.
    """
    rows = Routine.objects.of_club(member.club).with_parts()
    routine = get_object_or_404(rows, pk=pk) if pk else None
    values = head_values(routine) if routine else {}
    head = RoutineForm(request.POST or None, initial=values, club=member.club, routine=routine)
    parts = _rows(member, request.POST or None, part_values(routine) if routine else None)
    step = request.POST.get("step", "")
    if step:
        typed = [{name: form[name].value() for name in form.fields} for form in parts.forms]
        parts = _rows(member, None, stepped(typed, step))
        head = RoutineForm(initial=request.POST.dict(), club=member.club, routine=routine)
    elif request.method == "POST" and all([head.is_valid(), parts.is_valid()]):
        saved = _save(member, routine, head, parts)
        if saved is not None:
            messages.success(request, f"{saved} is saved.")
            return redirect("prescriptions:routine", saved.pk)
    wrong = not step and bool(head.errors or parts.total_error_count())
    context = {"routine": routine, "head": head, "rows": parts, "wrong": wrong}
    return render(request, "library/routine_edit.html", context, status=422 if wrong else 200)


def _rows(member: Membership, sent: Any, values: list[dict[str, Any]] | None) -> Any:
    """The parts as rows; as they are, or three empty ones."""
    filled = values if values is not None else [{} for _ in range(FIRST_ROWS)]
    formset = forms.formset_factory(PartForm, extra=0, max_num=MOST_PARTS, absolute_max=MOST_PARTS)
    things = Things(member.club)
    if sent:
        return formset(sent, prefix="part", form_kwargs={"things": things})
    return formset(initial=filled, prefix="part", form_kwargs={"things": things})


def _save(
    member: Membership, routine: Routine | None, head: RoutineForm, rows: Any
) -> Routine | None:
    """What was stored; None with the reason in the head."""
    parts = [form.part() for form in rows.forms if form.cleaned_data.get("of")]
    conflict = head.head()
    if conflict.insert is not None and conflict.insert[0] >= len(parts):
        head.add_error("insert_at", "There is no such part.")
        return None
    try:
        return save_routine(
            member=member,
            routine=routine,
            head=conflict,
            parts=parts,
            revision=head.cleaned_data["revision"],
        )
    except Overtaken:
        told_ = "Somebody else changed this routine meanwhile: load it again. Nothing was saved."
        head.add_error(None, told_)
    except Refused as error:
        head.add_error(None, str(error))
    return None
