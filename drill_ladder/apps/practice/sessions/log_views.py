"""A coach's own log."""

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse

from drill_ladder.apps.people.access import holds_report, member_required
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions.log_page import (
    kept_key,
    log_context,
    recorded,
    session_form,
)
from drill_ladder.apps.practice.stops import hear, open_stop_of
from drill_ladder.apps.prescriptions.models import Stay


@holds_report
@member_required
def log(request: HttpRequest, member: Membership, stay: int) -> HttpResponse:
    """A session that a coach or an assistant watches and logs."""
    stays = Stay.objects.of_club(member.club).with_all()
    player = get_object_or_404(stays, pk=stay).prescription.player
    hurt = hear(request.POST, player, member.user) if request.method == "POST" else None
    request.told = hurt  # type: ignore[attr-defined]
    stay_row = stays.to_log().only_row(stay).first()
    if stay_row is None:
        if hurt is None:
            raise Http404
        return _rests(request, player)
    form = session_form(request, stay_row)
    if request.method == "POST" and form.is_valid():
        # an assistant helps; only a coach's eyes count as a coach's
        entry = form.session_input("coach" if member.decides else "helper")
        session = recorded(form, stay_row, entry, member.user, hurt)
        if session is not None:
            messages.success(request, f"Logged for {player}.")
        if session is not None or not form.errors:
            kept_as = kept_key(stay_row, by_coach=True)
            return _rests(request, player, kept_as, hurt, session)
    context = log_context(stay_row, form) | {
        "player": player,
        "stop": open_stop_of(player),
        "told": hurt,
    }
    context["ring"] = list(player.guardians.all())
    context["kept_as"] = kept_key(stay_row, by_coach=True)
    return render(request, "practice/log.html", context, status=422 if form.errors else 200)


def _rests(
    request: HttpRequest,
    player: Player,
    kept_as: str = "",
    hurt: str | None = "",
    session: Session | None = None,
) -> HttpResponse:
    """On to the player's page, which shows the stop and forgets the kept form of what is stored."""
    if hurt is not None:
        messages.success(
            request, f"{player} rests until a coach ends the stop. What was told stands below."
        )
    back = reverse("progress:player", args=[player.pk])
    logged = f"&session={session.pk}" if session is not None else ""
    return redirect(f"{back}?logged={kept_as}{logged}" if kept_as else back)
