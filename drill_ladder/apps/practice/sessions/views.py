"""One session on a page of its own: put right, taken away, brought back."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions.correction_form import set_lines
from drill_ladder.apps.practice.sessions.corrections import (
    AWAY,
    bring_back,
    correct,
    keep_both,
    take_away,
)
from drill_ladder.apps.practice.sessions.log_page import form_to_correct
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.ui.pages import page_of


@coach_required
def session(request: HttpRequest, member: Membership, pk: str) -> HttpResponse:
    """Everything of a session, to be put right."""
    row = get_object_or_404(Session.objects.of_club(member.club).whole(), pk=pk)
    form = form_to_correct(request, row)
    player = row.stay.prescription.player
    if request.method == "POST" and form.is_valid():
        entry = form.session_input(row.observer)
        try:
            correct(session=row, entry=entry, actor=member.user, today=member.club.today())
        except Refused as error:
            form.add_error(None, str(error))
        else:
            messages.success(request, "Put right. What it was before stands in the history.")
            return redirect(f"{reverse('progress:player', args=[player.pk])}?session={row.pk}")
    context = {"session": row, "stay": row.stay, "player": player, "form": form}
    return render(request, "practice/session.html", context, status=422 if form.errors else 200)


@require_POST
@coach_required
def session_away(request: HttpRequest, member: Membership, pk: str) -> HttpResponse:
    """Take a session away; the player's page offers to bring it back."""
    row = get_object_or_404(Session.objects.of_club(member.club).whole(), pk=pk)
    player = row.stay.prescription.player_id
    try:
        event = take_away(session=row, actor=member.user, today=member.club.today())
    except Refused as error:
        messages.error(request, str(error))
        return redirect("progress:player", player)
    return redirect(f"{reverse('progress:player', args=[player])}?away={event.pk}")


@require_POST
@coach_required
def session_back(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Bring one back that was taken away."""
    event = get_object_or_404(Event.objects.of_club(member.club_id).of_verb(AWAY), pk=pk)
    stay = get_object_or_404(
        Stay.objects.of_club(member.club).with_all(), pk=event.details["before"]["stay"]
    )
    try:
        row = bring_back(event=event, stay=stay, actor=member.user, today=member.club.today())
    except Refused as error:
        messages.error(request, str(error))
        return redirect("progress:player", stay.prescription.player_id)
    messages.success(request, "It is back as it was.")
    back = reverse("progress:player", args=[stay.prescription.player_id])
    return redirect(f"{back}?session={row.pk}")


@require_POST
@coach_required
def word_read(request: HttpRequest, member: Membership, pk: str) -> HttpResponse:
    """A coach has read what a player wrote."""
    row = get_object_or_404(Session.objects.of_club(member.club), pk=pk)
    row.word_read = True
    row.save(update_fields=["word_read"])
    return redirect("progress:desk")


@require_POST
@coach_required
def both_real(request: HttpRequest, member: Membership, pk: str) -> HttpResponse:
    """What two phones said of one block and day is two pieces of work."""
    row = get_object_or_404(Session.objects.of_club(member.club).whole(), pk=pk)
    keep_both(session=row, actor=member.user)
    messages.success(request, "Both are kept as they are.")
    return redirect("progress:desk")


PAGE = 30


@coach_required
def sessions(request: HttpRequest, member: Membership, player: int) -> HttpResponse:
    """Everything that a player did, the latest first."""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    page = page_of(request, Session.objects.of_player(who).with_sets(), PAGE)
    rows = [{"session": row, "lines": set_lines(row)} for row in page]
    return render(request, "practice/sessions.html", {"player": who, "page": page, "rows": rows})
