"""Stations: set up, run by the clock, solved again."""

from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.floor.models import GroupSession
from drill_ladder.apps.floor.stations import (
    ROWS,
    GroupForm,
    StationForm,
    change_players,
    lines,
    resting_among,
    rotation,
    set_up,
    where,
)
from drill_ladder.apps.history.once import once
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.core.planning import Station
from drill_ladder.formats.reading import cut, whole
from drill_ladder.ui.pages import Context

MOST_LETTERS = 8000  # of all names together
FIRST = [
    {"name": "Wall pass", "capacity": 1, "roles": "worker", "s_per_rep": 4},
    {"name": "Gate", "capacity": 2, "roles": "worker, retriever", "s_per_rep": 6},
]


@member_required
@once
def stations(request: HttpRequest, member: Membership) -> HttpResponse:
    """Sessions of late, and a new one."""
    make = forms.formset_factory(
        StationForm, extra=ROWS - len(FIRST), max_num=ROWS, absolute_max=ROWS
    )
    posted = request.POST or None
    # a group block that a squad's page proposed comes with its name and its players
    asked = {"title": cut(request.GET.get("title", ""), 120), "squad": request.GET.get("squad")}
    form = GroupForm(posted, club=member.club, initial=asked)
    rows: Any = make(posted, prefix="station", initial=None if posted else FIRST)
    if request.method == "POST" and all([form.is_valid(), rows.is_valid()]):
        stations_ = [row.station() for row in rows.forms if row.cleaned_data.get("name")]
        if len({station.name for station in stations_}) < len(stations_):
            form.add_error(None, "Two stations have the same name.")
        elif not stations_:
            form.add_error(None, "At least one station, please.")
        else:
            made = _made(member, form, stations_)
            if made is not None:
                return redirect("floor:station", made.pk)
    recent = GroupSession.objects.of_club(member.club)[:8]
    wrong = request.method == "POST"
    context = {"form": form, "rows": rows, "recent": recent, "wrong": wrong}
    return render(request, "floor/stations.html", context, status=422 if wrong else 200)


def _made(member: Membership, form: GroupForm, stations: list[Station]) -> GroupSession | None:
    data = form.cleaned_data
    try:
        return set_up(
            member=member,
            title=data["title"],
            on=clock.today(member.club),
            players=form.players(),
            stations=stations,
            slot_s=round(data["minutes"] * 60),
            change_s=data["change_s"],
        )
    except Refused as error:
        form.add_error(None, str(error))
        return None


@member_required
def station(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Who is where in each slot, the clock, and what it gains."""
    session = get_object_or_404(GroupSession.objects.of_club(member.club), pk=pk)
    turns = rotation(session)
    first = len(session.past) + 1
    context = {
        "session": session,
        "found": turns,
        "lines": lines(session, turns),
        "where": where(session, turns),
        "waiting": len(session.players) - len(turns.slots[0]) if turns.slots else 0,
        "past": range(1, first),
        "slots": range(first, first + len(turns.slots)),
        "phases": _phases(session, turns, first),
        "total": len(turns.slots) * session.slot_s + (len(turns.slots) - 1) * session.change_s,
        "names": "\n".join(session.players),
        "resting": resting_among(member.club, session.players),
    }
    return render(request, "floor/station.html", context)


def _phases(session: GroupSession, turns: Any, first: int) -> list[Context]:
    """The clock's parts: slots, and changes between them."""
    parts: list[Context] = []
    for number in range(len(turns.slots)):
        title = f"Slot {first + number} of {first + len(turns.slots) - 1}"
        at = first + number  # during a change: where to go next
        parts.append(
            {"kind": "work", "title": title, "seconds": session.slot_s, "calls": [], "slot": at}
        )
        if session.change_s and number < len(turns.slots) - 1:
            change = {"kind": "rest", "title": "Change", "seconds": session.change_s, "calls": []}
            parts.append(change | {"slot": at + 1})
    return parts


@require_POST
@member_required
def station_change(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Somebody came late or went: the rest is solved again from a slot on."""
    session = get_object_or_404(GroupSession.objects.of_club(member.club), pk=pk)
    typed = request.POST.get("names", "")[:MOST_LETTERS]
    names = list(dict.fromkeys(name for line in typed.splitlines() if (name := cut(line, 120))))
    slot = whole(request.POST.get("slot", ""))
    try:
        change_players(
            session=session, names=names, slot=0 if slot is None else slot - len(session.past)
        )
        messages.success(request, "The rest is planned anew; what was run stays as it was.")
    except Refused as error:
        messages.error(request, str(error))
    return redirect("floor:station", pk)
