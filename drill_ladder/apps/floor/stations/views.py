"""Stations: set up, run by the clock, solved again."""

from collections.abc import Mapping
from typing import Any

from django import forms
from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.http import urlencode
from django.views.decorators.http import require_POST

from drill_ladder.apps.floor.models import GroupSession
from drill_ladder.apps.floor.stations.group_block import begin_group
from drill_ladder.apps.floor.stations.services import (
    MOST_TURN,
    ROWS,
    AtStation,
    GroupForm,
    StationForm,
    change_players,
    in_sight,
    lines,
    names_in,
    resting_among,
    rotation,
    set_up,
    shared_balls,
    where,
)
from drill_ladder.apps.history.once import once
from drill_ladder.apps.library.models import Drill
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
    data = form.cleaned_data
    try:
        return set_up(
            member=member,
            title=data["title"],
            on=member.club.today(),
            players=[player.pk for player in form.players()],
            slots=data["slots"],
            stations=stations,
            slot_s=round(data["minutes"] * 60),
            change_s=data["change_s"],
            turn_reps=data["turn_reps"],
        )
    except Refused as error:
        form.add_error(None, str(error))
        return None


@require_POST
@member_required
@once
def group_begin(request: HttpRequest, member: Membership) -> HttpResponse:
    """A group block that begins now, in the hall: {title, drill, players, turn_reps}. Who rests is
    left out.
    """
    asked = whole(request.POST.get("drill")) or 0
    drill = Drill.objects.of_club(member.club).only_row(asked).first()
    if drill is None:
        messages.error(request, "Which drill? Nothing was set up.")
        return redirect("floor:stations")
    wanted = {n for n in map(whole, request.POST.getlist("players")) if n is not None}
    everybody = Player.objects.of_club(member.club).by_name()
    resting = set(everybody.resting().values_list("pk", flat=True))
    players = [player for player in everybody if player.pk in wanted - resting]
    title = cut(request.POST.get("title", ""), 120)
    try:
        begin_group(
            member=member,
            title=title,
            drill=drill,
            players=players,
            on=member.club.today(),
            turn_reps=whole(request.POST.get("turn_reps", ""), 1, MOST_TURN),
        )
    except Refused as error:
        messages.error(request, str(error))
        return redirect("floor:stations")
    return redirect(f"{reverse('floor:hall')}?view=stations")


@member_required
def station(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Who is where in each slot, the clock, and what it gains."""
    session = _session(member, pk)
    turns = rotation(session)
    first = len(session.past) + 1
    names = names_in(session)
    context = {
        "session": session,
        "found": turns,
        "lines": lines(session, turns, names),
        "where": [
            (slot.number, _rows(session, slot.stations), slot.rest)
            for slot in where(session, turns, names)
        ],
        "shared": shared_balls(session, turns),
        "waiting": len(session.players) - len(turns.slots[0]) if turns.slots else 0,
        "past": range(1, first),
        "slots": range(first, first + len(turns.slots)),
        "phases": _phases(session, turns, first),
        "total": len(turns.slots) * session.slot_s + (len(turns.slots) - 1) * session.change_s,
        "people": _people(member, session),
        "resting": resting_among(member.club, session.players),
    }
    return render(request, "floor/station.html", context)


def _session(member: Membership, pk: int) -> GroupSession:
    session = get_object_or_404(GroupSession.objects.of_club(member.club), pk=pk)
    if not in_sight(member.club, [session]):
        raise Http404
    return session


def _people(member: Membership, session: GroupSession) -> list[tuple[Player, bool]]:
    """Everybody of the club, and whether they are there."""
    there = set(session.players)
    return [
        (player, player.pk in there) for player in Player.objects.of_club(member.club).by_name()
    ]


def _rows(
    session: GroupSession, stations: Mapping[str, list[AtStation]]
) -> list[tuple[str, list[tuple[AtStation, str]]]]:
    """A slot, station by station: a worker leads to what they do in the hall."""
    return [
        (station, [(place, _address(place, session.drills.get(station))) for place in there])
        for station, there in stations.items()
    ]


def _address(place: AtStation, drill: int | None) -> str:
    if not place.works or drill is None:
        return ""
    asked: dict[str, Any] = {"player": place.player, "drill": drill}
    if place.feeder:
        asked["feeder"] = place.feeder
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
    # who is known keeps their place, whoever is new comes at the end
    kept = [pk for pk in session.players if pk in wanted]
    players = [*kept, *(player.pk for player in there if player.pk not in kept)]
    slot = whole(request.POST.get("slot", ""))
    try:
        change_players(
            session=session,
            players=players,
            slot=0 if slot is None else slot - len(session.past),
        )
        messages.success(request, "The rest is planned anew; what was run stays as it was.")
    except Refused as error:
        messages.error(request, str(error))
    return redirect("floor:station", pk)
