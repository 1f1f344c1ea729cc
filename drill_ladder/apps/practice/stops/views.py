"""A coach or an assistant stops a player's drills, from wherever they are; a coach ends the
stop.
"""

from uuid import UUID

from django.contrib import messages
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from drill_ladder.apps.people.access import coach_required, holds_report, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.practice.stops.forms import EndStopForm
from drill_ladder.apps.practice.stops.services import MOST, end_stop, hear_button, reports_seen
from drill_ladder.formats.reading import cut, whole
from drill_ladder.ui.pages import wants_json

UNNAMED = "Stopped by the coach"


@holds_report
@require_POST
@member_required
def stop_open(request: HttpRequest, member: Membership, player: int) -> HttpResponse:
    """One player's drills stop; told once more, the words are added."""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    return _stopped(request, member, who)


@holds_report
@member_required
def stop_new(request: HttpRequest, member: Membership) -> HttpResponse:
    """Who is hurt? From the desk, the floor or the review; the words stay until a player is
    chosen.
    """
    players = Player.objects.of_club(member.club)
    chosen = whole(request.POST.get("player", request.GET.get("player", "")))
    who = next((p for p in players if p.pk == chosen), None) if chosen else None
    if request.method == "POST" and who is not None:
        return _stopped(request, member, who)
    context = {
        "players": players,
        "chosen": chosen,
        "what": cut(request.POST.get("what", ""), MOST),
        "wrong": request.method == "POST",
    }
    return render(
        request, "practice/stop_new.html", context, status=422 if context["wrong"] else 200
    )


def _stopped(request: HttpRequest, member: Membership, who: Player) -> HttpResponse:
    stop = hear_button(request.POST, who, member.user, UNNAMED)
    if wants_json(request):
        return JsonResponse({"told": stop})
    back = request.POST.get("back", "")
    messages.success(
        request, f"{who} rests: the card is blocked until a coach ends the stop. Kept: “{stop}”."
    )
    here = url_has_allowed_host_and_scheme(back, allowed_hosts=None) and back.startswith("/")
    return redirect(back) if here else redirect("progress:player", who.pk)


@coach_required
def stop_end(request: HttpRequest, member: Membership, pk: UUID) -> HttpResponse:
    """End a stop, noting who cleared the player."""
    stop = get_object_or_404(Stop.objects.of_club(member.club).with_people(), pk=pk)
    form = EndStopForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        seen = whole(request.POST.get("reports", ""))
        cleared = form.cleaned_data["cleared_by"]
        try:
            end_stop(
                member=member,
                stop=stop,
                cleared_by=cleared,
                on=member.club.today(),
                reports=seen,
            )
        except Refused as error:
            form.add_error(None, str(error))
        else:
            messages.success(
                request, f"The stop is over: {stop.player} may train again. Start gently."
            )
            return redirect("progress:player", stop.player_id)
    context = {"stop": stop, "form": form, "reports": reports_seen(stop)}
    return render(request, "practice/stop_end.html", context, status=422 if form.errors else 200)
