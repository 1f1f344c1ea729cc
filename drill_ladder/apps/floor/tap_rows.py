"""Rows in the day's list of taps: whoever reads on from a number misses none."""

from datetime import date
from typing import Any
from uuid import UUID, uuid4

from django.utils import timezone

from drill_ladder.apps.floor.models import FloorTap, HallDay, Trial
from drill_ladder.apps.people.models import User
from drill_ladder.core.hall import Act
from drill_ladder.formats.taps import TRIAL

SPACE = UUID("6a1c1f0e-9a0e-4a56-8f5b-0d8f0d7c9b11")  # names of what is made of taps


def hold_day(club_id: int, on: date) -> None:
    """A day's taps are stored one after the other, until the transaction ends."""
    HallDay.objects.get_or_create(club_id=club_id, on=on)
    HallDay.objects.select_for_update().get(club_id=club_id, on=on)


def tell_trial(trial: Trial, by: User | None) -> None:
    """Open halls learn of a trial that a gate measured or that was typed on the day's own page; one
    that came back is told under a new id, as its old one was taken back.
    """
    told_before = FloorTap.objects.known_among(trial.battery.club, [trial.uid])
    numbers: dict[str, Any] = {"battery": trial.battery_id, "test": trial.protocol_id}
    value: dict[str, Any] = numbers | {"numbers": {TRIAL: trial.value}}
    _tell(trial, by, TRIAL, value, trial.uid if not told_before else uuid4())


def tell_taken_back(trial: Trial, by: User | None) -> None:
    """Open halls learn that a trial was taken back."""
    _tell(trial, by, Act.UNDO, {"of": str(trial.uid)}, uuid4())


def _tell(trial: Trial, by: User | None, act: str, value: dict[str, Any], uid: UUID) -> None:
    hold_day(trial.club_id, trial.battery.on)
    FloorTap.objects.create(
        uid=uid,
        club_id=trial.club_id,
        player_id=trial.player_id,
        on=trial.battery.on,
        at=min(trial.at, timezone.now()),
        act=act,
        lane=trial.side,
        value=value,
        by=by,
    )
