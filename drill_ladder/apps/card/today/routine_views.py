"""A routine on the card: one page, one sending, each part onto its own ladder."""

from datetime import date

from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse

from drill_ladder.apps.card.opened import by_link, clock_question, device_of
from drill_ladder.apps.card.today.blocks import CardBlock, home_blocks
from drill_ladder.apps.card.today.outcome import outcome_context
from drill_ladder.apps.card.today.running import day_done, next_after
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.judged import weeks_kept
from drill_ladder.apps.practice.models import Session, Why
from drill_ladder.apps.practice.routines import RoutinePage, asking, routine_page, store_routine
from drill_ladder.apps.practice.sessions import whom_to_ring
from drill_ladder.apps.practice.stops import open_stop_of
from drill_ladder.apps.prescriptions.models import PlayerRoutine
from drill_ladder.core.judging import Observer
from drill_ladder.formats.reading import day as day_of
from drill_ladder.formats.work_words import told_work
from drill_ladder.ui.pages import Context, wants_json


@by_link()
def routine(request: HttpRequest, player: Player, token: str, pk: int) -> HttpResponse:
    """The parts of a routine on a long page, and what is asked once at its end."""
    return _routine(request, player, token, pk, "card/routine.html")


@by_link()
def run(request: HttpRequest, player: Player, token: str, pk: int) -> HttpResponse:
    """The parts of a routine, one thing at a time."""
    if request.method == "POST":
        return redirect("card:routine", token, pk)
    return _routine(request, player, token, pk, "card/routine_run.html")


def _routine(
    request: HttpRequest, player: Player, token: str, pk: int, template: str
) -> HttpResponse:
    today = player.club.today()
    given = get_object_or_404(PlayerRoutine.objects.going().of_player(player), pk=pk)
    blocks = home_blocks(player, today)
    shown = next((block for block in blocks if block.routine == given), None)
    if shown is None and request.method != "POST":
        return redirect("card:card", token)
    page = routine_page(given, asking(request, today, _minutes(shown, player, today), player=True))
    if request.method == "POST":
        answer = _sent(request, token, page, today)
        if answer is not None:
            return answer
    context = _context(request, player, token, page, today) | {
        "next": next_after(blocks, shown.stay.pk) if shown else None
    }
    status = 422 if request.method == "POST" else 200
    return render(request, template, context | whom_to_ring(player), status=status)


def _minutes(shown: CardBlock | None, player: Player, today: date) -> float | None:
    """Of the block as it was told, else of the day."""
    if shown is not None and shown.told is not None:
        return shown.told.minutes
    day = next((day for day in player.days.all() if day.weekday == today.weekday()), None)
    return day.minutes if day and day.minutes else None


def _seen_by(page: RoutinePage) -> str:
    return page.day.cleaned_data["seen_by"] or Observer.SELF


def _context(
    request: HttpRequest, player: Player, token: str, page: RoutinePage, today: date
) -> Context:
    parts = [told_work(part.work) for part in page.parts]
    return {
        "player": player,
        "token": token,
        "page": page,
        "pages": [page],
        "two": False,
        "wrong_lines": page.errors,
        "parts": page.parts,
        "today": today,
        "stop": open_stop_of(player),
        "told": request.told,  # type: ignore[attr-defined]
        "card_path": reverse("card:card", args=[token]),
        "with_adult": any(part.adult for part in parts),
        "tools": list(dict.fromkeys(tool for part in parts for tool in part.tools)),
        "first": page.parts[0].stay.pk if page.parts else None,
        "reasons": dict(Why.choices),
        "kept_as": f"routine-{page.given.pk}",
    }


def _sent(request: HttpRequest, token: str, page: RoutinePage, today: date) -> HttpResponse | None:
    """The answer to what was sent; None where the page comes back."""
    stop, script = request.told, wants_json(request)  # type: ignore[attr-defined]
    question = clock_question(request.POST, today)
    if page.is_valid():
        if script and question is not None:
            return question
        on = page.day.cleaned_data["on"] or today
        try:
            store_routine(
                [page], on, _seen_by(page), None, stop is not None, device_of(request.POST)
            )
        except Refused as error:
            page.day.add_error(None, str(error))
        else:
            place = reverse("card:routine-done", args=[token, page.given.pk, f"{on}"])
            return JsonResponse({"state": "stored", "next": place}) if script else redirect(place)
    if stop and not any(part.form.is_bound and part.form.has_changed() for part in page.parts):
        return redirect("card:card", token)
    why = page.errors
    return JsonResponse({"state": "refused", "why": why}, status=422) if script else None


def _after(player: Player, given: PlayerRoutine, today: date) -> Context:
    """What comes next: the next block, or the day and the weeks as a whole."""
    blocks = home_blocks(player, today)
    here = next((block for block in blocks if block.routine == given), None)
    return {
        "next": next_after(blocks, here.stay.pk) if here else None,
        "day": day_done(blocks),
        "weeks": weeks_kept(player, today),
    }


@by_link()
def routine_done(
    request: HttpRequest, player: Player, token: str, pk: int, on: str
) -> HttpResponse:
    """What was reached in each part on a day."""
    given = get_object_or_404(PlayerRoutine.objects.of_player(player), pk=pk)
    day = day_of(on)
    if day is None:
        raise Http404
    rows = Session.objects.of_player(player).of_routine(given, day)
    today = player.club.today()
    parts = [outcome_context(row, today) for row in rows]
    context = {
        "player": player,
        "token": token,
        "given": given,
        "parts": parts,
        "stop": open_stop_of(player),
        "kept_as": f"routine-{pk}",
        "good": next((part["good"] for part in parts if part["good"]), ""),
        **_after(player, given, today),
    }
    return render(request, "card/routine_done.html", context | whom_to_ring(player))
