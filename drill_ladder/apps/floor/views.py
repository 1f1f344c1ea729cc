"""Stations: set up, run by the clock, solved again."""

from typing import Any

from django import forms
from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.http import urlencode
from django.views.decorators.http import require_POST

from drill_ladder.apps.floor.models import GroupSession
from drill_ladder.apps.floor.stations import (
    ROWS,
    GroupForm,
    StationForm,
    Where,
    change_players,
    in_sight,
    lines,
    named,
    resting_among,
    rotation,
    set_up,
    shared_balls,
    where,
)
from drill_ladder.apps.history.once import once
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.core.planning import Station
from drill_ladder.formats.reading import cut, whole
from drill_ladder.ui.pages import Context

FIRST = [
    {"capacity": 1, "roles": "worker", "s_per_rep": 4},
    {"capacity": 2, "roles": "worker, feeder", "s_per_rep": 6},
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
    titles = Drill.objects.of_club(member.club).in_use().titles()
    rows: Any = make(
        posted,
        prefix="station",
        initial=None if posted else FIRST,
        form_kwargs={"titles": titles},
    )
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
    recent = in_sight(member.club, GroupSession.objects.of_club(member.club)[:8])
    wrong = request.method == "POST"
    context = {"form": form, "rows": rows, "recent": recent, "wrong": wrong}
    return render(request, "floor/stations.html", context, status=422 if wrong else 200)


def _made(member: Membership, form: GroupForm, stations: list[Station]) -> GroupSession | None:
    data, members = form.cleaned_data, named(form.players())
    try:
        return set_up(
            member=member,
            title=data["title"],
            on=clock.today(member.club),
            players=list(members),
            members=members,
            slots=data["slots"],
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
    session = _session(member, pk)
    turns = rotation(session)
    first = len(session.past) + 1
    spots = where(session, turns)
    context = {
        "session": session,
        "found": turns,
        "lines": lines(session, turns),
        "where": [(spot, _rows(session, spot)) for spot in spots],
        "shared": shared_balls(session, turns),
        "waiting": len(session.players) - len(turns.slots[0]) if turns.slots else 0,
        "past": range(1, first),
        "slots": range(first, first + len(turns.slots)),
        "phases": _phases(session, turns, first),
        "total": len(turns.slots) * session.slot_s + (len(turns.slots) - 1) * session.change_s,
        "people": _people(member, session),
        "resting": resting_among(member.club, session.players, session.members),
    }
    return render(request, "floor/station.html", context)


def _session(member: Membership, pk: int) -> GroupSession:
    session = get_object_or_404(GroupSession.objects.of_club(member.club), pk=pk)
    if not in_sight(member.club, [session]):
        raise Http404
    return session


def _people(member: Membership, session: GroupSession) -> list[tuple[Player, bool]]:
    """Everybody of the club, and whether they are there."""
    there = {session.members.get(name) for name in session.players}
    return [(one, one.pk in there) for one in Player.objects.of_club(member.club).by_name()]


# station -> who is there, each with where their work is counted (empty: nowhere)
Rows = list[tuple[str, list[tuple[str, str]]]]


def _rows(session: GroupSession, spot: Where) -> Rows:
    """A slot, station by station: a worker who is known leads to what they do in the hall."""
    return [
        (station, [(label, _address(session, spot, station, label)) for label in who.split(", ")])
        for station, who in spot.stations
    ]


def _address(session: GroupSession, spot: Where, station: str, label: str) -> str:
    name = label.partition(" (")[0] if label not in session.members else label
    player, drill = session.members.get(name), session.drills.get(station)
    if name not in spot.workers.get(station, ()) or player is None or drill is None:
        return ""
    feeder = spot.feeders.get(station, "")
    asked = {"player": player, "drill": drill} | ({"feeder": feeder} if feeder else {})
    return f"{reverse('floor:hall')}?{urlencode(asked)}"


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
    session = _session(member, pk)
    wanted = {n for n in map(whole, request.POST.getlist("people")) if n is not None}
    there = [one for one in Player.objects.of_club(member.club).by_name() if one.pk in wanted]
    members = named(there)
    # who is known keeps their place, whoever is new comes at the end
    kept = [name for name in session.players if session.members.get(name) in wanted]
    known = {session.members.get(name) for name in kept}
    names = [*kept, *(name for name, pk in members.items() if pk not in known)]
    slot = whole(request.POST.get("slot", ""))
    try:
        change_players(
            session=session,
            names=names,
            slot=0 if slot is None else slot - len(session.past),
            members=members,
        )
        messages.success(request, "The rest is planned anew; what was run stays as it was.")
    except Refused as error:
        messages.error(request, str(error))
    return redirect("floor:station", pk)
