"""What a page that logs a session shows and stores, for a coach and for a player's card."""

from datetime import date, timedelta

from django.http import HttpRequest

from drill_ladder.apps.library.plans import drawn, letter_words, ruler
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player, PlayerNote, Role, User
from drill_ladder.apps.practice.judged import asked_of, work_rung
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.sessions.correction_form import correction_form
from drill_ladder.apps.practice.sessions.forms import SessionForm
from drill_ladder.apps.practice.sessions.services import SessionInput, record_session
from drill_ladder.apps.practice.work import (
    Asked,
    beside_of,
    dose_shown,
    instrument_of,
    rows_of,
    work_of,
    work_of_day,
)
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.work import Place, Work
from drill_ladder.formats.work_words import told_work
from drill_ladder.ui.fields import Days
from drill_ladder.ui.pages import Context

WEEK = 7  # days that a player may enter late


def whom_to_ring(player: Player) -> Context:
    """The guardians and the club's coaches: named where a device cannot reach the server."""
    members = Membership.objects.filter(
        club=player.club, role__in=(Role.COACH, Role.OWNER), user__is_active=True
    )
    coaches = [member.user for member in members.select_related("user")[:4] if member.user.name]
    return {"ring": list(player.guardians.all()), "coaches": coaches}


def kept_key(stay: Stay, by_coach: bool = False) -> str:
    """Under what the device keeps what was not sent yet: a player's strokes never show in a coach's
    log on the same device.
    """
    return f"{'log-' if by_coach else ''}{stay.pk}"


def log_context(stay: Stay, form: SessionForm, place: Place = Place.CLUB) -> Context:
    """What the page around a session form shows. place: where it is done."""
    player = stay.prescription.player
    work = work_of(stay, player.club.today(), place, rung=form.rung)
    return {"stay": stay, "form": form, "kept_as": kept_key(stay)} | shown_work(work, form)


def shown_work(work: Work, form: SessionForm, before: str = "") -> Context:
    """A piece of work as its page shows and counts it: alone, or as a part of a routine. before:
    stands before the names of its fields.
    """
    words, plan = told_work(work), work.how.plan
    return {
        "work": words,
        "letters": letter_words(plan, form.rung.lanes),
        "shown": drawn(plan, also=ruler("pace", work.who.pace_m))
        if plan and plan.tells_something
        else None,
        "pad_entries": rows_of(form.entries, before),
        "pad_faults": words.faults,
        "instrument": instrument_of(form.rung, form.entries, words.faults, before, words.heard),
        "beside": beside_of(work),
        "caller": words.calls,
        "caller_id": f"{before}caller",
        "strokes": form.rung.counts_makes,
    }


def session_form(request: HttpRequest, stay: Stay, player: bool = False) -> SessionForm:
    """The form of the rung that is worked on; its floor plan tells which times cannot be. player:
    whether it is the player's own card, which goes back a week.
    """
    today = stay.prescription.player.club.today()
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
    last = stay.left or stay.prescription.player.club.today()
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
            today=stay.prescription.player.club.today(),
            actor=actor,
            with_hurt=hurt is not None,
        )[0]
    except Refused as error:
        form.add_error(None, str(error))
        return None
