"""Looking at ladders."""

from dataclasses import replace

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.views.decorators.http import require_GET

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.library.ladders.lines import ladder_lines
from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.library.rules import WHO, RuleForm, first_values, marks_of
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.models import Membership, Squad
from drill_ladder.formats.words import rule_sentence
from drill_ladder.ui.pages import Context, page_or_fragment

MOST_OF_TRAIL = 15


@member_required
def ladders(request: HttpRequest, member: Membership) -> HttpResponse:
    """All ladders of the club."""
    aside = Ladder.objects.archived().of_club(member.club)
    rows = Ladder.objects.in_use().of_club(member.club).with_rung_counts()
    shown = [{"ladder": ladder, "rule": rule_sentence(ladder.rule)} for ladder in rows]
    return render(request, "library/ladders.html", {"ladders": shown, "aside": aside})


@member_required
def ladder(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One ladder, bottom to top, with the odds of its rule beside every rung."""
    ladder_row = get_object_or_404(Ladder.objects.of_club(member.club).with_rungs(), pk=pk)
    rule = ladder_row.rule
    form = RuleForm(first_values(rule, ladder_row.revision) | member.marks)
    context = {
        "ladder": ladder_row,
        "form": form,
        "who": WHO,
        "squads": list(Squad.objects.of_club(member.club)),
    }
    context |= ladder_lines(
        ladder_row, rule, marks_of(member.marks, member.club.day_spread) if member.decides else None
    ).context()
    return render(request, "library/ladder.html", context)


@coach_required
def trail(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Who changed what about a ladder."""
    ladder_row = get_object_or_404(Ladder.objects.of_club(member.club), pk=pk)
    rows = Event.objects.about(ladder_row)[:MOST_OF_TRAIL]
    context: Context = {"trail": rows, "about": ladder_row.title}
    return page_or_fragment(request, "trail.html", "components/trail_lines.html", context)


@require_GET
@coach_required
def preview(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """What a rule as typed would do on every rung of a ladder; stores nothing."""
    ladder = get_object_or_404(Ladder.objects.of_club(member.club).with_rungs(), pk=pk)
    form = RuleForm(request.GET)
    stored = ladder.rule
    context: Context = {
        "ladder": ladder,
        "form": form,
        "member": member,
        "now": rule_sentence(stored),
    }
    if form.is_valid():
        rule = form.rule(stored)
        marks = replace(form.marks(), spread=member.club.day_spread)
        context |= ladder_lines(ladder, rule, marks).context() | {"tried": rule != stored}
    return render(request, "library/_ladder_preview.html", context)
