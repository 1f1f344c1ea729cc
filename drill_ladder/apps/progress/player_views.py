"""A player's pages beside the present: the family with the card at home, and what was decided."""

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.urls import reverse

from drill_ladder.apps.at_hand import first_with
from drill_ladder.apps.history.looks import note_look
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.days_form import WEEKDAYS
from drill_ladder.apps.people.links import open_links
from drill_ladder.apps.people.models import Membership, Opens, Player
from drill_ladder.apps.review.models import Decision
from drill_ladder.ui.pages import page_of, public_address

PER_PAGE = 30
THERE = {
    "home_wall": "a wall",
    "home_feeder": "somebody to feed",
    "home_adult": "an adult",
    "home_light": "light in the evening",
}


@member_required
def family(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """The card at home and its links, the week and the place, guardians."""
    rows = Player.objects.of_club(member.club).only_row(pk).with_squad()
    player = first_with(rows, "days", "guardians", "links")
    if player is None:
        raise Http404
    note_look(member.user, member.club_id, player)
    links = open_links(player) if member.decides else {}
    opened = {
        opens: public_address(request, reverse(f"card:{opens}", args=[link.token]))
        for opens, link in links.items()
    }
    context = {
        "player": player,
        "card": opened.get(Opens.CARD, ""),
        "calendar": opened.get(Opens.CALENDAR, ""),
        "guardians": list(player.guardians.all()),
        "age": player.age_on(clock.today(member.club)),
        "there": [word for field, word in THERE.items() if getattr(player, field)],
        "days": [
            {"name": WEEKDAYS[d.weekday][:3], "minutes": d.minutes, "place": d.place}
            for d in player.days.all()
        ],
    }
    return render(request, "progress/family.html", context)


@member_required
def decisions(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Every decision that stands, a page at a time."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    page = page_of(request, Decision.objects.in_force(player), PER_PAGE)
    return render(request, "progress/decisions.html", {"player": player, "page": page})
