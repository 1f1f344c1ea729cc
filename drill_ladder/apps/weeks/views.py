"""The week: planned, moved by hand, told to the player; and a squad's weeks beside each other."""

from collections.abc import Callable
from datetime import date, timedelta

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
from drill_ladder.apps.weeks.board import BEST_FOUND, board
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.overview import overview
from drill_ladder.apps.weeks.plan import WeekPlan, stored_plan
from drill_ladder.apps.weeks.publishing import is_stale, publish
from drill_ladder.apps.weeks.querysets import asked_monday
from drill_ladder.apps.weeks.services import copy_last, move, set_lock, skip, solve, take_away
from drill_ladder.formats.reading import day, whole
from drill_ladder.ui.pages import htmx_of, page_of, page_or_fragment, public_address


@member_required
def week(request: HttpRequest, member: Membership, player: int) -> HttpResponse:
    """One player's week."""
    who = get_object_or_404(Player.objects.of_club(member.club).with_days(), pk=player)
    return _show(request, member, stored_plan(who, asked_monday(request, member.club.today())))


def _show(
    request: HttpRequest, member: Membership, plan: WeekPlan, wrong: str = "", said: str = ""
) -> HttpResponse:
    who, monday = plan.player, plan.monday
    context = {
        "player": who,
        "monday": monday,
        "sunday": monday + timedelta(days=6),
        "before": monday - timedelta(days=7),
        "after": monday + timedelta(days=7),
        "today": member.club.today(),
        "board": board(plan),
        "week": plan.week if plan.week.pk else None,
        "no_days": not who.days.all(),
        "stale": is_stale(plan),
        "resting": who.is_resting if plan.rests is None else plan.rests,
        "wrong": wrong,
        "said": said,
    }
    status = 422 if wrong else 200
    return page_or_fragment(request, "weeks/week.html", "weeks/_week.html", context, status)


@require_POST
@coach_required
def act(request: HttpRequest, member: Membership, player: int, what: str) -> HttpResponse:
    """Something done to a whole week: solve, copy, skip, publish."""
    who = get_object_or_404(Player.objects.of_club(member.club).with_days(), pk=player)
    monday = asked_monday(request, member.club.today())
    weekdays = [n for n in map(whole, request.POST.getlist("skip")) if n is not None]
    acts: dict[str, tuple[Callable[[], WeekPlan], str]] = {
        "solve": (
            lambda: solve(member=member, player=who, monday=monday),
            "Planned around what is kept.",
        ),
        "copy": (
            lambda: copy_last(member=member, player=who, monday=monday),
            "Copied; every block is kept where it is.",
        ),
        "skip": (
            lambda: skip(member=member, player=who, monday=monday, weekdays=weekdays),
            "Planned without those days.",
        ),
        "publish": (
            lambda: publish(member=member, player=who, monday=monday, at=timezone.now()),
            f"{who} is told: the card and the calendar have it now.",
        ),
    }
    if what not in acts:
        raise Http404
    return _answer(request, member, who, monday, *acts[what])


@require_POST
@coach_required
def block_act(request: HttpRequest, member: Membership, pk: int, what: str) -> HttpResponse:
    """Something done to one block: move (to the day `on`), lock, free, away."""
    block = get_object_or_404(PlannedBlock.objects.of_club(member.club).to_change(), pk=pk)
    acts: dict[str, tuple[Callable[[], WeekPlan], str]] = {
        "move": (
            lambda: move(member=member, block=block, on=_day(request)),
            "Moved, and kept there.",
        ),
        "lock": (lambda: set_lock(member=member, block=block, locked=True), "Kept where it is."),
        "free": (
            lambda: set_lock(member=member, block=block, locked=False),
            "Free to be moved by the planner.",
        ),
        "away": (lambda: take_away(member=member, block=block), "Taken out of this week."),
    }
    if what not in acts:
        raise Http404
    return _answer(request, member, block.week.player, block.week.monday, *acts[what])


def _day(request: HttpRequest) -> date:
    on = day(request.POST.get("on", ""))
    if on is None:
        raise Refused("That is no day. Nothing was moved.")
    return on


def _answer(
    request: HttpRequest,
    member: Membership,
    who: Player,
    monday: date,
    do: Callable[[], WeekPlan],
    said: str,
) -> HttpResponse:
    """Do it and show the week that came of it: in place for htmx, as a page otherwise."""
    try:
        plan = do()
    except Refused as error:
        return _show(request, member, stored_plan(who, monday), wrong=str(error))
    if not plan.proven:
        said = f"{said} {BEST_FOUND}"
    htmx = htmx_of(request)
    if htmx:
        return _show(request, member, plan, said=said)
    messages.success(request, said)
    return redirect(f"{reverse('weeks:week', args=[who.pk])}?of={monday}")


@member_required
def squad(request: HttpRequest, member: Membership) -> HttpResponse:
    """Everybody's week, or one squad's: minutes, blocks, what found no place, who has been told."""
    monday = asked_monday(request, member.club.today())
    chosen = whole(request.GET.get("squad", ""))
    page = page_of(request, Player.objects.of_club(member.club).on_ladders(chosen).for_weeks(), 20)
    players = list(page)
    weeks = Week.objects.of_club(member.club).beginning(monday).of_players(players)
    by_player = {week.player_id: week for week in weeks.with_minutes()}
    context = {
        "rows": overview(players, monday, by_player),
        "page": page,
        "monday": monday,
        "sunday": monday + timedelta(days=6),
        "before": monday - timedelta(days=7),
        "after": monday + timedelta(days=7),
        "feed": ""
        if member.feed_closed
        else public_address(request, f"/feed/{member.feed_token}/sessions.ics"),
        "acts": [("solve", "Plan them all"), ("publish", "Publish them all")],
        "squads": Squad.objects.of_club(member.club),
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
    monday, sent = asked_monday(request, member.club.today()), request.POST.get("squad", "")
    squad_pk = None
    if sent:
        squad_pk = get_object_or_404(Squad.objects.of_club(member.club), pk=whole(sent)).pk
    back = f"{reverse('weeks:weeks')}?of={monday}" + (f"&squad={squad_pk}" if squad_pk else "")
    query = {"monday": monday.isoformat(), "squad": squad_pk}
    job = start(member=member, name=f"weeks.{what}", label=labels[what], arguments=query, back=back)
    return redirect("progress:job", job.pk)
