"""The desk, the box that finds, and how far long work is."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render

from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.services import as_seen
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.progress.desk.find import find
from drill_ladder.apps.progress.desk.first_steps import first_steps
from drill_ladder.apps.progress.desk.questions import (
    idle_and_unseen,
    late_home_work,
    open_stops,
    parts_of_the_night,
    said_twice,
    sessions_today,
    to_see_to,
    words_to_read,
)
from drill_ladder.apps.review.waiting import waiting
from drill_ladder.formats.reading import cut
from drill_ladder.ui.pages import page_or_fragment

MOST_ON_DESK, MOST_WORDS, MOST_TOGETHER = 12, 4, 3


@member_required
def desk(request: HttpRequest, member: Membership) -> HttpResponse:
    """Decisions waiting, home work late, who has not been seen, open stops; the first of each long
    list, with ?all=1 everybody.
    """
    today = member.club.today()
    most = None if request.GET.get("all") else MOST_ON_DESK
    shown, count = waiting(member.club, most)
    # the frame shows it too
    request.waiting = count  # type: ignore[attr-defined]
    at_club, together = sessions_today(member.club, today)
    off, again = to_see_to(member.club, today)
    idle, unseen = idle_and_unseen(member.club, today, most)
    context = {
        "today": today,
        "count": count,
        "idle": idle,
        "waiting": shown,
        "late": late_home_work(member.club, today)[:most],
        "unseen": unseen,
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
