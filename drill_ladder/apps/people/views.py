"""Adding and changing players."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.days_form import DaysForm
from drill_ladder.apps.people.forms import PlayerForm
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.services import renew_feed, renew_link, save_player


@coach_required
def player_edit(request: HttpRequest, member: Membership, pk: int | None = None) -> HttpResponse:
    """A new player, or one that exists."""
    today = timezone.localdate()
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk) if pk else Player(joined_on=today)
    player.club = member.club
    form = PlayerForm(request.POST or None, instance=player, club=member.club, today=today)
    days = DaysForm(request.POST or None, player=player)
    if request.method == "POST" and all([form.is_valid(), days.is_valid()]):
        save_player(
            member=member,
            player=form.instance,
            guardians=form.guardians(),
            squad_name=form.cleaned_data["squad_name"],
            days=days.values(),
            note=form.cleaned_data["note"],
            on=today,
        )
        messages.success(request, f"{player} is saved.")
        return redirect("prescriptions:choose" if "prescribe" in request.POST else "progress:player", player.pk)
    wrong = request.method == "POST"
    context = {"form": form, "days": days, "player": player if pk else None, "wrong": wrong}
    return render(request, "people/player_edit.html", context, status=422 if wrong else 200)


@require_POST
@coach_required
def link_renew(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A new secret link for the home card."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    renew_link(member=member, player=player)
    messages.success(request, f"{player} has a new link. The old one opens nothing any more.")
    return redirect("progress:player", player.pk)


@require_POST
@coach_required
def feed_renew(request: HttpRequest, member: Membership) -> HttpResponse:
    """A new secret address for the coach's own calendar."""
    renew_feed(member=member)
    messages.success(request, "Your calendar has a new address. The old one shows nothing any more.")
    return redirect("prescriptions:weeks")
