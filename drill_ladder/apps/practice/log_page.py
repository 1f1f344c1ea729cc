"""What a page that logs a session shows and stores, for a coach and for a player's card."""

from datetime import date, timedelta

from django.http import HttpRequest

from drill_ladder.apps.library.drills.told import one_side, told_drill
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.library.plans.drawing import drawn, ruler
from drill_ladder.apps.library.plans.letters import letter_words
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player, PlayerNote, Role, User
from drill_ladder.apps.practice.asked import dose_shown, work_of_day
from drill_ladder.apps.practice.calling import caller_of, seed_of
from drill_ladder.apps.practice.coverage import begin_of
from drill_ladder.apps.practice.faults import cue_of_the_day
from drill_ladder.apps.practice.forms import Days, SessionForm
from drill_ladder.apps.practice.instruments import instrument_of, rows_of
from drill_ladder.apps.practice.judged import asked_of, work_rung
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.services import SessionInput, record_session
from drill_ladder.apps.practice.session_form import correction_form
from drill_ladder.apps.practice.technique import MOST_FAULTS, Asked
from drill_ladder.apps.practice.tempos import beside_of
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.floor import FloorPlan, Plan
from drill_ladder.core.planning import measure_again, misfits
from drill_ladder.formats.kit_words import misfit_words
from drill_ladder.formats.words import dose_words, rule_sentence, target_words
from drill_ladder.ui.pages import Context

WEEK = 7  # days that a player may enter late


def whom_to_ring(player: Player) -> Context:
    """The guardians and the club's coaches: named where a device cannot reach the server."""
    members = Membership.objects.filter(
        club=player.club, role__in=(Role.COACH, Role.OWNER), user__is_active=True
    )
    coaches = [member.user for member in members.select_related("user")[:4] if member.user.name]
    return {"ring": list(player.guardians.all()), "coaches": coaches}


def draft_key(stay: Stay, by_coach: bool = False) -> str:
    """Under what the device keeps what was not sent yet: a player's strokes never show in a coach's
    log on the same device.
    """
    return f"{'log-' if by_coach else ''}{stay.pk}"


def log_context(stay: Stay, form: SessionForm, scale: float | None = None) -> Context:
    """What the page around a session form shows. scale: of the floor plan, where it is set up
    smaller.
    """
    rung = work_rung(stay, stay.recheck)[0]
    drill, player = rung.drill, stay.prescription.player
    left_handed, today = stay.prescription.player.is_left_handed, clock.today(player.club)
    told, paces = told_drill(rung, left_handed, scale), ruler("pace", player.stride_m)
    cue = cue_of_the_day(drill, stay, today)
    return {
        "stay": stay,
        "form": form,
        "drill": drill,
        "told_drill": told,
        "letters": letter_words(told.plan, form.rung.lanes),
        "shown": drawn(told.plan, also=paces) if told.plan else None,
        "dose": dose_words(form.rung),
        "target": target_words(form.rung),
        "rule": rule_sentence(stay.terms.rule),
        "pad_entries": rows_of(form.entries),
        "instrument": instrument_of(form.rung, form.entries, drill.faults[:MOST_FAULTS]),
        "beside": beside_of(stay, form.rung),
        "caller": caller_of(
            form.rung,
            form.entries,
            _places(told.plan),
            seed_of(stay.pk, today),
            told.mirrored,
        ),
        "rest": form.rung.dose.rest_s,
        "draft": draft_key(stay),
        "strokes": form.rung.counts_makes,
        "pad_faults": drill.faults[:MOST_FAULTS],
        "begin_with": begin_of(player, drill, today),
        "one_cue": one_side(drill, cue, left_handed) if cue else cue,
        "kit_lines": kit_lines(drill, player, today),
    }


def _places(plan: FloorPlan | None) -> Plan | None:
    return plan.metres if plan else None


def kit_lines(drill: Drill, player: Player, today: date) -> list[str]:
    """Tools that are too long or too short for the player's height; it is said, and blocks
    nothing.
    """
    lines = [misfit_words(one) for one in misfits(drill.kit, player.height_cm, player.kit_cm)]
    if drill.kit and measure_again(player.height_on, today):
        lines.append(f"The height was measured on {player.height_on:%-d %B %Y}: measure it again.")
    return lines


def session_form(request: HttpRequest, stay: Stay, player: bool = False) -> SessionForm:
    """The form of the rung that is worked on; its floor plan tells which times cannot be. player:
    whether it is the player's own card, which goes back a week.
    """
    today = clock.today(stay.prescription.player.club)
    stored, rung = work_of_day(stay, today)
    rung = dose_shown(request.POST.get("dose", ""), work_rung(stay, stay.recheck)[1]) or rung
    plan = stored.floor_plan.metres if stored.floor_plan else None
    cut_short: bool = request.form_cut  # type: ignore[attr-defined]
    asked = Asked.of(stored.drill, rung, stay.prescription.player.is_left_handed)
    first = max(stay.arrived, today - timedelta(days=WEEK)) if player else stay.arrived
    days = Days(min(first, today), today, by_name=player)
    sent, initial = request.POST or None, {"tired": _tired_next(stay, today)}
    form = SessionForm(
        sent, initial=initial, rung=rung, plan=plan, form_cut=cut_short, asked=asked, days=days
    )
    return _worded(form, player)


def _tired_next(stay: Stay, today: date) -> bool:
    """Whether what comes next today is the second time, tired."""
    if not stay.prescription.tired_too or stay.worked_on.drill.only_fresh:
        return False
    return set(stay.sessions.filter(on=today).values_list("tired", flat=True)) == {False}


def _worded(form: SessionForm, player: bool) -> SessionForm:
    """In the words of whoever fills it in: a coach writes to nobody."""
    if not player:
        form.fields["word"].label = "A word about it"
    return form


def form_to_correct(request: HttpRequest, session: Session, player: bool = False) -> SessionForm:
    """A stored session in its form, as it was entered. player: whether the player puts it right."""
    stay = session.stay
    stored, rung = work_rung(stay, session.recheck)
    rung = asked_of(session, rung)
    last = stay.left or clock.today(stay.prescription.player.club)
    days = Days(min(stay.arrived, session.on), max(last, session.on))
    form = correction_form(
        request.POST or None,
        session,
        rung,
        Asked.of(stored.drill, rung, stay.prescription.player.is_left_handed),
        days,
        request.form_cut,  # type: ignore[attr-defined]
    )
    return _worded(form, player)


def _keep_word(stay: Stay, entry: SessionInput) -> None:
    """A word and an effort that came with nothing but a report of hurt are noted for the coach."""
    parts = [f"“{entry.word}”"] if entry.word else []
    if entry.effort is not None:
        parts.append(f"effort {entry.effort} of 10")
    if parts:
        player = stay.prescription.player
        text = f"With the report of hurt, on {stay.rung.title}: {', '.join(parts)}"
        PlayerNote.objects.create(
            club_id=player.club_id, player=player, on=entry.on, text=text[:500]
        )


def recorded(
    form: SessionForm, stay: Stay, entry: SessionInput, actor: User | None, hurt: str | None
) -> Session | None:
    """Store a session; None with the reason in the form, or when only a hurt was told."""
    if hurt and not entry.sets:
        _keep_word(stay, entry)
        return None
    try:
        return record_session(
            stay=stay,
            entry=entry,
            today=clock.today(stay.prescription.player.club),
            actor=actor,
            with_hurt=hurt is not None,
        )[0]
    except Refused as error:
        form.add_error(None, str(error))
        return None
