"""A decision as it was said: kept word for word beside what a coach made of it, or with the session
that led to it.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from drill_ladder.core.judging.reasons import Advice, Kind, Missing, Number


@dataclass(frozen=True, slots=True)
class Ahead:
    """What comes next for a player: the proposal, the rung it leads to (None: none), what is
    missing for a climb.
    """

    kind: Kind
    to: str | None
    missing: tuple[Missing, ...] = ()


@dataclass(frozen=True, slots=True)
class SaidReason:
    """A reason with its sentence and the numbers behind it."""

    code: Kind | Advice
    text: str
    numbers: Mapping[str, Number]


@dataclass(frozen=True, slots=True)
class Said:
    """A whole decision: what is ahead and why; odds_next: on hold only. The days that it rests on
    are kept by themselves.
    """

    ahead: Ahead
    reasons: tuple[SaidReason, ...]
    odds_next: float | None = None
