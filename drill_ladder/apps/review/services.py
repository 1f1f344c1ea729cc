"""Proposals from the core; a coach confirms, holds or overrides them, and can take it back."""

from dataclasses import replace
from datetime import date

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, PlayerNote
from drill_ladder.apps.people.players import refuse_resting, refuse_unless_coach
from drill_ladder.apps.practice.judged import counted_rows, decide_stay, rung_pk
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.review.effects import apply_move, take_back
from drill_ladder.apps.review.models import Action, Decision, Proposal, State
from drill_ladder.core.judging import Advice, Kind
from drill_ladder.core.judging import Decision as Decided
from drill_ladder.formats.decision_documents import said

# What a coach is asked about; the rest is noted and changes nothing.
FOR_THE_COACH = {
    Kind.RECHECK,
    Kind.SKIP,
    Kind.CLIMB,
    Kind.FINISH,
    Kind.CHECK,
    Kind.EASE,
    Kind.STEP_DOWN,
    Kind.STALLED,
}
# What an override may choose, in the order in which it is offered.
CHOICES = [Kind.CLIMB, Kind.HOLD, Kind.EASE, Kind.STEP_DOWN]
# what the trail says of an answer
DONE = {
    "confirm": "confirmed",
    "hold": "held",
    "override": "decided otherwise on",
    "moved": "moved by hand",
}
# what a coach may do at any time
BY_HAND = (Kind.CLIMB, Kind.STEP_DOWN, Kind.EASE, Kind.HOLD, Kind.FINISH)
HAND_WORDS = {
    Kind.CLIMB: "Up one rung",
    Kind.STEP_DOWN: "Down one rung",
    Kind.EASE: "Ease this rung",
    Kind.HOLD: "Stay here for now",
    Kind.FINISH: "Finish the ladder",
}
CHOICE_WORDS = {
    Kind.CLIMB: "Climb one rung",
    Kind.HOLD: "Hold here",
    Kind.EASE: "Ease this rung",
    Kind.STEP_DOWN: "Step down one rung",
}


@transaction.atomic(savepoint=False)
def propose(stay: Stay, on: date, decision: Decided | None = None) -> Proposal:
    """Keep the core's answer about a stay, asked for here unless it is known; it replaces an open
    one. Whoever asks holds the player: of two at once both would be open.
    """
    proposal = proposal_of(stay, on, decision or decide_stay(stay, on))
    if not _still_asks(stay, proposal):
        Proposal.objects.filter(stay=stay, state=State.OPEN).update(state=State.REPLACED)
    proposal.save()
    return proposal


def has_reason(proposal: Proposal, code: Advice) -> bool:
    """Whether it was said for a reason, or with that advice."""
    return any(reason.code is code for reason in proposal.said.reasons)


def _still_asks(stay: Stay, later: Proposal) -> bool:
    """Whether a coach is still to look at what was made easier because the player was not at ease:
    a later answer that asks them nothing does not take that away.
    """
    if not stay.eased or later.state == State.OPEN or has_reason(later, Advice.EASED_MET):
        return False
    waits = Proposal.objects.filter(stay=stay, state=State.OPEN).first()
    return waits is not None and has_reason(waits, Advice.UNEASY)


def proposal_of(stay: Stay, on: date, decision: Decided) -> Proposal:
    """The core's answer as a row, not stored yet."""
    return Proposal(
        club_id=stay.club_id,
        player_id=stay.prescription.player_id,
        stay=stay,
        kind=decision.kind.value,
        to_rung_id=rung_pk(decision.to) if decision.to else None,
        said=said(_as_fed(stay, decision)),
        made_on=on,
        state=State.OPEN if decision.kind in FOR_THE_COACH else State.NOTED,
    )


def _as_fed(stay: Stay, decision: Decided) -> Decided:
    """A target met with a gentler feed asks nobody to go back to the full variant: the feed climbs
    by itself.
    """
    if stay.eased or not stay.terms.rung.feeds:
        return decision
    reasons = tuple(one for one in decision.reasons if one.code is not Advice.EASED_MET)
    return replace(decision, reasons=reasons)


def decided_since(*, session: Session, **_: object) -> str:
    """Why a player may not change a session any more: a coach has decided with it in sight."""
    since = Decision.objects.filter(
        proposal__stay=session.stay_id, at__gte=session.recorded_at, undone_at__isnull=True
    )
    words = "Your coach has decided on it since. Tell your coach, who can put it right."
    return words if since.exists() else ""


def close_open(*, stay: Stay, **_: object) -> None:
    """What waits about a rung that the player leaves waits no more."""
    Proposal.objects.filter(stay=stay, state=State.OPEN).update(state=State.REPLACED)


def judge_anew(*, stay: Stay, on: date, decision: Decided | None = None, **_: object) -> None:
    """Judge anew after each session. For a rung that the player has left the decision stands, and
    the coach is told where it would have been another one.
    """
    if stay.left is not None:
        _tell_otherwise(stay, on)
        return
    proposal = propose(stay, on, decision)
    if stay.eased and has_reason(proposal, Advice.EASED_MET):
        stay.eased = False
        stay.save(update_fields=["eased"])


def _tell_otherwise(stay: Stay, on: date) -> None:
    """Note for the coaches what the core would have said on the day of the decision, had it known
    what came or changed since.
    """
    taken = Decision.objects.filter(proposal__stay=stay, undone_at__isnull=True).first()
    if taken is None:
        return
    rows = [row for row in counted_rows(stay) if row.on <= taken.on]
    now = decide_stay(stay, taken.on, stopped=False, rows=rows).kind
    if now.value == taken.proposal.kind:
        return
    ladder, day = stay.prescription.ladder, f"{taken.on.day} {taken.on:%B}"
    text = (
        f"{ladder}, rung {stay.rung.position}: with what was entered since, {day} would have said "
        f"“{now.value.replace('_', ' ')}” and not “{taken.proposal.word}”. The decision stands."
    )
    player = stay.prescription.player
    PlayerNote.objects.get_or_create(club_id=stay.club_id, player=player, on=on, text=text[:500])


@transaction.atomic
def settle(
    *,
    member: Membership,
    proposal: Proposal,
    action: str,
    on: date,
    applied: str = "",
    reason: str = "",
) -> Decision:
    """Confirm, hold or override an open proposal. Raises Refused, and then nothing has changed."""
    refuse_unless_coach(member, "Deciding is a coach's call.")
    proposal = Proposal.objects.select_for_update().get(pk=proposal.pk)
    by_hand = action == Action.MOVED and proposal.state == State.NOTED
    if proposal.state != State.OPEN and not by_hand:
        raise Refused(
            "This one was decided already, or newer results replaced it. Nothing was changed."
        )
    kind, to_rung = _what_to_apply(proposal, action, applied, reason)
    stay = Stay.objects.select_related("prescription__ladder", "prescription__player", "rung").get(
        pk=proposal.stay_id
    )
    refuse_resting(stay.prescription.player)
    before = apply_move(stay, kind, to_rung, on)
    if kind == Kind.HOLD and has_reason(proposal, Advice.UNEASY):
        Stay.objects.filter(pk=stay.pk).update(eased=False)  # it was eased by the player's word
    proposal.state = State.DECIDED
    proposal.save(update_fields=["state"])
    decision = Decision.objects.create(
        club_id=proposal.club_id,
        proposal=proposal,
        action=action,
        applied=kind,
        to_rung=to_rung,
        reason=reason.strip()[:300],
        by=member.user,
        on=on,
        before=before,
    )
    record(
        club_id=member.club_id,
        actor=member.user,
        verb=DONE[action],
        subject=stay,
        applied=kind,
        reason=reason,
    )
    return decision


def _what_to_apply(
    proposal: Proposal, action: str, applied: str, reason: str
) -> tuple[str, Rung | None]:
    if action == Action.CONFIRM:
        return proposal.kind, proposal.to_rung
    if action == Action.HOLD:
        return Kind.HOLD, None
    if action == Action.MOVED:
        return applied, neighbour(proposal.stay, applied)
    if action != Action.OVERRIDE or applied not in CHOICES:
        raise Refused("Choose what to do instead. Nothing was changed.")
    if not reason.strip():
        raise Refused(
            "An override needs a reason: you will want to know later. Nothing was changed."
        )
    return applied, neighbour(proposal.stay, applied)


@transaction.atomic
def move_by_hand(*, member: Membership, stay: Stay, kind: str, reason: str, on: date) -> Decision:
    """What a coach decides by eye, whatever the rule and whether or not anything waits. It goes
    into the same ledger. Raises Refused.
    """
    refuse_unless_coach(member, "Moving a player is a coach's call.")
    if kind not in BY_HAND:
        raise Refused("Choose what to do. Nothing was changed.")
    if not reason.strip():
        raise Refused("Say why, in one line: you will want to know later. Nothing was changed.")
    current = Stay.objects.with_player_held().get(pk=stay.pk)
    if current.left is not None:
        raise Refused("The player is not on this rung any more. Nothing was changed.")
    known = Proposal.objects.filter(stay=stay, state__in=(State.OPEN, State.NOTED)).last()
    proposal = known or propose(stay, on)
    return settle(
        member=member, proposal=proposal, action=Action.MOVED, on=on, applied=kind, reason=reason
    )


def moves_of(stay: Stay, rungs: int) -> list[tuple[str, str]]:
    """What a coach may do by hand here: (kind, words)."""
    barred = {
        Kind.CLIMB: stay.rung.position >= rungs,
        Kind.STEP_DOWN: stay.rung.position == 1,
        Kind.EASE: not stay.rung.ease_note or stay.eased,
    }
    return [(k.value, HAND_WORDS[k]) for k in BY_HAND if not barred.get(k, False)]


def offered(proposal: Proposal) -> list[tuple[str, str]]:
    """What an override may choose here: (kind, words), without what is proposed anyway and what
    leads nowhere.
    """
    stay = proposal.stay
    top = not stay.rung.ladder.rungs.filter(position__gt=stay.rung.position).exists()
    barred = {
        Kind.CLIMB: top,
        Kind.STEP_DOWN: stay.rung.position == 1,
        Kind.EASE: not stay.rung.ease_note or stay.eased,
    }
    return [
        (k.value, CHOICE_WORDS[k])
        for k in CHOICES
        if k.value != proposal.kind and not barred.get(k, False)
    ]


def neighbour(stay: Stay, kind: str) -> Rung | None:
    """The rung that a move by hand leads to; None where the rung stays. Raises Refused beyond an
    end.
    """
    step = {Kind.CLIMB: 1, Kind.STEP_DOWN: -1}.get(Kind(kind), 0)
    if not step:
        return None
    rung = Rung.objects.filter(
        ladder_id=stay.rung.ladder_id, position=stay.rung.position + step
    ).first()
    if rung is None:
        raise Refused("There is no rung in that direction. Nothing was changed.")
    return rung


@transaction.atomic
def undo(*, member: Membership, decision: Decision) -> Proposal:
    """Take a decision back: the player stands where they stood, the proposal waits again. Raises
    Refused.
    """
    refuse_unless_coach(member, "Deciding is a coach's call.")
    decision = Decision.objects.select_for_update().get(pk=decision.pk)
    if decision.undone_at is not None:
        raise Refused("This was undone already.")
    proposal = decision.proposal
    take_back(proposal.stay, decision.before)
    decision.undone_at = timezone.now()
    decision.save(update_fields=["undone_at"])
    Proposal.objects.filter(stay=proposal.stay, state=State.OPEN).update(state=State.REPLACED)
    for_coach = Kind(proposal.kind) in FOR_THE_COACH
    proposal.state = State.OPEN if for_coach else State.NOTED
    proposal.save(update_fields=["state"])
    record(club_id=member.club_id, actor=member.user, verb="undid", subject=proposal)
    return proposal


def latest_decision(member: Membership) -> Decision | None:
    """The member's latest decision of today that still stands."""
    return (
        Decision.objects.filter(
            club=member.club,
            by=member.user,
            undone_at__isnull=True,
            at__date=member.club.today(),
        )
        .select_related("proposal__stay__prescription__player", "proposal__stay__rung", "to_rung")
        .first()
    )
