"""A player puts right what they sent, as long as their coach has not decided on it."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from drill_ladder.apps.card.opened import by_link
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions import (
    AWAY,
    bring_back,
    correct,
    form_to_correct,
    may_change,
    take_away,
)
from drill_ladder.apps.prescriptions.models import Stay


@by_link()
def session(request: HttpRequest, player: Player, token: str, session: UUID) -> HttpResponse:
    """Everything of a session that the player sent."""
    row = get_object_or_404(Session.objects.of_player(player).whole(), pk=session)
    form, why_not = form_to_correct(request, row, player=True), may_change(row, None)
    if request.method == "POST" and not why_not and form.is_valid():
        entry = form.session_input(row.observer)
        try:
            correct(session=row, entry=entry, actor=None, today=player.club.today())
        except Refused as error:
            form.add_error(None, str(error))
        else:
            return redirect("card:done", token, row.pk)
    context = {"player": player, "token": token, "session": row, "stay": row.stay}
    context |= {"form": form, "why_not": why_not}
    return render(request, "card/session.html", context, status=422 if form.errors else 200)


@require_POST
@by_link()
def session_away(request: HttpRequest, player: Player, token: str, session: UUID) -> HttpResponse:
    """The player takes a session away; the card offers to bring it back."""
    row = get_object_or_404(Session.objects.of_player(player).whole(), pk=session)
    try:
        event = take_away(session=row, actor=None, today=player.club.today())
    except Refused:
        return redirect("card:session", token, session)
    return redirect(f"{reverse('card:card', args=[token])}?away={event.pk}")


@require_POST
@by_link()
def session_back(request: HttpRequest, player: Player, token: str, event: int) -> HttpResponse:
    """As it was."""
    row = get_object_or_404(
        Event.objects.of_club(player.club_id).of_verb(AWAY).by_nobody(), pk=event
    )
    stay = get_object_or_404(Stay.objects.of_player(player), pk=row.details["before"]["stay"])
    try:
        back = bring_back(event=row, stay=stay, actor=None, today=player.club.today())
    except Refused:
        return redirect("card:card", token)
    return redirect("card:done", token, back.pk)
