"""The review: one proposal at a time, with its reason and its numbers."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.practice.judged import days_of, work_rung
from drill_ladder.apps.practice.observations import advice
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.review.after import after_hour
from drill_ladder.apps.review.forms import DecideForm
from drill_ladder.apps.review.models import Decision, Proposal
from drill_ladder.apps.review.services import (
    has_reason,
    latest_decision,
    move_by_hand,
    offered,
    settle,
    undo,
)
from drill_ladder.apps.review.summary import latest_sessions, results
from drill_ladder.apps.review.waiting import waiting
from drill_ladder.core.judging import Advice
from drill_ladder.formats.reading import cut, whole
from drill_ladder.formats.rung_words import target_words
from drill_ladder.formats.words import rule_sentence
from drill_ladder.ui.pages import Context, page_or_fragment

MOST_REASON = 300  # letters
SHOWN = 25  # of those that wait, in the list beside the one that is decided


MOST_LATELY = 10


@coach_required
def queue(request: HttpRequest, member: Membership) -> HttpResponse:
    """What waits for a decision; ?at=ID shows that one, ?after=ID the one after it."""
    return _show(request, member)


@require_POST
@coach_required
def decide(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Confirm, hold or override; then the next one."""
    proposal = get_object_or_404(Proposal.objects.of_club(member.club), pk=pk)
    form = DecideForm(request.POST)
    if not form.is_valid():
        return _show(
            request, member, wrong="Choose what to do, with a reason of at most 300 letters.", at=pk
        )
    try:
        decision = settle(
            member=member, proposal=proposal, on=member.club.today(), **form.cleaned_data
        )
    except Refused as error:
        return _show(request, member, wrong=str(error), at=pk, typed=form.cleaned_data)
    if request.POST.get("back") == "after":
        messages.success(request, f"{proposal.player}: decided.")
        return redirect("review:after")
    return _show(request, member, just=decision)


@coach_required
def after(request: HttpRequest, member: Membership) -> HttpResponse:
    """What everybody came to today at the club, and what can be decided now."""
    on = member.club.today()
    context: Context = {"hour": after_hour(member.club, on), "on": on}
    return render(request, "review/after.html", context)


@require_POST
@coach_required
def take_back(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Undo a decision."""
    decision = get_object_or_404(Decision.objects.of_club(member.club), pk=pk)
    try:
        proposal = undo(member=member, decision=decision)
    except Refused as error:
        return _show(request, member, wrong=str(error))
    return _show(request, member, at=proposal.pk)


@coach_required
def lately(request: HttpRequest, member: Membership) -> HttpResponse:
    """The coach's own last ten decisions that stand, each of which can be undone."""
    rows = Decision.objects.of_club(member.club).standing_of(member.user_id)[:MOST_LATELY]
    context: Context = {"rows": list(rows)}
    return page_or_fragment(request, "review/lately.html", "review/_lately.html", context)


@require_POST
@coach_required
def move(request: HttpRequest, member: Membership, stay: int) -> HttpResponse:
    """Move a player by hand, from wherever they are looked at."""
    row = get_object_or_404(Stay.objects.of_club(member.club).with_all(), pk=stay)
    kind, reason = request.POST.get("kind", ""), cut(request.POST.get("reason", ""), MOST_REASON)
    today = member.club.today()
    try:
        move_by_hand(member=member, stay=row, kind=kind, reason=reason, on=today)
    except Refused as error:
        messages.error(request, str(error))
    else:
        messages.success(
            request, f"{row.prescription.player}: done. It can be undone in the review, today."
        )
    return redirect("progress:player", row.prescription.player_id)


def _show(
    request: HttpRequest,
    member: Membership,
    wrong: str = "",
    at: int | None = None,
    just: Decision | None = None,
    typed: dict[str, str] | None = None,
) -> HttpResponse:
    rows, _ = waiting(member.club)
    ids = [row.pk for row in rows]
    place = _place(request, ids, at)
    first = place - place % SHOWN
    current = Proposal.objects.with_all().get(pk=ids[place]) if ids else None
    context: Context = {
        "waiting": rows[first : first + SHOWN],
        "count": len(ids),
        "before": ids[first - 1] if first else None,
        "after": ids[first + SHOWN] if first + SHOWN < len(ids) else None,
        "current": current,
        "wrong": wrong,
        "typed": typed or {"applied": "", "reason": ""},
        "just": just or latest_decision(member),
    }
    if current is not None:
        context |= _proposal_context(current)
    status = 422 if wrong else 200
    return page_or_fragment(request, "review/queue.html", "review/_queue.html", context, status)


def _place(request: HttpRequest, ids: list[int], at: int | None) -> int:
    """Which of those that wait is shown."""
    after = whole(request.GET.get("after", ""))
    if at is None:
        at = whole(request.GET.get("at", ""))
    if at in ids:
        return ids.index(at)
    if after in ids:
        return (ids.index(after) + 1) % len(ids)
    return 0


def _proposal_context(proposal: Proposal) -> Context:
    stay = proposal.stay
    _, rung = work_rung(stay, False)
    days = days_of(stay)
    sessions = latest_sessions(stay, days)
    return {
        "stay": stay,
        "rungs": stay.prescription.ladder.rungs.count(),
        "reasons": [reason.text for reason in proposal.said.reasons],
        "marks": [day.verdict for day in days],
        "results": results(rung, sessions, days),
        "lanes": rung.lanes,
        "advice": advice(stay.rung.drill, sessions),
        "target": target_words(rung),
        "rule": rule_sentence(stay.terms.rule),
        "confirm_word": "Noted" if proposal.kind in ("check", "stalled") else "Confirm",
        "choices": offered(proposal),
        "made_easier": stay.eased and has_reason(proposal, Advice.UNEASY),
    }
