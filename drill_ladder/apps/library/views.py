"""Looking at ladders and drills."""

from typing import Any

from django.contrib import messages
from django.db.models import Count
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render, resolve_url
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_POST

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.library.forms import RuleForm, SearchForm, SpaceForm, StrideForm, first_values
from drill_ladder.apps.library.models import Drill, Intent, Ladder, Rung, Treatment
from drill_ladder.apps.library.odds import WHO, Marks, marks_of, risks
from drill_ladder.apps.library.plans import OWN_UNITS, UNITS, drawn, fit_words, on_paper, ruler
from drill_ladder.apps.library.services import put_aside
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.models import Membership
from drill_ladder.core.rules import Rule
from drill_ladder.formats.documents import measure_from, rule_from, rung_from
from drill_ladder.formats.words import (
    band_words,
    dose_words,
    easing_sentence,
    measure_words,
    rule_sentence,
    target_words,
)

MOST_OF_TRAIL = 15


@member_required
def ladders(request: HttpRequest, member: Membership) -> HttpResponse:
    """All ladders of the club."""
    aside = Ladder.objects.put_aside().of_club(member.club).order_by("title")
    found = Ladder.objects.in_use().of_club(member.club).select_related("skill")
    found = found.annotate(rung_count=Count("rungs")).order_by("title")
    shown = [{"ladder": ladder, "rule": rule_sentence(rule_from(ladder.rule))} for ladder in found]
    return render(request, "library/ladders.html", {"ladders": shown, "aside": aside})


@member_required
def ladder(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One ladder, bottom to top, with the odds of its rule beside every rung."""
    found = get_object_or_404(Ladder.objects.of_club(member.club).prefetch_related("rungs__drill"), pk=pk)
    rule = rule_from(found.rule)
    form = RuleForm(first_values(rule, found.revision) | member.marks)
    context = {"ladder": found, "form": form, "who": WHO, "squads": list(member.club.squads.all())}
    context |= ladder_lines(found, rule, marks_of(member.marks) if member.decides else None)
    context["trail"] = Event.objects.about(found).select_related("actor")[:MOST_OF_TRAIL] if member.decides else []
    return render(request, "library/ladder.html", context)


def ladder_lines(ladder: Ladder, rule: Rule, marks: Marks | None) -> dict[str, Any]:
    """A ladder under a rule; odds_at: its first rung with odds, None without any."""
    rungs = [rung_lines(rung, rule, marks) for rung in ladder.rungs.all()]
    odds_at = next((one["rung"].position for one in rungs if one["risks"]), None)
    return {"rule": rule_sentence(rule), "rungs": rungs, "marks": marks, "odds_at": odds_at}


def rung_lines(rung: Rung, rule: Rule, marks: Marks | None = None) -> dict[str, Any]:
    """A rung with its terms in words under the ladder's rule; with marks, the odds too."""
    terms = rung_from(rung.document())
    own = rule_from(rung.rule) if rung.rule else None
    return {
        "rung": rung,
        "dose": dose_words(terms, rung.reps_high),
        "target": target_words(terms),
        "more": more_words(rung),
        "easing": easing_sentence(own or rule, terms),
        "own_rule": rule_sentence(own) if own else "",
        "two_axes": len(rung.axis) > 1,
        "risks": risks(terms, own or rule, marks) if marks else None,
    }


TEMPOS = {0.5: "at half speed", 0.75: "at three quarters of full speed", 1.0: "at full speed"}


def more_words(rung: Rung) -> str:
    """Intent, tempo and what is expected, where they say something."""
    parts = [] if rung.intent == Intent.SKILL else [rung.get_intent_display()]
    if rung.tempo:
        parts.append(TEMPOS.get(rung.tempo, f"at {rung.tempo * 100:.0f}\u00a0% of full speed"))
    if rung.success:
        parts.append(f"expected here: {band_words(measure_from(rung.drill.measure), rung.success)}")
    return (", ".join(parts)).capitalize()


@require_POST
@coach_required
def aside(request: HttpRequest, member: Membership, kind: str, pk: int) -> HttpResponse:
    """Archive a drill or a ladder, or restore it."""
    model: Any = {"drills": Drill, "ladders": Ladder}.get(kind)
    if model is None:
        raise Http404
    row = get_object_or_404(model.objects.of_club(member.club), pk=pk)
    put_aside(member=member, row=row, on=None if row.archived_on else timezone.localdate())
    said = "is archived: nobody is given it any more, and nothing of it is lost" if row.archived_on else "is restored"
    messages.success(request, f"{row} {said}.")
    return redirect(f"library:{kind}")


@member_required
def drills(request: HttpRequest, member: Membership) -> HttpResponse:
    """All drills of the club, or those that a search leaves."""
    form = SearchForm(request.GET, club=member.club)
    form.is_valid()  # what cannot be read is not searched for
    aside = Drill.objects.put_aside().of_club(member.club).order_by("title")
    found = Drill.objects.in_use().of_club(member.club).matching(**form.cleaned_data)
    found = found.select_related("skill").annotate(rung_count=Count("rungs")).order_by("title")
    searched = any(form.cleaned_data.values())
    context = {"drills": found, "form": form, "searched": searched, "aside": aside}
    return render(request, "library/drills.html", context)


@member_required
def drill(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One drill, so that anyone can set it up right."""
    found = get_object_or_404(Drill.objects.of_club(member.club).for_file(), pk=pk)
    used = found.rungs.select_related("ladder").order_by("ladder__title", "position")
    context = {
        "drill": found,
        "used": used,
        "fit": "",
        "faults": fault_lines(found),
        "scored": measure_words(measure_from(found.measure)),
        **_plan_context(request, found),
    }
    return render(request, "library/drill.html", context)


@member_required
def plan_file(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A drill's floor plan as an SVG file that stands alone."""
    found = get_object_or_404(Drill.objects.of_club(member.club).exclude(plan=None), pk=pk)
    svg = on_paper(found.plan, title=f"Floor plan of {found}")
    response = HttpResponse(svg, content_type="image/svg+xml; charset=utf-8")
    response.headers["Content-Disposition"] = f'attachment; filename="{slugify(found.title) or "drill"}.svg"'
    return response


def fault_lines(drill: Drill) -> list[dict[str, Any]]:
    """The drill's faults, each with what treats it and where that is."""
    treated = {treatment.fault: treatment for treatment in drill.treatments.all()}
    return [{"name": name, **_place_of(treated.get(name))} for name in drill.faults]


def _place_of(by: Treatment | None) -> dict[str, Any]:
    if by is None:
        return {"by": None}
    if by.by_rung:
        place, name = resolve_url("library:ladder", by.by_rung.ladder_id), f"{by.by_rung.ladder}, {by.by_rung}"
    elif by.by_drill:
        place, name = resolve_url("library:drill", by.by_drill_id), str(by.by_drill)
    else:
        place = name = ""
    return {"by": by, "place": place, "place_name": name}


def _plan_context(request: HttpRequest, drill: Drill) -> dict[str, Any]:
    """The floor plan in the unit asked for, and whether it fits the space asked about (metres)."""
    if drill.plan is None:
        return {"shown": None}
    own = StrideForm(request.GET, club=drill.club)
    lengths = own.lengths() if own.is_valid() else {}
    shown = drawn(drill.plan, ruler(request.GET.get("units", ""), **lengths), title=f"Floor plan of {drill}")
    form = SpaceForm(request.GET if "width" in request.GET else None)
    fit = fit_words(shown["plan"], **form.cleaned_data) if form.is_bound and form.is_valid() else ""
    return {"shown": shown, "fit": fit, "space": form, "units": UNITS, "own_units": OWN_UNITS, "own": own}
