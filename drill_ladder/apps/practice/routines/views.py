"""A routine in a coach's log: for one player, or for two who swap roles from part to part."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render

from drill_ladder.apps.people.access import holds_report, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.practice.routines.log import (
    FIRST_SEAT,
    Asking,
    PartPage,
    RoutinePage,
    routine_page,
    store_routine,
)
from drill_ladder.apps.practice.sessions import whom_to_ring
from drill_ladder.apps.practice.stops import hear, open_stop_of
from drill_ladder.apps.prescriptions.models import PlayerRoutine
from drill_ladder.core.judging import Observer
from drill_ladder.formats.reading import whole

SEATS = (FIRST_SEAT, "b")


@holds_report
@member_required
def log(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Every part, for the player and (?with=ID) for another one who has the same routine: what each
    did is stored as theirs, whatever role they held.
    """
    going = PlayerRoutine.objects.going().of_club(member.club)
    first = get_object_or_404(going, pk=pk)
    mates = [one for one in going.of_routine(first.routine_id) if one.pk != pk]
    mate = next((one for one in mates if one.pk == whole(request.GET.get("with", ""))), None)
    pages = _pages(request, [first, *([mate] if mate else [])])
    stops = [_heard(request, page, member) for page in pages]
    if request.method == "POST" and _stored(request, member, pages, any(stops)):
        return redirect("prescriptions:routine", first.routine_id)
    today = member.club.today()
    context = {
        "player": first.player,
        "page": pages[0],
        "pages": pages,
        "parts": swapped(pages),
        "mates": mates,
        "mate": mate,
        "two": mate is not None,
        "wrong_lines": [line for page in pages for line in page.errors],
        "with_adult": False,
        "stop": open_stop_of(first.player),
        "told": stops[0],
        "kept_as": f"log-routine-{pk}-{mate.pk if mate else 0}",
        "today": today,
    }
    status = 422 if request.method == "POST" else 200
    return render(
        request, "practice/routine_log.html", context | whom_to_ring(first.player), status=status
    )


def _heard(request: HttpRequest, page: RoutinePage, member: Membership) -> str | None:
    """A report of hurt is stored first, for whomever it is of."""
    names = {name: page.day.add_prefix(name) for name in ("hurts", "hurt_where")}
    sent = {name: request.POST.get(own, "") for name, own in names.items()}
    return hear(sent, page.given.player, member.user) if request.method == "POST" else None


def _stored(request: HttpRequest, member: Membership, pages: list[RoutinePage], hurt: bool) -> bool:
    """Whether everything was stored; else the reasons stand in the forms."""
    counted = any(part.form.is_valid() and part.form.sets for p in pages for part in p.parts)
    if hurt and not counted:
        messages.success(request, "What hurts is stored: whoever told it rests. No part was.")
        return True
    if not all([page.is_valid() for page in pages]):
        return False
    on = pages[0].day.cleaned_data["on"] or member.club.today()
    seen = Observer.COACH if member.decides else Observer.HELPER
    try:
        stored = store_routine(pages, on, seen, member.user, hurt)
    except Refused as error:
        pages[0].day.add_error(None, str(error))
        return False
    messages.success(request, f"{pages[0].given.routine}: {len(stored)} parts are stored.")
    return True


def _pages(request: HttpRequest, given: list[PlayerRoutine]) -> list[RoutinePage]:
    sent = request.POST if request.method == "POST" else None
    cut: bool = request.form_cut  # type: ignore[attr-defined]
    seats = SEATS if len(given) > 1 else ("",)
    return [
        routine_page(one, Asking(sent, one.player.club.today(), None, False, cut, seat))
        for one, seat in zip(given, seats, strict=True)
    ]


def swapped(pages: list[RoutinePage]) -> list[PartPage]:
    """The parts of everybody in turn; who begins changes from part to part."""
    if len(pages) == 1:
        return pages[0].parts
    rows = zip(*(page.parts for page in pages), strict=False)
    return [part for i, row in enumerate(rows) for part in (row if i % 2 == 0 else row[::-1])]
