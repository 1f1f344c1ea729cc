"""The hall on a tablet: its page, and what its devices send and ask."""

from datetime import date
from typing import Any

from django.conf import settings
from django.contrib import messages
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.middleware.csrf import get_token
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from drill_ladder.apps.floor.hall.beside import stations_of, trial_days_of
from drill_ladder.apps.floor.hall.document import hall_of, taps_document
from drill_ladder.apps.floor.hall.guests import MOST_LETTERS, Ask, add_guest, stays
from drill_ladder.apps.floor.hall.taps import MOST, FromDevice, set_goal, take
from drill_ladder.apps.floor.hall.turns import owed
from drill_ladder.apps.floor.models import FloorTap, GoalKind
from drill_ladder.apps.history.once import once
from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.formats.mistakes import Mistakes
from drill_ladder.formats.reading import cut, day, moment, whole
from drill_ladder.formats.strict_json import read_json
from drill_ladder.ui.worker import LOOK, worker_of

# everything that the hall's page is made of
SHELL = (
    *(
        "css/app.css",
        "js/app.js",
        "js/floor.js",
        "js/ear.js",
        "js/alpine.js",
        "js/htmx.js",
        "js/theme.js",
    ),
    *LOOK,
)


MOST_WORTH = 100  # points of a good one
NOTHING = b'{"taps": []}'


@member_required
def hall(request: HttpRequest, member: Membership) -> HttpResponse:
    """Who is here, and what each should do now."""
    return _hall(request, member)


def _hall(request: HttpRequest, member: Membership, typed: str = "", why: str = "") -> HttpResponse:
    """typed, why: the name of a guest who was not added, and the reason."""
    on = member.club.today()
    taps = list(FloorTap.objects.of_day(member.club, on))
    beside = {"stations": stations_of(member.club, on), "tests": trial_days_of(member.club, on)}
    document = (
        hall_of(member.club, on) | beside | {"taps": taps_document(taps), "me": member.user_id}
    )
    context = {
        "owed": owed(taps),
        "hall": document,
        "token": get_token(request),
        "live": settings.LIVE_ADDRESS,
        "decides": member.decides,
        "goal_kinds": GoalKind.choices,
        "on": on,
        "ladders": Ladder.objects.of_club(member.club).in_use().with_any_rung(),
        "typed": typed,
        "why": why,
    }
    return render(request, "floor/hall.html", context, status=422 if why else 200)


@require_POST
@member_required
def taps(request: HttpRequest, member: Membership) -> HttpResponse:
    """Take what a device sends: {device, after, taps: [...]}; answered with what is stored, what is
    not and why, and everything of today after the number `after`.
    """
    document = _document(request)
    if document is None:
        return JsonResponse({"why": "This is no list of entries. Nothing was stored."}, status=422)
    taken = take(member, document["taps"][:MOST], _device(document, member.club.today()))
    after = whole(document.get("after")) or 0
    answer = {"stored": taken.stored, "refused": taken.refused, "ask": taken.ask}
    return JsonResponse(answer | _since(member, after))


def _device(document: dict[str, Any], today: date) -> FromDevice:
    """Who sends: its name, how wrong its clock is, and the day that somebody chose for it."""
    skew = clock.behind(moment(document.get("device_now")), timezone.now())
    return FromDevice(str(document.get("device", "")), skew, day(document.get("day"), high=today))


def _document(request: HttpRequest) -> dict[str, Any] | None:
    try:
        document, faults = read_json(request.body or NOTHING)
    except Mistakes:
        return None
    if faults or not isinstance(document, dict) or not isinstance(document.get("taps"), list):
        return None
    return document


@require_safe
@member_required
def feed(request: HttpRequest, member: Membership) -> HttpResponse:
    """What was tapped today after a number (?after=)."""
    return JsonResponse(_since(member, whole(request.GET.get("after", "")) or 0))


def _since(member: Membership, after: int) -> dict[str, Any]:
    on = member.club.today()
    found = taps_document(FloorTap.objects.of_day(member.club, on, after))
    rests = list(Player.objects.of_club(member.club).resting().values_list("pk", flat=True))
    return {"on": on.isoformat(), "taps": found, "rests": rests}


@require_POST
@coach_required
@once
def guest(request: HttpRequest, member: Membership) -> HttpResponse:
    """A guest of this hour, who is here at once: {name, ladder, rung}."""
    name = request.POST.get("name", "")
    ask = Ask(name, whole(request.POST.get("ladder")), whole(request.POST.get("rung", "1")) or 1)
    try:
        found = add_guest(member=member, ask=ask, on=member.club.today())
    except Refused as error:
        return _hall(request, member, cut(name, MOST_LETTERS), str(error))
    return redirect(f"{reverse('floor:hall')}?player={found.pk}")


@require_POST
@coach_required
def guest_stays(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A guest is of the club from now on."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    stays(member=member, player=player)
    messages.success(request, f"{player} is of the club now. Nothing that was counted is lost.")
    return redirect("progress:player", player.pk)


@require_POST
@coach_required
def goal(request: HttpRequest, member: Membership) -> HttpResponse:
    """What the group works for together today; 0 for nothing."""
    count = whole(request.POST.get("goal", ""), 0, 100_000)
    kind = request.POST.get("goal_kind", "")
    worth = whole(request.POST.get("goal_worth", ""), 1, MOST_WORTH) or 1
    set_goal(member.club, member.club.today(), count or None, kind, worth)
    return redirect("floor:hall")


@require_safe
@member_required
def turns(request: HttpRequest, member: Membership) -> HttpResponse:
    """Turns that are owed today, as a fragment."""
    lines = owed(FloorTap.objects.of_day(member.club, member.club.today()))
    return render(request, "floor/_turns.html", {"owed": lines})


@require_safe
def worker(request: HttpRequest) -> HttpResponse:
    """The worker that keeps the hall's page on a device; it says nothing of any club."""
    return worker_of(SHELL)
