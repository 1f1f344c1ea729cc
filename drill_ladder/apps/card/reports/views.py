"""A report behind the card's link: on the screen and on paper."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.card.opened import by_link
from drill_ladder.apps.card.reports.paper import on_paper
from drill_ladder.apps.people.models import Player


@by_link()
def report(request: HttpRequest, player: Player, token: str, pk: int) -> HttpResponse:
    """What a coach has published."""
    row = get_object_or_404(Report.objects.of_player(player).published(), pk=pk)
    return render(request, "card/report.html", {"player": player, "token": token, "report": row})


@by_link()
def report_print(request: HttpRequest, player: Player, token: str, pk: int) -> HttpResponse:
    """It, on paper."""
    return on_paper(get_object_or_404(Report.objects.of_player(player).published(), pk=pk))
