"""How much: a day's dose, its minutes, its strain."""

from drill_ladder.apps.prescriptions.dose.dosing import (
    SETUP_S,
    SHORTEST,
    beyond,
    block_of,
    fixed,
    minutes_a_day,
    minutes_of,
    of_the_day,
    seconds_left,
)
from drill_ladder.apps.prescriptions.dose.strain import (
    Done,
    Kept,
    asked_lines,
    done_in,
    kept_of,
    strain_in,
    strain_of,
    too_much_at_once,
)

__all__ = [
    "SETUP_S",
    "SHORTEST",
    "Done",
    "Kept",
    "asked_lines",
    "beyond",
    "block_of",
    "done_in",
    "fixed",
    "kept_of",
    "minutes_a_day",
    "minutes_of",
    "of_the_day",
    "seconds_left",
    "strain_in",
    "strain_of",
    "too_much_at_once",
]
