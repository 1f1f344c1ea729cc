"""Test days: protocols, trials, timing gates, results."""

from drill_ladder.apps.floor.test_days.gates import hear
from drill_ladder.apps.floor.test_days.results import (
    Record,
    change_words,
    record_of_tests,
    score_words,
)
from drill_ladder.apps.floor.test_days.services import (
    SIDES,
    Conditions,
    Finished,
    TrialInput,
    add_trial,
    least_of,
    most_of,
    new_battery,
    save_protocol,
    steps_of,
    take_trial_back,
    tested,
    value_fault,
)

__all__ = [
    "SIDES",
    "Conditions",
    "Finished",
    "Record",
    "TrialInput",
    "add_trial",
    "change_words",
    "hear",
    "least_of",
    "most_of",
    "new_battery",
    "record_of_tests",
    "save_protocol",
    "score_words",
    "steps_of",
    "take_trial_back",
    "tested",
    "value_fault",
]
