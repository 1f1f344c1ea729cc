"""Changing what is prescribed while it runs: how often, where, how urgent, and what is different
for the player.
"""

from datetime import date
from hashlib import sha256
from typing import Any

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players import refuse_unless_coach
from drill_ladder.apps.people.signals import home_changed
from drill_ladder.apps.prescriptions.models import Prescription, Setting, Status, Stay
from drill_ladder.apps.prescriptions.services import (
    refuse_home,
    refuse_overrides,
    refuse_tired,
    take_new_terms,
)

CHANGES = (
    "per_week",
    "place",
    "priority",
    "intent",
    "rest_day_between",
    "tired_too",
    "smaller",
    "review_on",
    "retention",
    "overrides",
)


def seen(prescription: Prescription) -> str:
    """A sign of everything that can be changed: another one means that somebody changed it
    meanwhile.
    """
    said = [str(getattr(prescription, name)) for name in CHANGES]
    return sha256("\n".join(said).encode()).hexdigest()[:16]


@transaction.atomic
def change_prescription(
    *, member: Membership, prescription: Prescription, values: dict[str, Any], was: str, on: date
) -> bool:
    """Change what is prescribed; was: the sign of what the coach saw. Raises Refused.

    Where what is different for the player changes, they go on at the same rung by the new terms
    (True); what was done stays judged by the old ones.
    """
    current = _locked(member, prescription)
    if seen(current) != was:
        raise Refused(
            "Somebody changed this while you had it open. Nothing of theirs was overwritten: look "
            "again."
        )
    before = {name: getattr(current, name) for name in CHANGES}
    for name, value in values.items():
        setattr(current, name, value)
    refuse_home(current.ladder, current.player, current.place)
    refuse_tired(current.ladder, current.tired_too)
    if current.place == Setting.COACHED:
        current.not_at_home = ""
    stay = Stay.objects.select_related("rung__ladder", "rung__drill").get(
        prescription=current, left__isnull=True
    )
    other = before["overrides"] != current.overrides
    if other:
        refuse_overrides(current, stay.rung)
    current.save()
    if other:
        take_new_terms(member=member, stay=stay, on=on)
    if before["smaller"] != current.smaller:
        home_changed.send(sender=Player, players=[current.player], actor=member.user)
    changed = [name for name in CHANGES if before[name] != getattr(current, name)]
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="changed a prescription",
        subject=current,
        changed=changed,
    )
    return other


@transaction.atomic
def look_again(*, member: Membership, prescription: Prescription, on: date) -> None:
    """Looked at; to be looked at again on a day. Raises Refused."""
    current = _locked(member, prescription)
    current.review_on = on
    current.save(update_fields=["review_on"])
    record(
        club_id=member.club_id, actor=member.user, verb="looked at", subject=current, again=str(on)
    )


def _locked(member: Membership, prescription: Prescription) -> Prescription:
    refuse_unless_coach(member, "Only a coach changes what is prescribed.")
    rows = Prescription.objects.select_for_update(of=("self",)).select_related("player", "ladder")
    current = rows.get(pk=prescription.pk)
    if current.status != Status.ACTIVE:
        raise Refused("This prescription has ended. Nothing was changed.")
    return current


@transaction.atomic
def settle_home(*, member: Membership, prescription: Prescription) -> Prescription:
    """The coach's answer: what was for home is done at the club. With both places it is already.
    Raises Refused.
    """
    refuse_unless_coach(member, "Only a coach changes what is prescribed.")
    current = (
        Prescription.objects.select_for_update(of=("self",))
        .select_related("player", "ladder")
        .get(pk=prescription.pk)
    )
    if current.status != Status.ACTIVE or not current.not_at_home:
        raise Refused("This was seen to already. Nothing was changed.")
    if current.place == Setting.HOME:
        current.place = Setting.COACHED
    current.not_at_home = ""
    current.save(update_fields=["place", "not_at_home"])
    record(club_id=member.club_id, actor=member.user, verb="moved to the club", subject=current)
    return current
