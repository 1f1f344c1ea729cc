"""Coming in: by an invitation, or as the founder of a club."""

from typing import Any

from allauth.account.utils import perform_login
from allauth.account.views import login
from allauth.core import ratelimit
from django.contrib import messages
from django.core.exceptions import ValidationError
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render, resolve_url

from drill_ladder.apps.people.access import CHOSEN_CLUB
from drill_ladder.apps.people.club.founding import found
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.guesses import wrong_secret
from drill_ladder.apps.people.models import Club, Invitation, User
from drill_ladder.apps.people.team import FoundForm, JoinForm, invitation_by, join, take_up, zones


def sign_in(request: HttpRequest) -> HttpResponse:
    """The sign-in; where there is no club yet, the page that founds one."""
    if request.method == "GET" and not Club.objects.exists():
        return redirect("people:found")
    answer: HttpResponse = login(request)
    return answer


def invited(request: HttpRequest, token: str) -> HttpResponse:
    """Whoever holds an invitation becomes a member: with the account they are signed in with, or
    with a new one.
    """
    row = invitation_by(token)
    if row is None:
        return wrong_secret(request)
    user: Any = request.user
    has_account = User.objects.is_known(row.email)
    form = JoinForm(request.POST or None, initial={"name": row.name})
    wrong = ""
    if request.method == "POST":
        try:
            answer = _taken_up(request, row, form, has_account)
        except Refused as error:
            wrong = str(error)
        else:
            if answer is not None:
                return answer
    context = {
        "row": row,
        "form": form,
        "wrong": wrong,
        "known": has_account,
        "mine": user.is_authenticated and user.email == row.email,
        "address": request.path,
    }
    return render(request, "people/join.html", context, status=422 if wrong or form.errors else 200)


invited.access = "link"  # type: ignore[attr-defined]


def _taken_up(
    request: HttpRequest, row: Invitation, form: JoinForm, known: bool
) -> HttpResponse | None:
    """Where the new member goes on; None where the form is not right yet. Raises Refused."""
    user: Any = request.user
    if user.is_authenticated:
        member = take_up(invitation=row, user=user)
        request.session[CHOSEN_CLUB] = member.club_id
        messages.success(request, f"Welcome to {member.club}.")
        return redirect("progress:desk")
    if known:
        raise Refused("There is an account for this address. Sign in with it first.")
    if not form.is_valid():
        return None
    made = join(invitation=row, **form.cleaned_data)
    messages.success(request, f"Welcome to {row.club}.")
    return _signed_in(request, made, "progress:desk")


def _signed_in(request: HttpRequest, user: User, place: str) -> HttpResponse:
    """As by the sign-in page."""
    answer: HttpResponse = perform_login(request, user, redirect_url=resolve_url(place))
    return answer


def founded(request: HttpRequest) -> HttpResponse:
    """A club is founded with a code from the command line."""
    form = FoundForm(request.POST or None, initial={"time_zone": "Europe/London"})
    if request.method == "POST" and form.is_valid():
        if not ratelimit.consume(request, action="found_club"):
            return ratelimit.respond_429(request)
        try:
            owner = found(**form.cleaned_data)
        except Refused as error:
            form.add_error(None, str(error))
        except ValidationError as error:
            form.add_error(None, error)
        else:
            messages.success(request, f"{owner.club} is there, and it is yours.")
            return _signed_in(request, owner.user, "people:club")
    context = {"form": form, "zones": zones()}
    return render(request, "people/found.html", context, status=422 if form.errors else 200)
