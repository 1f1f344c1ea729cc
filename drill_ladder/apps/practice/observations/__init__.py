"""What a record shows beside its verdicts: faults, good things, coverage."""

from drill_ladder.apps.practice.observations.coverage import (
    FEWEST_LANES,
    begin_with,
    cells_of_players,
    known_cells,
    put_first,
    waiting_lanes,
)
from drill_ladder.apps.practice.observations.faults import (
    advice,
    cues_of_the_day,
    fault_sessions,
    treated,
)
from drill_ladder.apps.practice.observations.felt import (
    asks_again,
    asks_how_at_ease,
    keep_felt,
    keep_said,
    take_back_felt,
    to_ask_about,
)
from drill_ladder.apps.practice.observations.good import one_good_thing

__all__ = [
    "FEWEST_LANES",
    "advice",
    "asks_again",
    "asks_how_at_ease",
    "begin_with",
    "cells_of_players",
    "cues_of_the_day",
    "fault_sessions",
    "keep_felt",
    "keep_said",
    "known_cells",
    "one_good_thing",
    "put_first",
    "take_back_felt",
    "to_ask_about",
    "treated",
    "waiting_lanes",
]
