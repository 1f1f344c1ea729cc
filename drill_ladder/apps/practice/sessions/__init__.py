"""Sessions: entered, stored, judged, put right."""

from drill_ladder.apps.practice.sessions.correction_form import set_lines
from drill_ladder.apps.practice.sessions.corrections import (
    AWAY,
    bring_back,
    correct,
    may_change,
    take_away,
)
from drill_ladder.apps.practice.sessions.forms import SessionForm, sum_answers
from drill_ladder.apps.practice.sessions.log_page import (
    form_to_correct,
    kept_key,
    log_context,
    recorded,
    session_form,
    shown_work,
    whom_to_ring,
)
from drill_ladder.apps.practice.sessions.services import (
    SessionInput,
    SetInput,
    judge_now,
    record_session,
)

__all__ = [
    "AWAY",
    "SessionForm",
    "SessionInput",
    "SetInput",
    "bring_back",
    "correct",
    "form_to_correct",
    "judge_now",
    "kept_key",
    "log_context",
    "may_change",
    "record_session",
    "recorded",
    "session_form",
    "set_lines",
    "shown_work",
    "sum_answers",
    "take_away",
    "whom_to_ring",
]
