"""Advancement rules: six schools of when to move a player on, and the gates on top of them.

The schools and gates are common practice (no published source).
"""

from dataclasses import dataclass
from enum import StrEnum


class Trust(StrEnum):
    """Whose eyes a climb needs."""

    ANY = "any"
    LAST_PASS_OBSERVED = "last_pass_observed"
    OBSERVED_ONLY = "observed_only"


@dataclass(frozen=True, slots=True)
class InARow:
    """`passes` passing sessions in a row, up to now. One pass is one in a row."""

    passes: int = 1

    @property
    def name(self) -> str:
        """The school's name in the formats."""
        return "one_pass" if self.passes == 1 else "in_a_row"


@dataclass(frozen=True, slots=True)
class Window:
    """`passes` passes among the last `of` counted sessions (or among fewer, if there are fewer)."""

    passes: int
    of: int
    name = "window"


@dataclass(frozen=True, slots=True)
class Evidence:
    """P(true rate >= target) >= confidence, sets fading with a half-life in sessions. Makes
    only.
    """

    confidence: float
    half_life: float
    name = "evidence"


@dataclass(frozen=True, slots=True)
class Volume:
    """That many reps, or that many full sessions, done at the rung; exactly one of the two."""

    reps: int | None = None
    sessions: int | None = None
    name = "volume"


@dataclass(frozen=True, slots=True)
class ByCoach:
    """Nothing is proposed upwards: the coach says when."""

    name = "by_coach"


School = InARow | Window | Evidence | Volume | ByCoach
DEFAULT_HALF_LIFE = 3.0


@dataclass(frozen=True, slots=True)
class Rule:
    """A school with its gates. None switches skip_at, stall_after and layoff_days off.

    min_days_between, layoff_days: calendar days; low_in_a_row, stall_after, min_sessions: full
    sessions; skip_at: rate 0..1; min_share: share 0..1 of the dose.
    """

    school: School
    min_days_between: int = 1
    min_sessions: int = 1
    trust: Trust = Trust.ANY
    low_in_a_row: int = 2
    stall_after: int | None = 6
    skip_at: float | None = 0.95
    layoff_days: int | None = 21
    min_share: float = 0.8

    @property
    def half_life(self) -> float:
        """Half-life in sessions with which older sets fade (3 for schools that name none)."""
        return self.school.half_life if isinstance(self.school, Evidence) else DEFAULT_HALF_LIFE
