"""Building ladders. Rows are added, copied, moved and split on the page; only "Save" stores
anything.
"""

from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render, resolve_url
from django.views.decorators.http import require_POST
from django_htmx.http import HttpResponseClientRedirect

from drill_ladder.apps.history.once import once
from drill_ladder.apps.library.ladders.differences import stored_ladder, told_ladder
from drill_ladder.apps.library.ladders.draft_form import DraftForm
from drill_ladder.apps.library.ladders.rung_form import Drills, HeadForm, RungForm, rung_values
from drill_ladder.apps.library.ladders.rung_notes import Notes, notes
from drill_ladder.apps.library.ladders.rung_steps import step_of, stepped
from drill_ladder.apps.library.ladders.services import NEW_RULE, LadderHead, save_ladder
from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.apps.library.rules import marks_of
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Overtaken, Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.core.judging import Rule
from drill_ladder.formats.library_file import MOST_RUNGS
from drill_ladder.formats.reading import whole
from drill_ladder.formats.words import rule_sentence
from drill_ladder.ui.differences import differences
from drill_ladder.ui.pages import Context, htmx_of, page_or_fragment


@coach_required
@once
def edit(request: HttpRequest, member: Membership, pk: int | None = None) -> HttpResponse:
    """A new ladder (?from=ID: a copy of another one), or one that exists."""
    ladders = Ladder.objects.of_club(member.club).with_skill()
    ladder = get_object_or_404(ladders, pk=pk) if pk else None
    source = whole(request.GET.get("from", ""))
    model = ladder or (get_object_or_404(ladders, pk=source) if source is not None else None)
    head = HeadForm(
        request.POST or None, initial=_head(model, ladder is None), club=member.club, ladder=ladder
    )
    rows = _formset(member, request, model)
    step = step_of(request.POST.get("step", ""))
    told: list[Any] = []
    if step is not None:
        typed = [{name: form[name].value() for name in form.fields} for form in rows.forms]
        rows = _formset(member, None, model, stepped(typed, step))
        head = HeadForm(initial=request.POST.dict(), club=member.club, ladder=ladder)
    elif request.method == "POST" and head.is_valid() and rows.is_valid():
        saved = _save(request, member, ladder, model, head, rows)
        if isinstance(saved, Ladder):
            return _gone_to(request, saved)
        if saved is not None:
            told, head = saved
    wrong = step is None and bool(head.errors or rows.total_error_count() > 0 or told)
    context = {
        "ladder": ladder,
        "model": model,
        "head": head,
        "rows": rows,
        "wrong": wrong,
        "differences": told,
    }
    context["rule"] = rule_sentence(_rule(model))
    context |= {
        "notes": _all_notes(member, rows),
        "drills": Drill.objects.of_club(member.club).exists(),
    }
    status = 422 if wrong else 200
    return page_or_fragment(
        request, "library/ladder_edit.html", "library/_ladder_form.html", context, status
    )


def _gone_to(request: HttpRequest, ladder: Ladder) -> HttpResponse:
    """On to the ladder, or to whoever stands on it; htmx would follow a redirect into the form's
    own place.
    """
    stands = ladder.prescriptions.active().exists()
    target = resolve_url("prescriptions:standing" if stands else "library:ladder", ladder.pk)
    htmx = htmx_of(request)
    return HttpResponseClientRedirect(target) if htmx else redirect(target)


@coach_required
def draft(request: HttpRequest, member: Membership) -> HttpResponse:
    """A first draft from chosen axes, handed to the builder; nothing is stored yet."""
    form = DraftForm(request.POST or None, club=member.club)
    if request.method == "POST" and form.is_valid():
        rows = _formset(member, None, None, form.rows())
        head = HeadForm(initial=_head(None, True), club=member.club)
        context = {
            "ladder": None,
            "head": head,
            "rows": rows,
            "notes": _all_notes(member, rows),
            "rule": rule_sentence(NEW_RULE),
            "wrong": False,
            "drills": True,
        }
        return render(request, "library/ladder_edit.html", context)
    drills = Drill.objects.of_club(member.club).exists()
    context = {"form": form, "drills": drills}
    return render(request, "library/ladder_draft.html", context, status=422 if form.errors else 200)


@require_POST
@coach_required
def preview(
    request: HttpRequest, member: Membership, row: int, pk: int | None = None
) -> HttpResponse:
    """What is to be said beside one row of the builder as it is typed; stores nothing."""
    ladder = get_object_or_404(Ladder.objects.of_club(member.club), pk=pk) if pk else None
    rule = _rule(ladder)
    form = RungForm(request.POST, prefix=f"rung-{row}", drills=Drills(member.club), base=rule)
    return render(
        request,
        "library/_rung_notes.html",
        {"note": notes(form, rule, marks_of(member.marks, member.club.day_spread))},
    )


def _head(ladder: Ladder | None, new: bool) -> Context:
    if ladder is None:
        return {"revision": 0}
    skill = ladder.skill.name if ladder.skill else ""
    title = f"{ladder.title} (copy)" if new else ladder.title
    return {
        "title": title,
        "skill": skill,
        "purpose": ladder.purpose,
        "revision": 0 if new else ladder.revision,
    }


def _rule(ladder: Ladder | None) -> Rule:
    return ladder.rule if ladder else NEW_RULE


def _formset(
    member: Membership, request: HttpRequest | None, ladder: Ladder | None, rows: Any = None
) -> Any:
    """The rungs as rows: as posted, as stepped, or as stored (of a ladder that is copied, without
    their ids).
    """
    make = forms.formset_factory(RungForm, extra=0, max_num=MOST_RUNGS, absolute_max=MOST_RUNGS)
    kwargs = {"drills": Drills(member.club), "base": _rule(ladder)}
    if request is not None and request.method == "POST":
        return make(request.POST, prefix="rung", form_kwargs=kwargs)
    if rows is None:
        rungs = list(ladder.rungs.with_drill()) if ladder else []
        rows = [rung_values(rung) for rung in rungs] or [
            {"sets": 1, "reps": 10, "makes": 8, "of": 10}
        ]
        if request is not None and "from" in request.GET:
            rows = [{**row, "id": None} for row in rows]
    return make(initial=rows, prefix="rung", form_kwargs=kwargs)


def _all_notes(member: Membership, rows: Any) -> list[Notes]:
    marks = marks_of(member.marks, member.club.day_spread)
    return [notes(form, form.base, marks) for form in rows.forms]


def _save(
    request: HttpRequest,
    member: Membership,
    ladder: Ladder | None,
    model: Ladder | None,
    head: HeadForm,
    rows: Any,
) -> Any:
    """The saved ladder; None with the reason in the form; or, overtaken, what differs and the head
    to send again.
    """
    rungs = [form.rung() for form in rows.forms]
    data = head.cleaned_data
    named = LadderHead(data["title"], data["skill"], data["purpose"])
    rule = model.rule if model and not ladder else None
    try:
        saved = save_ladder(
            member=member,
            ladder=ladder,
            head=named,
            rungs=rungs,
            revision=data["revision"],
            rule=rule,
        )
    except Overtaken as error:
        typed = told_ladder(named, rungs)
        again = HeadForm(
            initial={**request.POST.dict(), "revision": error.current.revision},
            club=member.club,
            ladder=ladder,
        )
        again.told = str(error)
        return differences(stored_ladder(error.current), typed), again
    except Refused as error:
        head.add_error(None, str(error))
        return None
    messages.success(request, f"{saved} is saved. Players keep the terms they arrived with.")
    return saved
