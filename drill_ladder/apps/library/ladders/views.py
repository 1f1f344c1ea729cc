"""Looking at ladders."""

from typing import Any

from django.db.models import Count
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.views.decorators.http import require_GET

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.library.ladders.lines import ladder_lines
from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.library.rules.forms import RuleForm, first_values
from drill_ladder.apps.library.rules.odds import WHO, marks_of
from drill_ladder.apps.library.rules.services import keep_marks
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.models import Membership
from drill_ladder.formats.words import rule_sentence

MOST_OF_TRAIL = 15


@member_required
def ladders(request: HttpRequest, member: Membership) -> HttpResponse:
    """All ladders of the club."""
    aside = Ladder.objects.put_aside().of_club(member.club).order_by("title")
    found = Ladder.objects.in_use().of_club(member.club).select_related("skill")
    found = found.annotate(rung_count=Count("rungs")).order_by("title")
    shown = [{"ladder": ladder, "rule": rule_sentence(ladder.rule)} for ladder in found]
    return render(request, "library/ladders.html", {"ladders": shown, "aside": aside})


@member_required
def ladder(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One ladder, bottom to top, with the odds of its rule beside every rung."""
    found = get_object_or_404(Ladder.objects.of_club(member.club).prefetch_related("rungs__drill"), pk=pk)
    rule = found.rule
    form = RuleForm(first_values(rule, found.revision) | member.marks)
    context = {"ladder": found, "form": form, "who": WHO, "squads": list(member.club.squads.all())}
    context |= ladder_lines(found, rule, marks_of(member.marks) if member.decides else None)
    context["trail"] = Event.objects.about(found).select_related("actor")[:MOST_OF_TRAIL] if member.decides else []
    return render(request, "library/ladder.html", context)


@require_GET
@coach_required
def preview(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """What a rule as typed would do on every rung of a ladder; stores nothing but the coach's marks."""
    ladder = get_object_or_404(Ladder.objects.of_club(member.club).prefetch_related("rungs__drill"), pk=pk)
    form = RuleForm(request.GET)
    stored = ladder.rule
    context: dict[str, Any] = {"ladder": ladder, "form": form, "member": member, "now": rule_sentence(stored)}
    if form.is_valid():
        rule = form.rule(stored)
        keep_marks(member=member, marks=form.own_marks())
        context |= ladder_lines(ladder, rule, form.marks()) | {"tried": rule != stored}
    return render(request, "library/_ladder_preview.html", context)
