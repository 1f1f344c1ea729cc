"""Routines: drills that are done one after the other."""

from drill_ladder.apps.library.routines.services import (
    PartInput,
    RoutineHead,
    known_ladders,
    save_routine,
)

__all__ = ["PartInput", "RoutineHead", "known_ladders", "save_routine"]
