"""The home card."""

import re
from dataclasses import replace
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.card.opened import by_link, clock_question, device_of, heard, refused, stored
from drill_ladder.apps.card.today.blocks import (
    at_home,
    club_days,
    done_lately,
    home_blocks,
    told_changes,
)
from drill_ladder.apps.card.today.outcome import outcome_context
from drill_ladder.apps.card.today.risen import risen
from drill_ladder.apps.card.today.running import (
    before,
    day_done,
    due_today,
    minutes_today,
    next_after,
    place_in_day,
    skip,
    what_is_needed,
)
from drill_ladder.apps.floor.hall import said_to
from drill_ladder.apps.library.models import Caution
from drill_ladder.apps.people.models import Opens, Player
from drill_ladder.apps.people.players import open_links
from drill_ladder.apps.practice.judged import weeks_kept
from drill_ladder.apps.practice.models import Session, Why
from drill_ladder.apps.practice.observations import asks_how_at_ease
from drill_ladder.apps.practice.sessions import (
    SessionForm,
    kept_key,
    log_context,
    recorded,
    session_form,
    whom_to_ring,
)
from drill_ladder.apps.practice.stops import hear_button, open_stop_of
from drill_ladder.apps.practice.work import home_at
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.planning import AtHome
from drill_ladder.core.work import Place
from drill_ladder.formats.reading import whole
from drill_ladder.ui.pages import Context, wants_json


@by_link()
def card(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """Today's blocks."""
    today = player.club.today()
    home = at_home(player, today)
    calendar = open_links(player).get(Opens.CALENDAR)
    context: Context = {
        "player": player,
        "token": token,
        "today": today,
        "stop": open_stop_of(player),
        "blocks": home.blocks,
        "off": home.off,
        "changed": told_changes(home.week),
        "forget": _form_told(request),
        "away": whole(request.GET.get("away", "")),
        "past": done_lately(player, today),
        "said": said_to(player.club, player, today),
        "report": Report.objects.of_player(player).published().first(),
        "at_club": club_days(home.week, today),
        "risen": risen(home.blocks, today),
        "first": next(iter(due_today(home.blocks)), None),
        "minutes": minutes_today(home.blocks),
        "calendar": calendar.token if calendar else "",
        "card_path": reverse("card:card", args=[token]),
    }
    return render(request, "card/card.html", context | whom_to_ring(player))


KEPT_AS = re.compile(r"(?:routine-)?[0-9]{1,18}")


def _form_told(request: HttpRequest) -> str:
    """The kept form that the device may forget, as the report in it has arrived; empty for none."""
    asked = request.GET.get("told", "")
    return asked if KEPT_AS.fullmatch(asked) else ""


@by_link()
def block(request: HttpRequest, player: Player, token: str, stay: int) -> HttpResponse:
    """One block on a long page: how it is done, and everything to type in or to count."""
    return _block(request, player, token, stay, "card/block.html")


@by_link()
def run(request: HttpRequest, player: Player, token: str, stay: int) -> HttpResponse:
    """One block, one thing at a time."""
    if request.method == "POST":
        return redirect("card:block", token, stay)
    return _block(request, player, token, stay, "card/run.html")


def _block(
    request: HttpRequest, player: Player, token: str, stay: int, template: str
) -> HttpResponse:
    today, posted = player.club.today(), request.method == "POST"
    blocks = [] if posted else home_blocks(player, today)
    shown = next((one.stay for one in blocks if one.stay.pk == stay), None)
    stay_row = shown or _to_log(player, stay)
    if stay_row.worked_on.drill.caution == Caution.COACHED_ONLY:
        raise Http404
    if not posted and shown is None and stay_row.left is None:
        return redirect("card:card", token)  # barred or withdrawn, and it says why
    form, home = session_form(request, stay_row, player=True), home_at(stay_row, Place.HOME)
    answer = _sent(request, token, stay_row, form, home) if posted else None
    if answer is not None:
        return answer
    for name in {"adult", "worn"} & set(form.fields):  # they stand before the drill
        form.fields[name].widget.attrs["form"] = "log"
    context = log_context(stay_row, form, Place.HOME) | {
        "player": player,
        "token": token,
        "stop": open_stop_of(player),
        "told": request.told,  # type: ignore[attr-defined]
        "card_path": reverse("card:card", args=[token]),
        "today": today,
        "next": next_after(blocks, stay),
        "before": before(blocks, stay),
        "reasons": dict(Why.choices),
        "asks_at_ease": not posted and asks_how_at_ease(stay_row, today),
        "ready": what_is_needed(blocks),
        "ids": "",
        **place_in_day(blocks, stay),
    }
    context |= whom_to_ring(player)
    return render(request, template, context, status=422 if form.errors else 200)


def _sent(
    request: HttpRequest, token: str, stay: Stay, form: SessionForm, home: AtHome | None
) -> HttpResponse | None:
    """The answer to what was sent, as a page or for a script; None where the form comes back."""
    stop, script = request.told, wants_json(request)  # type: ignore[attr-defined]
    question = clock_question(request.POST, stay.prescription.player.club.today())
    if form.is_valid():
        if script and question is not None:
            return question
        entry = form.session_input(form.cleaned_data["seen_by"] or "self")
        entry = replace(entry, way=home.way if home else "", device=device_of(request.POST))
        session = recorded(form, stay, entry, None, stop)
        if session is not None:
            done = redirect("card:done", token, session.pk)
            return stored(token, session) if script else done
        if stop and not form.errors:
            card = f"{reverse('card:card', args=[token])}?told={kept_key(stay)}"
            return heard(token) if script else redirect(card)
    return refused(form) if script else None


def _to_log(player: Player, stay: int) -> Stay:
    """A stay of the player that may be done at home at all; what is sent for one that was left
    meanwhile still counts there.
    """
    stays = Stay.objects.of_player(player).begun(player.club.today()).for_home()
    return get_object_or_404(stays.with_steps(), pk=stay)


@require_POST
@by_link()
def skipped(request: HttpRequest, player: Player, token: str, stay: int) -> HttpResponse:
    """A block is left out today; the coach reads why, and the next one comes."""
    reason, today = request.POST.get("reason", ""), player.club.today()
    stay_row = _to_log(player, stay)
    if reason not in Why.values:
        return redirect("card:block", token, stay)
    skip(stay_row, reason, today)
    following = next_after(home_blocks(player, today), stay)
    if following is None:
        return redirect("card:card", token)
    return redirect(following.page, token, following.key)


@by_link()
def done(request: HttpRequest, player: Player, token: str, session: UUID) -> HttpResponse:
    """What was reached, what is missing, what comes next."""
    session_row = get_object_or_404(Session.objects.of_player(player), pk=session)
    blocks = home_blocks(player, player.club.today())
    context = outcome_context(session_row, player.club.today()) | {
        "player": player,
        "token": token,
        "stop": open_stop_of(player),
        "next": next_after(blocks, session_row.stay_id),
        "day": day_done(blocks),
        "weeks": weeks_kept(player, player.club.today()),
    }
    return render(request, "card/done.html", context | whom_to_ring(player))


@require_POST
@by_link(pin=False)
def hurt(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """Something hurts: everything stops until a coach has looked at it. Told as JSON to a device
    that asks for that.
    """
    stop = request.told or hear_button(request.POST, player, None)  # type: ignore[attr-defined]
    return JsonResponse({"told": stop}) if wants_json(request) else redirect("card:card", token)
