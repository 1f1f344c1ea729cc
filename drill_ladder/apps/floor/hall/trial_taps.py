"""Trials of a test day that were measured on the hall's page: each comes as a tap, and is a trial
of that day under the tap's own id.
"""

from datetime import datetime
from uuid import UUID

from drill_ladder.apps.floor.models import Battery, Protocol, Trial
from drill_ladder.apps.floor.test_days import (
    SIDES,
    Finished,
    TrialInput,
    add_trial,
    take_trial_back,
    value_fault,
)
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.formats.reading import uuid
from drill_ladder.formats.taps import TRIAL, SentTap

OVER = "This test day is finished: change it on its own page."


def measured(member: Membership, tap: SentTap, player: Player, at: datetime) -> str:
    """Store the trial that a tap is; why not, or nothing."""
    day = Battery.objects.of_club(member.club).with_tests().filter(pk=tap.value["battery"]).first()
    tests = {one.pk: one for one in day.protocols.all()} if day else {}
    protocol = tests.get(tap.value["test"])
    if day is None or protocol is None or player.pk not in day.players:
        return "This test is not of this player’s test day."
    value = tap.value["numbers"].get(TRIAL, -1.0)
    fault = value_fault(protocol, value) or _side_fault(protocol, tap.lane)
    if fault:
        return fault
    trial = TrialInput(tap.id, player, protocol, value, at, side=tap.lane)
    try:
        add_trial(battery=day, trial=trial, by=member.user, tapped=True)
    except Finished:
        return OVER
    except Refused as error:
        return str(error)
    return ""


def _side_fault(protocol: Protocol, side: str) -> str:
    return "" if side in SIDES[protocol.sides] else "On which side? Nothing was stored."


def taken_back(member: Membership, uid: str) -> str:
    """Take back the trial of that id, if it is one; why not, or nothing."""
    trial = _trial(member, uuid(uid))
    if trial is None or trial.taken_back:
        return ""
    try:
        take_trial_back(member=member, trial=trial, tapped=True)
    except Finished:
        return OVER
    return ""


def _trial(member: Membership, uid: UUID | None) -> Trial | None:
    rows = Trial.objects.of_club(member.club).with_day()
    return rows.filter(uid=uid).first() if uid else None
