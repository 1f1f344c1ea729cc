"""My climb: a child's own look back, behind the card's link."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from drill_ladder.apps.card.opened import by_link
from drill_ladder.apps.card.today.own import climbs_of
from drill_ladder.apps.floor.challenges import own_of
from drill_ladder.apps.floor.models import Challenge
from drill_ladder.apps.people.models import Player, PlayerNote
from drill_ladder.apps.practice.judged import weeks_kept


@by_link()
def climb(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """Every ladder with where the player stands."""
    climbs = climbs_of(player, player.club.today())
    today = player.club.today()
    challenges = [
        (challenge, own_of(challenge, player))
        for challenge in Challenge.objects.for_player(player, today)
    ]
    context = {
        "player": player,
        "token": token,
        "climbs": climbs,
        "challenges": challenges,
        "weeks": weeks_kept(player, today),
        "notes": PlayerNote.objects.for_family(player),
    }
    return render(request, "card/climb.html", context)
