"""A card that asks for its PIN."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.card.opened.links import PIN_COOKIE, asked_for_pin, by_link
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.people.players import REMEMBERED, try_pin, unlocking, wait_s


@require_POST
@by_link(pin=False)
def pin(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """The right PIN opens the card on this device; after five wrong ones it takes longer and
    longer.
    """
    now = timezone.now()
    if not player.card_pin or try_pin(player, request.POST.get("pin", "")[:20], now):
        answer = redirect("card:card", token)
        if player.card_pin:
            answer.set_cookie(
                PIN_COOKIE,
                unlocking(player),
                max_age=REMEMBERED,
                path=reverse("card:card", args=[token]),
                secure=request.is_secure(),
                httponly=True,
                samesite="Lax",
            )
        return answer
    return asked_for_pin(request, token, wait_s(player, now), wrong=True)
