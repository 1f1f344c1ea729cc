"""All players, and one player's pages: the present, the family with the card at home, what was
decided, the trail, where a skill holds.
"""

from datetime import timedelta

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from drill_ladder.apps.history.looks import note_look
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Opens, Player, Squad
from drill_ladder.apps.people.players import WEEKDAYS, open_links
from drill_ladder.apps.practice.judged import due_checks
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.observations import put_first
from drill_ladder.apps.practice.stops import open_among
from drill_ladder.apps.prescriptions.first_in_plan import into_next_plan
from drill_ladder.apps.prescriptions.forms import FocusForm
from drill_ladder.apps.prescriptions.models import Focus, Prescription, Stay
from drill_ladder.apps.progress.desk import (
    dated,
    ladders_of_players,
    told_in_hall,
    told_skips,
    trail_of,
    with_words,
)
from drill_ladder.apps.progress.player.axes import (
    AXES,
    PLANNED_BY,
    USUAL,
    axis_of,
    good_a_minute,
    two_axes,
)
from drill_ladder.apps.progress.player.coverage import coverage
from drill_ladder.apps.progress.player.standing import standings
from drill_ladder.apps.progress.player.this_week import this_week
from drill_ladder.apps.review.models import Decision, Proposal, State
from drill_ladder.apps.stored import first_with
from drill_ladder.formats.file_limits import LANE, TITLE
from drill_ladder.formats.reading import cut, whole
from drill_ladder.ui.pages import Context, page_of, page_or_fragment, public_address

MOST_TO_FIND = 60  # letters

PER_PAGE = 30
THERE = {
    "home_wall": "a wall",
    "home_feeder": "somebody to feed",
    "home_adult": "an adult",
    "home_light": "light in the evening",
}


@member_required
def family(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """The card at home and its links, the week and the place, guardians."""
    rows = Player.objects.of_club(member.club).only_row(pk).with_squad()
    player = first_with(rows, "days", "guardians", "links")
    if player is None:
        raise Http404
    note_look(member.user, member.club_id, player)
    links = open_links(player) if member.decides else {}
    opened = {
        opens: public_address(request, reverse(f"card:{opens}", args=[link.token]))
        for opens, link in links.items()
    }
    context = {
        "player": player,
        "card": opened.get(Opens.CARD, ""),
        "calendar": opened.get(Opens.CALENDAR, ""),
        "guardians": list(player.guardians.all()),
        "age": player.age_on(member.club.today()),
        "there": [word for field, word in THERE.items() if getattr(player, field)],
        "days": [
            {"name": WEEKDAYS[d.weekday][:3], "minutes": d.minutes, "place": d.place}
            for d in player.days.all()
        ],
    }
    return render(request, "progress/family.html", context)


@member_required
def decisions(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Every decision that stands, a page at a time."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    page = page_of(request, Decision.objects.in_force(player), PER_PAGE)
    return render(request, "progress/decisions.html", {"player": player, "page": page})


@member_required
def players(request: HttpRequest, member: Membership) -> HttpResponse:
    """Everybody, with the ladders as small glyphs; ?find= part of a name."""
    find = cut(request.GET.get("find", ""), MOST_TO_FIND)
    page = page_of(request, Player.objects.of_club(member.club).named_like(find).with_squad(), 30)
    shown = list(page)
    ladders = ladders_of_players(shown)
    resting = set(Player.objects.resting().among(shown).values_list("pk", flat=True))
    rows = [
        {"player": p, "ladders": ladders.get(p.pk, []), "resting": p.pk in resting} for p in shown
    ]
    context = {
        "rows": rows,
        "page": page,
        "find": find,
        "squads": Squad.objects.of_club(member.club),
    }
    return render(request, "progress/players.html", context)


CLIMB_DAYS = 84


@member_required
def player(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One player: ladders with the marker, the tally on this rung, last results, the climb of the
    last twelve weeks; with ?all=1 the whole of it.
    """
    rows = Player.objects.of_club(member.club).only_row(pk).with_squad().with_skill_names()
    rows = with_words(rows.with_latest_notes())
    player_row = first_with(rows, "guardians", "stops")
    if player_row is None:
        raise Http404
    note_look(member.user, member.club_id, player_row)
    today = member.club.today()
    since = None if request.GET.get("all") else today - timedelta(days=CLIMB_DAYS)
    ladders = list(Prescription.objects.of_player(player_row).with_climb(since))
    stops = list(player_row.stops.all())
    stand = [stay for p in ladders for stay in p.stays.all() if stay.left is None]
    said = {proposal.stay_id: proposal for proposal in Proposal.objects.latest_of(stand)}
    context = {
        "player": player_row,
        "today": today,
        "standings": standings(ladders, today, since, said),
        "checks": due_checks(ladders, today),
        "plan": this_week(player_row, ladders, today),
        "stop": open_among(stops),
        "past_stops": [stop for stop in stops if stop.ended_on][:3],
        "guardians": list(player_row.guardians.all()),
        "notes": dated(player_row.note_rows) if member.decides else [],
        "told_in_hall": told_in_hall(player_row.hall_rows),  # type: ignore[attr-defined]
        "words": dated(player_row.word_rows) if member.decides else [],  # type: ignore[attr-defined]
        "skips": told_skips(player_row.skip_rows),  # type: ignore[attr-defined]
        "just": _just(request, member),
        "focuses": list(Focus.objects.of_player(player_row)),
        "focus_form": FocusForm(),
        "skills": player_row.skill_names,
        "waiting": {p.stay_id: p for p in said.values() if p.state == State.OPEN},
        "sent": request.GET.get("logged", ""),
    }
    return render(request, "progress/player.html", context)


def _just(request: HttpRequest, member: Membership) -> Context:
    """What was done a moment ago, and can be undone: a session that was logged or taken away."""
    away = whole(request.GET.get("away", ""))
    logged = Session.objects.of_club(member.club).of_address(request.GET.get("session", ""))
    return {"session": logged.first(), "away": away} if member.decides else {}


@coach_required
def trail(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Who changed what about a player, their ladders and their rungs."""
    player_row = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    context: Context = {"trail": trail_of(player_row), "about": player_row.name}
    return page_or_fragment(request, "trail.html", "components/trail_lines.html", context)


COVER_WORDS = {
    "": "holds",
    "empty": "never",
    "stale": "not for four weeks",
    "weak": "weak",
    "later": "not reached yet",
    "done": "done",
}


@member_required
def covered(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Where a skill holds, lane by lane and drill by drill, and what comes first in the
    next plan; the same over two axes of the coach's choice.
    """
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    today = member.club.today()
    rows = axis_of(request.GET.get("rows", ""), USUAL[0])
    columns = axis_of(request.GET.get("columns", ""), USUAL[1])
    context = {
        "player": player,
        "today": today,
        "grids": coverage(player, today),
        "words": COVER_WORDS,
        "axes": AXES,
        "rows": rows,
        "columns": columns,
        "planned_by": PLANNED_BY,
        "two": two_axes(player, rows, columns, today),
        "paces": good_a_minute(player, today),
        "member": member,
    }
    return render(request, "progress/coverage.html", context)


@require_POST
@coach_required
def cover_first(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Put a lane first on the player's next days, or no longer."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    wanted = whole(request.POST.get("stay", "")) or 0
    stay = get_object_or_404(Stay.objects.of_player(player).current(), pk=wanted)
    lane = cut(request.POST.get("lane", ""), LANE)
    try:
        first = put_first(member, stay, lane)
    except Refused as error:
        messages.error(request, str(error))
    else:
        words = "begins with" if first else "no longer begins with"
        messages.success(request, f"{player} {words} {lane}.")
    return redirect("progress:coverage", pk)


@require_POST
@coach_required
def cover_gap(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A row with a gap goes into the player's next plan."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    axis, name = request.POST.get("axis", ""), cut(request.POST.get("name", ""), TITLE)
    if axis not in PLANNED_BY or not name:
        raise Http404
    today = member.club.today()
    try:
        urgent = into_next_plan(member=member, player=player, axis=axis, name=name, on=today)
    except Refused as error:
        messages.error(request, str(error))
        return redirect("progress:coverage", pk)
    if urgent:
        said = f"{', '.join(urgent)}: first in {player}’s next plan."
        messages.success(request, said)
        return redirect(f"{reverse('progress:coverage', args=[pk])}?rows={axis}")
    messages.success(request, f"{player} is on no ladder for {name} yet: choose one.")
    return redirect("prescriptions:choose", pk)
