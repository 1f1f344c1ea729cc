"""The home card, a coach's own log, and stops."""

from dataclasses import replace
from datetime import date
from typing import Any
from uuid import UUID

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.library.models import Caution
from drill_ladder.apps.library.plans import drawn, ruler
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player, Side
from drill_ladder.apps.practice.cards import home_blocks, home_way, published_week, told_changes
from drill_ladder.apps.practice.covering import begin_with
from drill_ladder.apps.practice.forms import EndStopForm, HurtForm, SessionForm
from drill_ladder.apps.practice.judging import decide_stay, judge_days, rung_key, sessions_of, work_rung
from drill_ladder.apps.practice.links import by_link
from drill_ladder.apps.practice.models import Session, Stop
from drill_ladder.apps.practice.services import SessionInput, end_stop, open_stop, record_session
from drill_ladder.apps.practice.treating import cue_of_the_day
from drill_ladder.apps.practice.words import outcome
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.prescriptions.services import more_terms
from drill_ladder.formats.documents import plan_from, rule_from
from drill_ladder.formats.words import dose_words, rule_sentence, target_words


def open_stop_of(player: Player) -> Stop | None:
    """The player's open stop, if there is one."""
    found: Stop | None = Stop.objects.open().filter(player=player).first()
    return found


@by_link
def card(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """Today's blocks."""
    today = timezone.localdate()
    blocks = home_blocks(player, today)
    changed = told_changes(published_week(player, today))
    context = {"player": player, "token": token, "today": today, "stop": open_stop_of(player), "blocks": blocks}
    context["changed"] = changed
    return render(request, "practice/card.html", context)


def draft_key(stay: Stay, on: date) -> str:
    """Under what the device keeps what was not sent yet."""
    return f"{stay.pk}-{on:%Y-%m-%d}"


def log_context(stay: Stay, form: SessionForm) -> dict[str, Any]:
    """What the page around a session form shows."""
    rung = work_rung(stay, stay.recheck)[0]
    drill, plan = rung.drill, rung.floor_plan
    entries = [{"prefix": e.prefix, "title": e.title, "asked": e.asked} for e in form.entries if e.asked is not None]
    player = stay.prescription.player
    left_handed = player.dominant_side == Side.LEFT
    paces = ruler("pace", player.stride_m)
    return {
        "stay": stay,
        "form": form,
        "drill": drill,
        "shown": drawn(plan, left_handed=left_handed, also=paces) if plan else None,
        "dose": dose_words(form.rung, None if stay.recheck else more_terms(stay.terms)["reps_high"]),
        "target": target_words(form.rung),
        "rule": rule_sentence(rule_from(stay.terms["rule"])),
        "pad_entries": entries,
        "draft": draft_key(stay, timezone.localdate()),
        "strokes": form.rung.counts_makes,
        "pad_faults": drill.faults[:6],
        "begin_with": begin_with(player, drill, timezone.localdate()),
        "one_cue": cue_of_the_day(drill, sessions_of(stay), player, timezone.localdate()),
    }


def session_form(request: HttpRequest, stay: Stay) -> SessionForm:
    """The form of the rung that is worked on; its floor plan tells which times cannot be."""
    stored, rung = work_rung(stay, stay.recheck)
    plan = plan_from(stored.floor_plan)[0] if stored.floor_plan else None
    return SessionForm(request.POST or None, rung=rung, plan=plan)


@by_link
def block(request: HttpRequest, player: Player, token: str, stay: int) -> HttpResponse:
    """One block: how it is done, and the pad to log it."""
    stays = Stay.objects.of_player(player).begun(timezone.localdate()).for_home()
    found = get_object_or_404(stays, pk=stay)
    form = session_form(request, found)
    caution = found.worked_on.drill.caution
    if caution == Caution.COACHED_ONLY:
        raise Http404
    way = _less(found)
    if request.method == "POST" and form.is_valid():
        given = form.session_input(timezone.localdate(), form.cleaned_data["seen_by"] or "self")
        given = replace(given, way=way.version.name if way else "")
        session = _recorded(form, found, given, None)
        if session is not None:
            return redirect("practice:done", token, session.pk)
        if given.hurt and not form.errors:
            return redirect("practice:card", token)
    context = log_context(found, form) | {
        "player": player,
        "token": token,
        "stop": open_stop_of(player),
        "with_adult": caution == Caution.HOME_WITH_ADULT,
        "way": way,
    }
    return render(request, "practice/block.html", context, status=422 if form.errors else 200)


def _less(stay: Stay) -> Any:
    """The home version, where it is not the full drill."""
    way = home_way(stay)
    return way if way.way else None


def _recorded(form: SessionForm, stay: Stay, given: SessionInput, actor: Any) -> Session | None:
    """Store a session; None with the reason in the form, or when only a hurt was told."""
    today = timezone.localdate()
    try:
        if given.hurt and not given.sets:
            open_stop(player=stay.prescription.player, what=given.hurt, on=today, actor=actor, stop_id=given.id)
            return None
        return record_session(stay=stay, given=given, today=today, actor=actor)[0]
    except Refused as error:
        form.add_error(None, str(error))
        return None


@by_link
def done(request: HttpRequest, player: Player, token: str, session: UUID) -> HttpResponse:
    """What was reached, what is missing, what comes next."""
    found = get_object_or_404(
        Session.objects.of_player(player).select_related("stay__rung__drill", "stay__prescription__ladder"), pk=session
    )
    context = outcome_context(found) | {"player": player, "token": token, "stop": open_stop_of(player)}
    return render(request, "practice/done.html", context)


def outcome_context(session: Session) -> dict[str, Any]:
    """The day that a session belongs to, judged and in words."""
    stay = session.stay
    decision = decide_stay(stay, timezone.localdate())
    days = judge_days(stay, stay.sessions.prefetch_related("sets"), session.recheck)
    judged = next(d for d in days if d.on == session.on)
    by_key = {rung_key(rung.pk): rung for rung in stay.prescription.ladder.rungs.all()}
    success = None if session.recheck else more_terms(stay.terms)["success"]
    told = outcome(judged, decision, work_rung(stay, session.recheck)[1], by_key.get(decision.to or ""), success)
    return {
        "session": session,
        "stay": stay,
        "outcome": told,
        "draft": draft_key(stay, session.on),
        "marks": [d.verdict.value for d in days],
    }


@require_POST
@by_link
def hurt(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """Something hurts: everything stops until a coach has looked at it."""
    form = HurtForm(request.POST)
    if form.is_valid() and open_stop_of(player) is None:
        what = form.cleaned_data["what"].strip() or "Something hurts"
        open_stop(player=player, what=what, on=timezone.localdate(), actor=None)
    return redirect("practice:card", token)


@member_required
def log(request: HttpRequest, member: Membership, stay: int) -> HttpResponse:
    """A session that a coach or an assistant watches and logs."""
    found = get_object_or_404(
        Stay.objects.of_club(member.club)
        .to_log()
        .select_related("prescription__player", "prescription__ladder", "rung__drill", "rung__ladder"),
        pk=stay,
    )
    player = found.prescription.player
    form = session_form(request, found)
    if request.method == "POST" and form.is_valid():
        # an assistant helps; only a coach's eyes count as a coach's
        given = form.session_input(timezone.localdate(), "coach" if member.decides else "helper")
        session = _recorded(form, found, given, member.user)
        if session is not None or not form.errors:
            rests = f"{player} rests until a coach ends the stop."
            messages.success(request, f"Logged for {player}." if session else rests)
            back = reverse("progress:player", args=[player.pk])
            return redirect(f"{back}?logged={draft_key(found, timezone.localdate())}")
    context = log_context(found, form) | {"player": player, "stop": open_stop_of(player)}
    return render(request, "practice/log.html", context, status=422 if form.errors else 200)


@require_POST
@member_required
def stop_open(request: HttpRequest, member: Membership, player: int) -> HttpResponse:
    """A coach or an assistant stops a player's drills."""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    form = HurtForm(request.POST)
    if form.is_valid() and open_stop_of(who) is None:
        what = form.cleaned_data["what"].strip() or "Stopped by the coach"
        open_stop(player=who, what=what, on=timezone.localdate(), actor=member.user)
        messages.success(request, f"{who} rests: the card is blocked until a coach ends the stop.")
    return redirect("progress:player", who.pk)


@coach_required
def stop_end(request: HttpRequest, member: Membership, pk: UUID) -> HttpResponse:
    """End a stop, noting who cleared the player."""
    found = get_object_or_404(Stop.objects.open().of_club(member.club).select_related("player"), pk=pk)
    form = EndStopForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        end_stop(member=member, stop=found, cleared_by=form.cleaned_data["cleared_by"], on=_day_of(found))
        messages.success(request, f"The stop is over: {found.player} may train again. Start gently.")
        return redirect("progress:player", found.player_id)
    return render(request, "practice/stop_end.html", {"stop": found, "form": form}, status=422 if form.errors else 200)


def _day_of(stop: Stop) -> date:
    return max(timezone.localdate(), stop.opened_on)
