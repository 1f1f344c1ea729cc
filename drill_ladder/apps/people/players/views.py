"""Adding and changing players."""

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.history.once import once
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Overtaken, Refused
from drill_ladder.apps.people.models import Membership, Opens, Player
from drill_ladder.apps.people.players.days_form import DaysForm
from drill_ladder.apps.people.players.forms import PlayerForm, told_player
from drill_ladder.apps.people.players.links import (
    WORDS,
    close_link,
    renew_feed,
    renew_link,
    set_pin,
)
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.ui.differences import differences
from drill_ladder.ui.pages import Context


@coach_required
@once
def player_edit(request: HttpRequest, member: Membership, pk: int | None = None) -> HttpResponse:
    """A new player, or one that exists."""
    today = member.club.today()
    player = (
        get_object_or_404(Player.objects.of_club(member.club), pk=pk)
        if pk
        else Player(joined_on=today)
    )
    player.club = member.club
    form = PlayerForm(request.POST or None, instance=player, club=member.club, today=today)
    days = DaysForm(request.POST or None, player=player)
    overtaken: Overtaken | None = None
    if request.method == "POST" and all([form.is_valid(), days.is_valid()]):
        try:
            save_player(
                member=member,
                player=form.instance,
                guardians=form.guardians(),
                squad_name=form.cleaned_data["squad_name"],
                days=days.values(),
                note=form.cleaned_data["note"],
                note_shared=form.cleaned_data["note_shared"],
                on=today,
                revision=form.cleaned_data["revision"] if pk else None,
            )
        except Overtaken as error:
            overtaken = error
        else:
            messages.success(request, f"{player} is saved.")
            return redirect(
                "prescriptions:choose" if "prescribe" in request.POST else "progress:player",
                player.pk,
            )
    wrong = request.method == "POST"
    context: Context = {
        "form": form,
        "days": days,
        "player": player if pk else None,
        "wrong": wrong and not overtaken,
    }
    if overtaken:
        context |= _both(form, days, overtaken)
    return render(request, "people/player_edit.html", context, status=422 if wrong else 200)


def _both(form: PlayerForm, days: DaysForm, overtaken: Overtaken) -> Context:
    """What is stored beside what was typed; sent again, it takes its place."""
    stored = overtaken.current
    form.data = {**form.data.dict(), "revision": stored.revision}  # type: ignore[attr-defined]
    kept = told_player(stored, list(stored.guardians.all()), stored.days.all())
    typed = told_player(
        form.instance, form.guardians(), days.values(), form.cleaned_data["squad_name"]
    )
    return {"said": str(overtaken), "differences": differences(kept, typed)}


@require_POST
@coach_required
def link_renew(request: HttpRequest, member: Membership, pk: int, opens: str) -> HttpResponse:
    """A new secret link for the card or the calendar; with `close`, none at all."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    if opens not in WORDS:
        raise Http404
    close = "close" in request.POST
    (close_link if close else renew_link)(member=member, player=player, opens=opens)
    word = WORDS[Opens(opens)]
    said = (
        "is closed. It opens nothing any more"
        if close
        else "has a new link. The old one opens nothing any more"
    )
    messages.success(request, f"The {word} of {player} {said}.")
    return redirect("progress:family", player.pk)


@require_POST
@coach_required
def card_pin(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A PIN for the card, another one, or (with `away`) none."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    pin = "" if "away" in request.POST else request.POST.get("pin", "").strip() or "none"
    try:
        set_pin(member=member, player=player, pin=pin)
    except Refused as error:
        messages.error(request, str(error))
    else:
        said = "asks for the new PIN now" if pin else "asks for no PIN any more"
        messages.success(request, f"The card of {player} {said}.")
    return redirect("progress:family", player.pk)


@require_POST
@coach_required
def feed_renew(request: HttpRequest, member: Membership) -> HttpResponse:
    """A new secret address for the coach's own calendar; with `close`, none at all."""
    close = "close" in request.POST
    renew_feed(member=member, closed=close)
    said = "is closed" if close else "has a new address"
    messages.success(request, f"Your calendar {said}. The old one shows nothing any more.")
    return redirect("weeks:weeks")
