"""Building ladders. Rows are added, copied, moved and split on the page; only "Save" stores anything."""

from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render, resolve_url
from django_htmx.http import HttpResponseClientRedirect

from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.apps.library.rung_form import DraftForm, HeadForm, RungForm, rung_values, step_of, stepped
from drill_ladder.apps.library.services import save_ladder
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.core.session_chances import binom_tail
from drill_ladder.web.pages import page_or_fragment

TRUE_RATE, RARE = 0.8, 0.2


@coach_required
def edit(request: HttpRequest, member: Membership, pk: int | None = None) -> HttpResponse:
    """A new ladder, or one that exists."""
    ladder = get_object_or_404(Ladder.objects.of_club(member.club).select_related("skill"), pk=pk) if pk else None
    head = HeadForm(request.POST or None, initial=_head(ladder), club=member.club, ladder=ladder)
    rows = _formset(member, request, ladder)
    step = step_of(request.POST.get("step", ""))
    if step is not None:
        typed = [{name: form[name].value() for name in form.fields} for form in rows.forms]
        rows = _formset(member, None, ladder, stepped(typed, step))
    elif request.method == "POST" and head.is_valid() and rows.is_valid():
        saved = _save(request, member, ladder, head, rows)
        if saved is not None:
            # htmx would follow a redirect into the form's own place
            htmx: Any = request.htmx  # type: ignore[attr-defined]
            target = resolve_url("library:ladder", saved.pk)
            return HttpResponseClientRedirect(target) if htmx else redirect(target)
    wrong = step is None and (head.errors or rows.total_error_count() > 0)
    context = {
        "ladder": ladder,
        "head": head if step is None else HeadForm(initial=request.POST.dict(), club=member.club, ladder=ladder),
        "rows": rows,
        "notes": [_notes(form) for form in rows.forms],
        "wrong": bool(wrong),
        "drills": Drill.objects.of_club(member.club).exists(),
    }
    status = 422 if wrong else 200
    return page_or_fragment(request, "library/ladder_edit.html", "library/_ladder_form.html", context, status)


@coach_required
def draft(request: HttpRequest, member: Membership) -> HttpResponse:
    """A first draft from chosen axes, handed to the builder; nothing is stored yet."""
    form = DraftForm(request.POST or None, club=member.club)
    if request.method == "POST" and form.is_valid():
        rows = _formset(member, None, None, form.rows())
        context = {
            "ladder": None,
            "head": HeadForm(initial=_head(None), club=member.club),
            "rows": rows,
            "notes": [_notes(row) for row in rows.forms],
            "wrong": False,
            "drills": True,
        }
        return render(request, "library/ladder_edit.html", context)
    drills = Drill.objects.of_club(member.club).exists()
    context = {"form": form, "drills": drills}
    return render(request, "library/ladder_draft.html", context, status=422 if form.errors else 200)


def _head(ladder: Ladder | None) -> dict[str, Any]:
    if ladder is None:
        return {"revision": 0}
    skill = ladder.skill.name if ladder.skill else ""
    return {"title": ladder.title, "skill": skill, "purpose": ladder.purpose, "revision": ladder.revision}


def _formset(member: Membership, request: HttpRequest | None, ladder: Ladder | None, rows: Any = None) -> Any:
    """The rungs as rows: as posted, as stepped, or as stored."""
    make = forms.formset_factory(RungForm, extra=0, max_num=40, absolute_max=60)
    kwargs = {"club": member.club}
    if request is not None and request.method == "POST":
        return make(request.POST, prefix="rung", form_kwargs=kwargs)
    if rows is None:
        rungs = ladder.rungs.select_related("drill") if ladder else []
        rows = [rung_values(rung) for rung in rungs] or [{"sets": 1, "reps": 10, "makes": 8, "of": 10}]
    return make(initial=rows, prefix="rung", form_kwargs=kwargs)


def _save(request: HttpRequest, member: Membership, ladder: Ladder | None, head: HeadForm, rows: Any) -> Ladder | None:
    rungs = [(form.cleaned_data["id"], form.cleaned_data["drill"], form.values()) for form in rows.forms]
    try:
        saved = save_ladder(
            member=member, ladder=ladder, head=head.cleaned_data, rungs=rungs, revision=head.cleaned_data["revision"]
        )
    except Refused as error:
        head.add_error(None, str(error))
        return None
    messages.success(request, f"{saved} is saved. Players keep the terms they arrived with.")
    return saved


def _notes(form: RungForm) -> list[str]:
    """What a coach should see before any child is judged by the rung."""
    found = []
    if form["axis"].value() and form["also"].value():
        found.append("Two things change at once: nobody will know which one was too hard.")
    chance = _pass_chance(form)
    if chance is not None and chance < RARE:
        found.append(f"A player at a true 80\u00a0% passes here in {chance * 100:.0f}\u00a0% of the sessions.")
    return found


def _pass_chance(form: RungForm) -> float | None:
    """The chance at a true 80 % in one lane, from what is typed; None where it cannot be told."""
    try:
        makes, of = int(form["makes"].value()), int(form["of"].value())
        attempts = int(form["sets"].value() or 1) * int(form["reps"].value() or of)
    except (TypeError, ValueError):
        return None
    if not 0 < of <= 1000 or not 0 <= makes <= of or not 0 < attempts <= 10_000:
        return None
    return binom_tail(attempts, -(-makes * attempts // of), TRUE_RATE)
