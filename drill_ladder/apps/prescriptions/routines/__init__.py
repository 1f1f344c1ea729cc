"""Routines given to players."""

from drill_ladder.apps.prescriptions.routines.services import (
    PartInHand,
    give_routine,
    minutes_of_routine,
    parts_in_hand,
    timed,
    told_cuts,
)

__all__ = [
    "PartInHand",
    "give_routine",
    "minutes_of_routine",
    "parts_in_hand",
    "timed",
    "told_cuts",
]
