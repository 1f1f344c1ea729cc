"""Putting a player on a ladder, and moving them along it."""

from dataclasses import replace
from datetime import date
from typing import Any

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Caution, Ladder, Rung, Skill
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players import by_name, refuse_resting, refuse_unless_coach
from drill_ladder.apps.prescriptions.dose import strain_in, too_much_at_once
from drill_ladder.apps.prescriptions.models import (
    Arrival,
    Focus,
    Prescription,
    Setting,
    Status,
    Stay,
)
from drill_ladder.apps.prescriptions.signals import arrived, left
from drill_ladder.core.judging import Evidence, Terms, with_dose, with_target
from drill_ladder.core.judging import Rung as CoreRung
from drill_ladder.formats.documents import RULE, RUNG
from drill_ladder.formats.rung_words import dose_words, target_words
from drill_ladder.formats.words import rule_sentence


def terms_of(rung: Rung) -> Terms:
    """What a stay at the rung is judged by."""
    return Terms(replace(rung.core, rule=None), rung.rule or rung.ladder.rule)


def personal_terms(prescription: Prescription, rung: Rung) -> Terms:
    """The terms with what is different for this player: dose and rule on every rung, the target on
    its own rung.

    What does not fit a rung (makes for a rung that is timed) is left out there.
    """
    terms, own = terms_of(rung), prescription.overrides
    core = _fitting(with_dose(terms.rung, own), terms.rung)
    if own.target_rung == rung.pk:
        core = _fitting(with_target(core, own), core)
    return Terms(core, own.rule or terms.rule)


def _fitting(tried: CoreRung, else_: CoreRung) -> CoreRung:
    return tried if tried == else_ or not RUNG.faults_of(tried) else else_


def personal(stay: Stay) -> list[str]:
    """What is different for this player against the ladder, in words."""
    plain, own = terms_of(stay.rung), personal_terms(stay.prescription, stay.rung)
    return _differences(plain, own) if stay.prescription.overrides else []


def arrive(prescription: Prescription, rung: Rung, on: date, how: Arrival) -> Stay:
    """A new stay on a rung; the one before has to be left already."""
    stay = Stay.objects.create(
        club_id=prescription.club_id,
        prescription=prescription,
        rung=rung,
        terms=personal_terms(prescription, rung),
        arrived=on,
        how=how,
    )
    first = how == Arrival.PLACED
    arrived.send(sender=Stay, prescription=prescription, first=first)
    return stay


def came_back(stay: Stay) -> None:
    """A move was taken back: the player stands on a rung where they had stood before."""
    arrived.send(sender=Stay, prescription=stay.prescription, first=False)


def leave(stay: Stay, on: date) -> None:
    """The end of a stay, never before its beginning."""
    stay.left = max(on, stay.arrived)
    stay.save(update_fields=["left"])
    left.send(sender=Stay, stay=stay)


@transaction.atomic
def prescribe(
    *,
    member: Membership,
    player: Player,
    ladder: Ladder,
    rung: Rung,
    per_week: int,
    place: str,
    on: date,
    more: dict[str, Any] | None = None,
) -> Prescription:
    """Put a player on a rung of a ladder. more: intent, priority, rest day, review day, overrides.
    Raises Refused.
    """
    refuse_unless_coach(member, "Only a coach prescribes.")
    if {player.club_id, ladder.club_id, rung.club_id} != {
        member.club_id
    } or rung.ladder_id != ladder.pk:
        raise Refused("That rung is not on this club's ladder.")
    if ladder.archived_on is not None:
        raise Refused(f"{ladder} is archived: restore it first. Nothing was changed.")
    Player.objects.select_for_update().get(pk=player.pk)  # two at once: the second finds the first
    if Prescription.objects.active().filter(player=player, ladder=ladder).exists():
        raise Refused(f"{player} is already on {ladder}. Nothing was changed.")
    refuse_resting(player, "Nothing was saved.")
    refuse_home(ladder, player, place)
    refuse_tired(ladder, bool((more or {}).get("tired_too")))
    prescription = Prescription(
        club=member.club,
        player=player,
        ladder=ladder,
        per_week=per_week,
        place=place,
        started_on=on,
        prescribed_at=timezone.now() if on >= member.club.today() else None,
        **(more or {}),
    )
    refuse_overrides(prescription, rung)
    refuse_strain(prescription, rung)
    prescription.save()
    arrive(prescription, rung, on, Arrival.PLACED)
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="prescribed",
        subject=prescription,
        rung=rung.position,
    )
    return prescription


def refuse_strain(prescription: Prescription, rung: Rung) -> None:
    """Raise Refused where one session alone is over a limit of the club."""
    terms = personal_terms(prescription, rung).rung
    too_much = too_much_at_once(prescription.player, strain_in(rung.drill, terms))
    if too_much:
        raise Refused(f"{too_much} Nothing was saved.")


def refuse_overrides(prescription: Prescription, rung: Rung) -> None:
    """What is different for the player has to fit the rung that they stand on. Raises Refused."""
    own = prescription.overrides
    faults = RUNG.faults_of(with_target(with_dose(terms_of(rung).rung, own), own))
    faults += RULE.faults_of(own.rule) if own.rule else []
    if own.rule and isinstance(own.rule.school, Evidence) and not rung.core.counts_makes:
        faults.append("the evidence rule is for drills that count good ones")
    if faults:
        raise Refused(
            f"What is different for this player does not fit: {'; '.join(faults)}. Nothing was "
            "saved."
        )


def refuse_tired(ladder: Ladder, tired_too: bool) -> None:
    """Raise Refused where contact or all-out effort would be planned once more, tired."""
    if not tired_too:
        return
    for rung in ladder.rungs.select_related("drill"):
        if rung.drill.only_fresh:
            raise Refused(
                f"“{rung.drill}” is contact or all-out effort: it is done fresh, so it cannot be "
                "wanted once more tired. Nothing was saved."
            )


def refuse_home(ladder: Ladder, player: Player, place: str) -> None:
    """Raise Refused when home work is asked of drills that may not be done at this player's
    home.
    """
    if place == Setting.COACHED:
        return
    drills = [rung.drill for rung in ladder.rungs.select_related("drill")]
    coached = [drill for drill in drills if drill.caution == Caution.COACHED_ONLY]
    for drill in drills:
        # with both places, such rungs are worked on in coached sessions, and no home card ever
        # shows them
        if drill in coached and (place == Setting.HOME or len(coached) == len(drills)):
            raise Refused(
                f"“{drill}” is for coached sessions only: choose “Coached”. Nothing was saved."
            )
        if drill.caution == Caution.HOME_WITH_ADULT and not player.home_adult:
            raise Refused(
                f"“{drill}” needs an adult at home, and {player} has none noted: choose “Coached”, "
                "or note an adult "
                "on the player's page. Nothing was saved."
            )


@transaction.atomic
def set_focus(
    *, player: Player, skill: str, priority: int, source: str, why: str, on: date
) -> None:
    """A skill that the player should work on, by its name: new, or changed."""
    row = by_name(Skill, player.club, skill)
    values = {"priority": priority, "source": source, "why": why, "on": on}
    Focus.objects.update_or_create(club=player.club, player=player, skill=row, defaults=values)


def drop_focus(*, player: Player, pk: int) -> None:
    """Not that any more."""
    Focus.objects.of_player(player).filter(pk=pk).delete()


@transaction.atomic
def end_prescription(*, member: Membership, prescription: Prescription, on: date) -> None:
    """Take a player off a ladder. What was done stays. Raises Refused."""
    refuse_unless_coach(member, "Only a coach ends a prescription.")
    prescription = Prescription.objects.select_for_update(of=("self",)).get(pk=prescription.pk)
    if prescription.status != Status.ACTIVE:
        raise Refused("This prescription has ended already. Nothing was changed.")
    for stay in prescription.stays.filter(left__isnull=True):
        leave(stay, on)
    prescription.status, prescription.ended_on = Status.ENDED, on
    prescription.save(update_fields=["status", "ended_on"])
    record(club_id=member.club_id, actor=member.user, verb="ended", subject=prescription)


def changes_since(stay: Stay) -> list[str]:
    """What the ladder says now against the terms of the player's arrival, in words; empty where
    nothing changed.
    """
    now = personal_terms(stay.prescription, stay.rung)
    return _differences(stay.terms, now)


def _differences(before: Terms, now: Terms) -> list[str]:
    """Two sets of terms against each other, in words; empty where they are alike."""
    if replace(before.rung, title="") == replace(now.rung, title="") and before.rule == now.rule:
        return []
    pairs = [
        ("dose", dose_words(before.rung), dose_words(now.rung)),
        ("target", target_words(before.rung), target_words(now.rung)),
        ("rule", rule_sentence(before.rule), rule_sentence(now.rule)),
    ]
    lines = [f"{what}: {first} → {then}" for what, first, then in pairs if first != then]
    return lines or ["floor, easier variant, intent or small print"]


@transaction.atomic
def take_new_terms(*, member: Membership, stay: Stay, on: date) -> Stay:
    """Go on at the same rung by the ladder's present terms. What was done stays with the old ones.
    Raises Refused.
    """
    refuse_unless_coach(member, "Only a coach changes a player's terms.")
    current = (
        Stay.objects.select_for_update()
        .select_related("prescription", "rung__ladder", "rung__drill")
        .get(pk=stay.pk)
    )
    if current.left is not None:
        raise Refused("The player is not on this rung any more. Nothing was changed.")
    refuse_home(current.rung.ladder, current.prescription.player, current.prescription.place)
    leave(current, on)
    record(club_id=member.club_id, actor=member.user, verb="gave new terms", subject=current)
    return arrive(current.prescription, current.rung, on, Arrival.NEW_TERMS)


@transaction.atomic
def go_back(*, member: Membership, stay: Stay, on: date) -> Stay:
    """Stand once more on a rung that did not hold; a finished ladder is taken up again. Raises
    Refused.
    """
    refuse_unless_coach(member, "Only a coach moves a player on a ladder.")
    prescription = Prescription.objects.select_for_update().get(pk=stay.prescription_id)
    if prescription.status == Status.ENDED:
        raise Refused("This prescription has ended. Nothing was changed.")
    refuse_resting(prescription.player)
    for now in prescription.stays.filter(left__isnull=True):
        if now.rung_id == stay.rung_id:
            raise Refused("The player stands on this rung already. Nothing was changed.")
        leave(now, on)
    if prescription.status == Status.FINISHED:
        if (
            Prescription.objects.active()
            .filter(player=prescription.player, ladder=prescription.ladder)
            .exists()
        ):
            raise Refused("The player is on this ladder anew. Nothing was changed.")
        prescription.status, prescription.ended_on = Status.ACTIVE, None
        prescription.save(update_fields=["status", "ended_on"])
    refuse_home(prescription.ladder, prescription.player, prescription.place)
    record(club_id=member.club_id, actor=member.user, verb="went back to a rung", subject=stay)
    return arrive(prescription, stay.rung, on, Arrival.STEP_DOWN)
