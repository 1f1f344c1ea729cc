"""A squad on one page, and the way to what the record says."""

from collections import Counter

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render

from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.models import Membership, Squad
from drill_ladder.apps.progress.squad.overview import (
    SquadRow,
    Standing,
    covered_lines,
    kept,
    rows_of,
    shared,
    squad_record,
)
from drill_ladder.formats.reading import whole

SORTS = {
    "need": ("who needs a coach", lambda row: (row.standing.urgency, row.player.name)),
    "name": ("name", lambda row: (row.player.name, row.prescription.ladder.title)),
    "ladder": ("ladder", lambda row: (row.prescription.ladder.title, row.player.name)),
}


@member_required
def squad(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """?ladder=ID only those on a ladder; ?by=need, name or ladder, how the rows are sorted."""
    row = get_object_or_404(Squad.objects.of_club(member.club), pk=pk)
    row.club = member.club
    record = squad_record(row, member.club.today())
    rows = rows_of(record)
    ladders = sorted({one.prescription.ladder for one in rows}, key=lambda one: one.title)
    ladder = whole(request.GET.get("ladder", ""))
    by = request.GET.get("by", "need")
    by = by if by in SORTS else "need"
    shown = [one for one in rows if ladder in (None, one.prescription.ladder_id)]
    context = {
        "squad": row,
        "rows": sorted(shown, key=SORTS[by][1]),
        "counts": _counts(rows),
        "ladders": ladders,
        "ladder": ladder,
        "by": by,
        "sorts": [(key, words) for key, (words, _) in SORTS.items()],
        "shared": shared(record),
        "covered": covered_lines(record),
        "kept": kept(record),
    }
    return render(request, "progress/squad.html", context)


@coach_required
def insights(request: HttpRequest, member: Membership) -> HttpResponse:
    """The way to everything that is read from the record."""
    context = {
        "squads": Squad.objects.of_club(member.club).with_counts(),
        "ladders": Ladder.objects.of_club(member.club).in_use().with_any_rung(),
    }
    return render(request, "progress/insights.html", context)


def _counts(rows: list[SquadRow]) -> list[tuple[Standing, str]]:
    counts = Counter(row.standing for row in rows)
    return [
        (standing, standing.counted(counts[standing])) for standing in Standing if counts[standing]
    ]
