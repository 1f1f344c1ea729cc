"""Help: of a page, of words, of methods, and why the rule says what it says."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render

from drill_ladder.apps.help.methods import methods_page
from drill_ladder.apps.help.pages import help_of
from drill_ladder.apps.help.trade_words import trade_words
from drill_ladder.apps.help.why import why_of
from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.formats.reading import cut
from drill_ladder.ui.pages import page_or_fragment

MOST_NAME = 80


@member_required
def page_help(request: HttpRequest, member: Membership) -> HttpResponse:
    """What a page is for, what comes next, its words and keys; ?of= the name of its address."""
    page_help = help_of(cut(request.GET.get("of", ""), MOST_NAME))
    return page_or_fragment(request, "help/page.html", "help/_page.html", {"help": page_help})


@member_required
def words(request: HttpRequest, member: Membership) -> HttpResponse:
    """Each word of the trade with a picture."""
    return render(request, "help/words.html", {"words": trade_words()})


@member_required
def methods(request: HttpRequest, member: Membership) -> HttpResponse:
    """How everything is computed."""
    html, sections = methods_page()
    return render(request, "help/methods.html", {"html": html, "sections": sections})


@member_required
def why(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Why the rule says what it says of a player on a rung, today."""
    stay = get_object_or_404(Stay.objects.of_club(member.club).with_all(), pk=pk)
    found = why_of(stay, member.club.today())
    return render(request, "help/why.html", {"stay": stay, "why": found})
