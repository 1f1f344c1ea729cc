"""The home card, and a coach's own log."""

import re
from dataclasses import replace
from datetime import date
from typing import Any
from uuid import UUID

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.library.models import Caution
from drill_ladder.apps.library.plans import drawn, ruler
from drill_ladder.apps.people.access import holds_report, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.links import open_link
from drill_ladder.apps.people.models import Membership, Opens, Player, Role, Side
from drill_ladder.apps.practice.cards import barred_blocks, home_blocks, home_way, published_week, told_changes
from drill_ladder.apps.practice.covering import begin_with
from drill_ladder.apps.practice.forms import SessionForm
from drill_ladder.apps.practice.judging import decide_stay, judge_days, rung_key, sessions_of, work_rung
from drill_ladder.apps.practice.links import by_link
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.services import SessionInput, record_session
from drill_ladder.apps.practice.stops import hear, hear_button, open_stop_of
from drill_ladder.apps.practice.treating import cue_of_the_day
from drill_ladder.apps.practice.words import outcome
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.prescriptions.services import more_terms
from drill_ladder.formats.documents import plan_from, rule_from
from drill_ladder.formats.words import dose_words, rule_sentence, target_words
from drill_ladder.web.pages import wants_json


@by_link()
def card(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """Today's blocks."""
    today = timezone.localdate()
    blocks = home_blocks(player, today)
    changed = told_changes(published_week(player, today))
    context = {"player": player, "token": token, "today": today, "stop": open_stop_of(player), "blocks": blocks}
    context["off"] = barred_blocks(player, today)
    context |= {"changed": changed, "forget": _draft_told(request)} | whom_to_ring(player)
    feed = open_link(player, Opens.CALENDAR)
    return render(request, "practice/card.html", context | {"calendar": feed.token if feed else ""})


DRAFT = re.compile(r"[0-9]{1,18}-[0-9]{4}-[0-9]{2}-[0-9]{2}")


def _draft_told(request: HttpRequest) -> str:
    """The draft that the device may forget, as the report in it has arrived; empty for none."""
    asked = request.GET.get("told", "")
    return asked if DRAFT.fullmatch(asked) else ""


def whom_to_ring(player: Player) -> dict[str, Any]:
    """The guardians and the club's coaches: named where a device cannot reach the server."""
    members = Membership.objects.filter(club=player.club, role__in=(Role.COACH, Role.OWNER), user__is_active=True)
    coaches = [member.user for member in members.select_related("user")[:4] if member.user.name]
    return {"ring": list(player.guardians.all()), "coaches": coaches}


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
    cut_short: bool = request.form_cut  # type: ignore[attr-defined]
    return SessionForm(request.POST or None, rung=rung, plan=plan, form_cut=cut_short)


@by_link()
def block(request: HttpRequest, player: Player, token: str, stay: int) -> HttpResponse:
    """One block: how it is done, and the pad to log it."""
    stays = Stay.objects.of_player(player).begun(timezone.localdate()).for_home()
    found = get_object_or_404(stays, pk=stay)
    form = session_form(request, found)
    caution = found.worked_on.drill.caution
    if caution == Caution.COACHED_ONLY:
        raise Http404
    if request.method != "POST" and _off_the_card(found, player):
        return redirect("practice:card", token)  # which says why
    way, told = _less(found), request.told  # type: ignore[attr-defined]
    if request.method == "POST" and form.is_valid():
        given = form.session_input(timezone.localdate(), form.cleaned_data["seen_by"] or "self")
        given = replace(given, way=way.version.name if way else "")
        session = _recorded(form, found, given, None, told)
        if session is not None:
            return redirect("practice:done", token, session.pk)
        if told and not form.errors:
            return redirect(f"{reverse('practice:card', args=[token])}?told={draft_key(found, timezone.localdate())}")
    context = log_context(found, form) | {
        "player": player,
        "token": token,
        "stop": open_stop_of(player),
        "told": told,
        "with_adult": caution == Caution.HOME_WITH_ADULT,
        "way": way,
    }
    context |= whom_to_ring(player)
    return render(request, "practice/block.html", context, status=422 if form.errors else 200)


def _off_the_card(stay: Stay, player: Player) -> bool:
    """Whether a block is not for home now: barred, or withdrawn by a later publishing."""
    shown = {block.stay.pk for block in home_blocks(player, timezone.localdate())}
    return stay.left is None and stay.pk not in shown


def _less(stay: Stay) -> Any:
    """The home version, where it is not the full drill."""
    way = home_way(stay)
    return way if way.way else None


def _recorded(form: SessionForm, stay: Stay, given: SessionInput, actor: Any, told: str | None) -> Session | None:
    """Store a session; None with the reason in the form, or when only a hurt was told."""
    if told and not given.sets:
        return None
    today, with_hurt = timezone.localdate(), told is not None
    try:
        return record_session(stay=stay, given=given, today=today, actor=actor, with_hurt=with_hurt)[0]
    except Refused as error:
        form.add_error(None, str(error))
        return None


@by_link()
def done(request: HttpRequest, player: Player, token: str, session: UUID) -> HttpResponse:
    """What was reached, what is missing, what comes next."""
    found = get_object_or_404(
        Session.objects.of_player(player).select_related("stay__rung__drill", "stay__prescription__ladder"), pk=session
    )
    context = outcome_context(found) | {"player": player, "token": token, "stop": open_stop_of(player)}
    return render(request, "practice/done.html", context | whom_to_ring(player))


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
@by_link()
def hurt(request: HttpRequest, player: Player, token: str) -> HttpResponse:
    """Something hurts: everything stops until a coach has looked at it. Told as JSON to a device that asks for that."""
    told = request.told or hear_button(request.POST, player, None)  # type: ignore[attr-defined]
    return JsonResponse({"told": told}) if wants_json(request) else redirect("practice:card", token)


@holds_report
@member_required
def log(request: HttpRequest, member: Membership, stay: int) -> HttpResponse:
    """A session that a coach or an assistant watches and logs."""
    stays = Stay.objects.of_club(member.club).select_related(
        "prescription__player", "prescription__ladder", "rung__drill", "rung__ladder"
    )
    player = get_object_or_404(stays, pk=stay).prescription.player
    told = hear(request.POST, player, member.user) if request.method == "POST" else None
    request.told = told  # type: ignore[attr-defined]
    found = stays.to_log().filter(pk=stay).first()
    if found is None:
        if told is None:
            raise Http404
        return _rests(request, player)
    form = session_form(request, found)
    if request.method == "POST" and form.is_valid():
        # an assistant helps; only a coach's eyes count as a coach's
        given = form.session_input(timezone.localdate(), "coach" if member.decides else "helper")
        session = _recorded(form, found, given, member.user, told)
        if session is not None:
            messages.success(request, f"Logged for {player}.")
        if session is not None or not form.errors:
            return _rests(request, player, draft_key(found, timezone.localdate()), told)
    context = log_context(found, form) | {"player": player, "stop": open_stop_of(player), "told": told}
    context["ring"] = list(player.guardians.all())
    return render(request, "practice/log.html", context, status=422 if form.errors else 200)


def _rests(request: HttpRequest, player: Player, draft: str = "", told: str | None = "") -> HttpResponse:
    """On to the player's page, which shows the stop and forgets the draft of what was stored."""
    if told is not None:
        messages.success(request, f"{player} rests until a coach ends the stop. What was told stands below.")
    back = reverse("progress:player", args=[player.pk])
    return redirect(f"{back}?logged={draft}" if draft else back)
