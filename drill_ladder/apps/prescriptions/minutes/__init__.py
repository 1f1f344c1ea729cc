"""How a prescription fits into a player's week."""

from drill_ladder.apps.prescriptions.minutes.demand import (
    Wanted,
    asked_minutes,
    wanted_by_id,
    wanted_of,
)
from drill_ladder.apps.prescriptions.minutes.kept import REVIEW, minutes

__all__ = ["REVIEW", "Wanted", "asked_minutes", "minutes", "wanted_by_id", "wanted_of"]
