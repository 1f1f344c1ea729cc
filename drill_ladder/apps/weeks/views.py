"""The week: planned, moved by hand, told to the player; and a squad's weeks beside each other."""

from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.jobs.services import start
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player, Squad
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.board import look, overview
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.formats.reading import day, whole
from drill_ladder.ui.pages import page_or_fragment, public_address

FARTHEST = timedelta(days=400)


def asked_day(request: HttpRequest) -> date:
    """The day that is asked for with ?of=; today for anything else."""
    today = timezone.localdate()
    asked = request.POST.get("of") or request.GET.get("of", "")
    return day(asked, today - FARTHEST, today + FARTHEST) or today


def asked_monday(request: HttpRequest) -> date:
    """The Monday of the week that is asked for."""
    return monday_of(asked_day(request))


@member_required
def week(request: HttpRequest, member: Membership, player: int) -> HttpResponse:
    """One player's week."""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    return _show(request, member, who, asked_monday(request))


def _show(
    request: HttpRequest, member: Membership, who: Player, monday: date, wrong: str = "", said: str = ""
) -> HttpResponse:
    found = Week.objects.of(who, monday).first()
    shown = look(who, monday, found)
    context = {
        "player": who,
        "monday": monday,
        "sunday": monday + timedelta(days=6),
        "before": monday - timedelta(days=7),
        "after": monday + timedelta(days=7),
        "today": timezone.localdate(),
        "look": shown,
        "week": found,
        "no_days": not who.days.exists(),  # type: ignore[attr-defined]
        "stale": bool(found and found.published_at and _differs(found, who)),
        "resting": who.stops.open().exists(),  # type: ignore[attr-defined]
        "wrong": wrong,
        "said": said,
    }
    status = 422 if wrong else 200
    return page_or_fragment(request, "weeks/week.html", "weeks/_week.html", context, status)


def _differs(found: Week, who: Player) -> bool:
    return bool(weeks.changes(found.published, weeks.snapshot(found, who)))


@require_POST
@coach_required
def act(request: HttpRequest, member: Membership, player: int, what: str) -> HttpResponse:
    """Something done to a whole week: solve, copy, skip, publish."""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    monday = asked_monday(request)
    chosen = [n for n in map(whole, request.POST.getlist("skip")) if n is not None]
    acts: dict[str, tuple[Callable[..., Week], dict[str, Any], str]] = {
        "solve": (weeks.solve, {}, "Planned around what is kept."),
        "copy": (weeks.copy_last, {}, "Copied; every block is kept where it is."),
        "skip": (weeks.skip, {"weekdays": chosen}, "Planned without those days."),
        "publish": (weeks.publish, {"at": timezone.now()}, f"{who} is told: the card and the calendar have it now."),
    }
    if what not in acts:
        raise Http404
    do, more, said = acts[what]
    return _answer(request, member, who, monday, lambda: do(member=member, player=who, monday=monday, **more), said)


@require_POST
@coach_required
def block_act(request: HttpRequest, member: Membership, pk: int, what: str) -> HttpResponse:
    """Something done to one block: move (to the day `on`), lock, free, away."""
    blocks = PlannedBlock.objects.filter(club=member.club).select_related("week__player", "prescription__ladder")
    block = get_object_or_404(blocks, pk=pk)
    acts: dict[str, tuple[Callable[[], Any], str]] = {
        "move": (lambda: weeks.move(member=member, block=block, on=_day(request)), "Moved, and kept there."),
        "lock": (lambda: weeks.set_lock(member=member, block=block, locked=True), "Kept where it is."),
        "free": (lambda: weeks.set_lock(member=member, block=block, locked=False), "Free to be moved by the planner."),
        "away": (lambda: weeks.take_away(member=member, block=block), "Taken out of this week."),
    }
    if what not in acts:
        raise Http404
    do, said = acts[what]
    return _answer(request, member, block.week.player, block.week.monday, do, said)


def _day(request: HttpRequest) -> date:
    on = day(request.POST.get("on", ""))
    if on is None:
        raise Refused("That is no day. Nothing was moved.")
    return on


def _answer(
    request: HttpRequest, member: Membership, who: Player, monday: date, do: Callable[[], Any], said: str
) -> HttpResponse:
    """Do it and show the week: in place for htmx, as a page otherwise."""
    wrong = ""
    try:
        do()
    except Refused as error:
        wrong, said = str(error), ""
    htmx: Any = request.htmx  # type: ignore[attr-defined]
    if htmx or wrong:
        return _show(request, member, who, monday, wrong, said)
    messages.success(request, said)
    return redirect(f"{reverse('weeks:week', args=[who.pk])}?of={monday}")


@member_required
def squad(request: HttpRequest, member: Membership) -> HttpResponse:
    """Everybody's week, or one squad's: minutes, blocks, what found no place, who has been told."""
    monday = asked_monday(request)
    players = Player.objects.of_club(member.club).filter(prescriptions__status="active").distinct()
    chosen = whole(request.GET.get("squad", ""))
    if chosen is not None:
        players = players.filter(squad_id=chosen)
    known = {w.player_id: w for w in Week.objects.of_club(member.club).filter(monday=monday).with_blocks()}
    players = players.select_related("squad").prefetch_related("days").order_by("squad__name", "name")
    rows = overview(list(players), monday, known)
    context = {
        "rows": rows,
        "monday": monday,
        "sunday": monday + timedelta(days=6),
        "before": monday - timedelta(days=7),
        "after": monday + timedelta(days=7),
        "feed": "" if member.feed_closed else public_address(request, f"/feed/{member.feed_token}/sessions.ics"),
        "acts": [("solve", "Plan them all"), ("publish", "Publish them all")],
        "squads": Squad.objects.filter(club=member.club),
        "chosen": chosen,
    }
    return render(request, "weeks/weeks.html", context)


@require_POST
@coach_required
def squad_act(request: HttpRequest, member: Membership, what: str) -> HttpResponse:
    """Plan or publish the weeks of a squad, beside the request."""
    labels = {"solve": "Planning the weeks", "publish": "Telling everybody their week"}
    if what not in labels:
        raise Http404
    monday, sent = asked_monday(request), request.POST.get("squad", "")
    squad_pk = None
    if sent:
        squad_pk = get_object_or_404(Squad.objects.filter(club=member.club), pk=whole(sent)).pk
    back = f"{reverse('weeks:weeks')}?of={monday}" + (f"&squad={squad_pk}" if squad_pk else "")
    given = {"monday": monday.isoformat(), "squad": squad_pk}
    job = start(member=member, name=f"weeks.{what}", label=labels[what], given=given, back=back)
    return redirect("progress:job", job.pk)
