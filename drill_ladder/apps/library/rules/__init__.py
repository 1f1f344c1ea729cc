"""Rules of advancement, with their odds."""

from drill_ladder.apps.library.rules.forms import RuleForm, first_values
from drill_ladder.apps.library.rules.odds import (
    LONGEST,
    NAMES,
    USUAL,
    WHO,
    Marks,
    Numbers,
    Risks,
    choices,
    marks_at,
    marks_of,
    numbers_of,
    risks,
    school_of,
    session_of,
)

__all__ = [
    "LONGEST",
    "NAMES",
    "USUAL",
    "WHO",
    "Marks",
    "Numbers",
    "Risks",
    "RuleForm",
    "choices",
    "first_values",
    "marks_at",
    "marks_of",
    "numbers_of",
    "risks",
    "school_of",
    "session_of",
]
