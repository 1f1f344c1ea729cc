"""Machine codes of decisions, reasons and what is missing. The sentences are made at the edge
(formats.sentences).
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum

Number = float | int | str | date | None


class Kind(StrEnum):
    """What the core proposes."""

    REST = "rest"
    RECHECK = "recheck"
    WAIT = "wait"
    SKIP = "skip"
    CLIMB = "climb"
    FINISH = "finish"
    CHECK = "check"
    EASE = "ease"
    STEP_DOWN = "step_down"
    STALLED = "stalled"
    HOLD = "hold"


class Advice(StrEnum):
    """What to try, and notes beside a decision."""

    WEAKEST_LANE = "weakest_lane"
    FORM = "form"
    COMMON_FAULT = "common_fault"
    HALF_STEP = "half_step"
    EASIER_RUNG = "easier_rung"
    EASED_MET = "eased_met"
    UNEASY = "uneasy"
    GENTLER_FEED = "gentler_feed"


class Lacking(StrEnum):
    """What is still missing for a climb."""

    PASSES = "passes"
    SESSIONS = "sessions"
    REPS = "reps"
    SCORE = "score"
    LANE = "lane"
    FORM = "form"
    FAULTS = "faults"
    CONFIDENCE = "confidence"
    DAYS = "days"
    DOSE = "dose"
    LOW = "low"
    TRUST = "trust"
    COACH = "coach"


@dataclass(frozen=True, slots=True)
class Reason:
    """A code with the numbers that stand behind it."""

    code: Kind | Advice
    numbers: Mapping[str, Number] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Missing:
    """One thing that is missing, with its numbers."""

    code: Lacking
    numbers: Mapping[str, Number] = field(default_factory=dict)
