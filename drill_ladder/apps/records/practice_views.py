"""The practice club: begun from the first steps, ended from any of its pages."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from drill_ladder.apps.people.access import CHOSEN_CLUB, coach_required, owner_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.records.practice_club import begin_practice, end_practice


@require_POST
@coach_required
def begin(request: HttpRequest, member: Membership) -> HttpResponse:
    """Make it; the page of the work leads there."""
    try:
        job = begin_practice(member)
    except Refused as error:
        messages.error(request, str(error))
        return redirect("people:account")
    return redirect("progress:job", job.pk)


@require_POST
@owner_required
def end(request: HttpRequest, member: Membership) -> HttpResponse:
    """Gone, and back where somebody is real."""
    try:
        end_practice(member)
    except Refused as error:
        messages.error(request, str(error))
        return redirect("progress:desk")
    request.session.pop(CHOSEN_CLUB, None)
    messages.success(request, "The practice club is gone, with everything that was in it.")
    return redirect("progress:desk")
