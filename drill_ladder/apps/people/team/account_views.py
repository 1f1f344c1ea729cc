"""Somebody's own account: name, password, second factor, where they are signed in, which club."""

from typing import Any

from allauth.mfa.utils import is_mfa_enabled
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.people.access import CHOSEN_CLUB
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.team.forms import YouForm
from drill_ladder.formats.reading import whole


@login_required
def account(request: HttpRequest) -> HttpResponse:
    """All of it on one page, also for somebody who is in no club any more."""
    user: Any = request.user
    form = YouForm(request.POST or None, instance=user)
    if request.method == "POST" and form.is_valid():
        form.save()
        messages.success(request, "Saved.")
        return redirect("people:account")
    context = {
        "form": form,
        "two_steps": is_mfa_enabled(user),
        "places": list(Membership.objects.of_user(user.pk)),
        "sessions": user.usersession_set.count(),
    }
    return render(request, "people/account.html", context, status=422 if form.errors else 200)


account.access = "account"  # type: ignore[attr-defined]


@require_POST
@login_required
def choose(request: HttpRequest) -> HttpResponse:
    """In which of their clubs somebody is, in this browser."""
    user: Any = request.user
    wanted = whole(request.POST.get("club", ""))
    row = Membership.objects.of_user(user.pk).in_club(wanted).first()
    if row is None:
        raise Http404
    request.session[CHOSEN_CLUB] = row.club_id
    messages.success(request, f"You are in {row.club} now.")
    return redirect("progress:desk")


choose.access = "account"  # type: ignore[attr-defined]
