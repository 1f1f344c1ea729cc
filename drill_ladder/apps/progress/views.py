"""The desk, the players, one player."""

from datetime import timedelta

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render

from drill_ladder.apps.at_hand import first_with
from drill_ladder.apps.history.looks import note_look
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.services import as_seen
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.models import Membership, Player, Squad
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.retention import due_checks
from drill_ladder.apps.practice.stops import open_among
from drill_ladder.apps.prescriptions.forms import FocusForm
from drill_ladder.apps.prescriptions.models import Focus, Prescription
from drill_ladder.apps.progress.coverage import coverage
from drill_ladder.apps.progress.find import find
from drill_ladder.apps.progress.first_steps import first_steps
from drill_ladder.apps.progress.questions import (
    dated,
    ladders_of_players,
    late_home_work,
    not_seen,
    open_stops,
    parts_of_the_night,
    said_twice,
    sessions_today,
    to_see_to,
    told_in_hall,
    told_skips,
    trail_of,
    with_words,
    words_to_read,
)
from drill_ladder.apps.progress.standing import standings
from drill_ladder.apps.progress.this_week import this_week
from drill_ladder.apps.review.models import Proposal, State
from drill_ladder.apps.review.waiting import waiting
from drill_ladder.formats.reading import cut, whole
from drill_ladder.ui.pages import Context, page_of, page_or_fragment

MOST_ON_DESK, MOST_WORDS, MOST_TOGETHER = 12, 4, 3


@member_required
def desk(request: HttpRequest, member: Membership) -> HttpResponse:
    """Decisions waiting, home work late, who has not been seen, open stops; the first of each long
    list, with ?all=1 everybody.
    """
    today = clock.today(member.club)
    most = None if request.GET.get("all") else MOST_ON_DESK
    shown, count = waiting(member.club, most)
    # the frame shows it too
    request.waiting = count  # type: ignore[attr-defined]
    at_club, together = sessions_today(member.club, today)
    off, again = to_see_to(member.club, today)
    context = {
        "today": today,
        "count": count,
        "idle": list(Player.objects.of_club(member.club).on_no_ladder()[:most]),
        "waiting": shown,
        "late": late_home_work(member.club, today)[:most],
        "unseen": not_seen(member.club, today, most),
        "most": most,
        "stops": open_stops(member.club),
        "off": off,
        "again": again,
        "sessions": at_club[:most],
        "together": together[:MOST_TOGETHER],
        "twice": said_twice(member.club, today) if member.decides else [],
        "parts": parts_of_the_night(member.club, today),
        "words": words_to_read(member.club, most and MOST_WORDS),
    }
    # where something goes on the first steps are past, and nobody asks; whoever was never seen, or
    # comes today, may have done nothing yet
    quiet = not any(context[name] for name in ("waiting", "late", "stops"))
    context["steps"] = first_steps(member.club) if member.decides and quiet else []
    return render(request, "progress/desk.html", context)


MOST_TO_FIND = 60  # letters


@member_required
def found(request: HttpRequest, member: Membership) -> HttpResponse:
    """?words= part of a name: what there is of it, as a list for the box that asks."""
    words = cut(request.GET.get("words", ""), MOST_TO_FIND)
    context = {"hits": find(member, words), "words": words}
    return render(request, "progress/_found.html", context)


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
    today = clock.today(member.club)
    since = None if request.GET.get("all") else today - timedelta(days=CLIMB_DAYS)
    ladders = list(Prescription.objects.of_player(player_row).with_climb(since))
    stops = list(player_row.stops.all())
    latest = Proposal.objects.of_player(player_row).latest_of_stays()
    said = {proposal.stay_id: proposal for proposal in latest}
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
}


@member_required
def covered(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Where a skill holds, lane by lane and drill by drill, and what comes first in the
    next plan.
    """
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    today = clock.today(member.club)
    context = {
        "player": player,
        "today": today,
        "grids": coverage(player, today),
        "words": COVER_WORDS,
    }
    return render(request, "progress/coverage.html", context)


@member_required
def job(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """How far long work is; the page asks again until it is over."""
    job_row = as_seen(get_object_or_404(Job.objects.of_club(member.club), pk=pk))
    return page_or_fragment(request, "progress/job.html", "progress/_job.html", {"job": job_row})


@coach_required
def job_file(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """What long work made, for a day."""
    job_row = get_object_or_404(Job.objects.of_club(member.club).with_file(), pk=pk)
    is_paper = job_row.file_name.endswith(".pdf")
    kind = "application/pdf" if is_paper else "application/octet-stream"
    response = HttpResponse(bytes(job_row.file or b""), content_type=kind)
    place = "inline" if is_paper else "attachment"
    response.headers["Content-Disposition"] = f'{place}; filename="{job_row.file_name}"'
    return response
