"""Calendars and paper: with a secret link for whoever has it, with a sign-in for coaches."""

from collections.abc import Callable
from datetime import timedelta

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.cache import get_conditional_response
from django.utils.http import quote_etag
from django.utils.text import slugify

from drill_ladder.apps.card.feed import Feed, calendar, sign
from drill_ladder.apps.card.opened import by_link
from drill_ladder.apps.card.paper.pages import home_card, qr, resting_of, weeks_to_tell
from drill_ladder.apps.card.paper.sheet import printed, sheet_of
from drill_ladder.apps.jobs.services import start
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.guesses import wrong_secret
from drill_ladder.apps.people.models import FEED, Membership, Opens, Player, Squad
from drill_ladder.apps.people.players import member_by, moved_to, open_link
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.querysets import asked_day, asked_monday
from drill_ladder.formats.reading import whole
from drill_ladder.ui.pages import public_address

BOTH = ("home", "club")
FED = timedelta(weeks=8)


def _file(data: bytes, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(data, content_type=kind)
    response.headers["Content-Disposition"] = f'inline; filename="{name}"'
    response.headers["Cache-Control"] = "private, no-cache"
    return response


def _ics(data: bytes, name: str) -> HttpResponse:
    return _file(data, "text/calendar; charset=utf-8", f"{name}.ics")


@by_link(Opens.CALENDAR)
def feed(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """The player's weeks as a calendar to subscribe to; ?alarm=1 rings in the afternoon."""
    alarms, today = request.GET.get("alarm") == "1", player.club.today()
    weeks, resting = weeks_to_tell(player), resting_of(player.club) & {player.pk}
    told = Feed(player.club_id, f"Drills of {player}", BOTH, today, resting, alarms)
    tag = sign(told, weeks)
    return _unless_known(request, tag, lambda: _ics(calendar(told, weeks), "drills"))


def _unless_known(request: HttpRequest, tag: str, make: Callable[[], HttpResponse]) -> HttpResponse:
    """What is asked for, unless the one who asks has it already (304 by its ETag)."""
    etag = quote_etag(tag)
    unchanged = get_conditional_response(request, etag=etag)
    response = unchanged if unchanged is not None else make()
    response.headers["ETag"] = etag
    response.headers["Cache-Control"] = "private, no-cache"
    return response


def coach_feed(request: HttpRequest, token: str) -> HttpResponse:
    """Everything that is planned at the club, for the coach whose secret this is."""
    member = member_by(token)
    if member is None:
        present = moved_to(token, FEED)
        if present is None:
            return wrong_secret(request)
        return redirect("card:coach-feed", present, permanent=True)
    if not member.decides:
        raise Http404
    today = member.club.today()
    weeks = Week.objects.of_club(member.club).published().since(today - FED)
    resting = resting_of(member.club)
    name = f"{member.club}: sessions"
    told = Feed(member.club_id, name, ("club",), today, resting, with_names=True)
    tag = sign(told, weeks)
    return _unless_known(request, tag, lambda: _ics(calendar(told, weeks), "sessions"))


def old_feed(request: HttpRequest, token: str) -> HttpResponse:
    """The calendar's address of an earlier version, which leads to the present one once."""
    present = moved_to(token, Opens.CALENDAR)
    return redirect("card:calendar", present, permanent=True) if present else wrong_secret(request)


old_feed.access = "moved"  # type: ignore[attr-defined]
coach_feed.access = "link"  # type: ignore[attr-defined]


@by_link()
def card_print(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """The week's home work on paper, for whoever has the link."""
    return _card(request, player, token)


def _card(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    link = public_address(request, reverse("card:card", args=[token]))
    data = home_card(player, asked_monday(request, player.club.today()), link)
    return _file(data, "application/pdf", f"{slugify(player.name) or 'card'}.pdf")


@coach_required
def card_qr(request: HttpRequest, member: Membership, player: int) -> HttpResponse:
    """The way to a player's card as a QR code, to scan on the spot."""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    link = open_link(who)
    if link is None:
        raise Http404
    address = public_address(request, reverse("card:card", args=[link.token]))
    return HttpResponse(qr(address), content_type="image/svg+xml; charset=utf-8")


@coach_required
def card_sheet(request: HttpRequest, member: Membership, player: int) -> HttpResponse:
    """The week's home work on paper, for a coach."""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    link = open_link(who)
    if link is None:
        raise Http404
    return _card(request, who, link.token)


@coach_required
def sheet(request: HttpRequest, member: Membership) -> HttpResponse:
    """A day at the club on paper, of everybody or one squad."""
    chosen = request.GET.get("squad", "")
    squad = None
    if chosen:
        squad = get_object_or_404(Squad.objects.of_club(member.club), pk=whole(chosen))
    on = asked_day(request, member.club.today())
    sheet_row = sheet_of(member.club, on, squad)
    if sheet_row.is_long and squad is None:
        return redirect(f"{reverse('card:sheet-of-all')}?of={on}")
    return _file(printed(sheet_row), "application/pdf", f"session-{on}.pdf")


@coach_required
def sheet_of_all(request: HttpRequest, member: Membership) -> HttpResponse:
    """A large club's day: squad by squad, or everybody, which is made beside the request."""
    on = asked_day(request, member.club.today())
    if request.method == "POST":
        label = f"The sheet of {on:%A} {on.day} {on:%B}"
        query = {"on": on.isoformat()}
        job = start(member=member, name="card.sheet", label=label, arguments=query)
        return redirect("progress:job", job.pk)
    blocks = PlannedBlock.objects.at_club(member.club, on)
    context = {"on": on, "count": blocks.count(), "squads": Squad.objects.of_club(member.club)}
    return render(request, "card/sheet_of_all.html", context)
