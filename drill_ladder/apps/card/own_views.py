"""My climb: a child's own look back, behind the card's link."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from drill_ladder.apps.card.links import by_link
from drill_ladder.apps.card.own import climbs_of
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.models import Player


@by_link()
def climb(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """Every ladder with where the player stands."""
    climbs = climbs_of(player, clock.today(player.club))
    context = {"player": player, "token": token, "climbs": climbs}
    return render(request, "card/climb.html", context)
