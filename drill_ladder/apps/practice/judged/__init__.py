"""Days as they were judged, and what the rule says of them."""

from drill_ladder.apps.practice.judged.climb import ClimbRow, climb_of
from drill_ladder.apps.practice.judged.days import (
    asked_of,
    core_sessions,
    core_set,
    counted_rows,
    days_of,
    decide_on,
    decide_stay,
    drop_day,
    extra_of,
    keep_day,
    knowing,
    ladder_of,
    rejudge,
    rung_key,
    rung_pk,
    work_rung,
)
from drill_ladder.apps.practice.judged.retention import Passed, due_checks, passed
from drill_ladder.apps.practice.judged.spread import measure_spread
from drill_ladder.apps.practice.judged.weeks import weeks_done, weeks_kept

__all__ = [
    "ClimbRow",
    "Passed",
    "asked_of",
    "climb_of",
    "core_sessions",
    "core_set",
    "counted_rows",
    "days_of",
    "decide_on",
    "decide_stay",
    "drop_day",
    "due_checks",
    "extra_of",
    "keep_day",
    "knowing",
    "ladder_of",
    "measure_spread",
    "passed",
    "rejudge",
    "rung_key",
    "rung_pk",
    "weeks_done",
    "weeks_kept",
    "work_rung",
]
