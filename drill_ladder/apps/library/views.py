"""Looking at ladders and drills."""

from typing import Any

from django.db.models import Count
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render

from drill_ladder.apps.library.models import Drill, Ladder, Rung
from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.models import Membership
from drill_ladder.formats.documents import rule_from, rung_from
from drill_ladder.formats.words import dose_words, easing_sentence, rule_sentence, target_words


@member_required
def ladders(request: HttpRequest, member: Membership) -> HttpResponse:
    """All ladders of the club."""
    found = Ladder.objects.of_club(member.club).select_related("skill").annotate(rung_count=Count("rungs"))
    shown = [{"ladder": ladder, "rule": rule_sentence(rule_from(ladder.rule))} for ladder in found]
    return render(request, "library/ladders.html", {"ladders": shown})


@member_required
def ladder(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One ladder, bottom to top."""
    found = get_object_or_404(Ladder.objects.of_club(member.club).prefetch_related("rungs__drill"), pk=pk)
    context = {
        "ladder": found,
        "rule": rule_sentence(rule_from(found.rule)),
        "rungs": [rung_lines(rung, found) for rung in found.rungs.all()],
    }
    return render(request, "library/ladder.html", context)


def rung_lines(rung: Rung, ladder: Ladder) -> dict[str, Any]:
    """A rung with its terms in words."""
    terms = rung_from(rung.document())
    own = rule_from(rung.rule) if rung.rule else None
    return {
        "rung": rung,
        "dose": dose_words(terms),
        "target": target_words(terms),
        "easing": easing_sentence(own or rule_from(ladder.rule), terms),
        "own_rule": rule_sentence(own) if own else "",
        "two_axes": len(rung.axis) > 1,
    }


@member_required
def drills(request: HttpRequest, member: Membership) -> HttpResponse:
    """All drills of the club."""
    found = Drill.objects.of_club(member.club).select_related("skill").annotate(rung_count=Count("rungs"))
    return render(request, "library/drills.html", {"drills": found})


@member_required
def drill(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One drill, so that anyone can set it up right."""
    found = get_object_or_404(Drill.objects.of_club(member.club).select_related("skill"), pk=pk)
    used = found.rungs.select_related("ladder").order_by("ladder__title", "position")
    return render(request, "library/drill.html", {"drill": found, "used": used})
