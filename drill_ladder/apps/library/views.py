"""Archiving drills and ladders."""

from typing import Any

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_POST

from drill_ladder.apps.library.models import Drill, Ladder, Routine
from drill_ladder.apps.library.services import archive_row
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.models import Membership


@require_POST
@coach_required
def archive(request: HttpRequest, member: Membership, kind: str, pk: int) -> HttpResponse:
    """Archive a drill, a ladder or a routine, or restore it."""
    model: Any = {"drills": Drill, "ladders": Ladder, "routines": Routine}.get(kind)
    if model is None:
        raise Http404
    row = get_object_or_404(model.objects.of_club(member.club), pk=pk)
    archive_row(member=member, row=row, on=None if row.archived_on else member.club.today())
    said = (
        "is archived: nobody is given it any more, and nothing of it is lost"
        if row.archived_on
        else "is restored"
    )
    messages.success(request, f"{row} {said}.")
    return redirect(f"library:{kind}")
