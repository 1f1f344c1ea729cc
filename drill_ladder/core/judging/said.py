"""A decision as it was said: kept word for word beside what a coach made of it, or with the session
that led to it.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from drill_ladder.core.judging.reasons import Advice, Kind, Missing, Number
from drill_ladder.core.judging.verdicts import Verdict


@dataclass(frozen=True, slots=True)
class Ahead:
    """What comes next for a player: the proposal, the rung it leads to (None: none), what is
    missing for a climb.
    """

    kind: Kind
    to: str | None
    missing: tuple[Missing, ...] = ()


@dataclass(frozen=True, slots=True)
class SaidDay:
    """A day as it was judged: verdict, score in the measure's unit, lane by lane where each lane is
    asked.
    """

    on: date
    verdict: Verdict
    score: float | None
    lanes: Mapping[str, float | None]


@dataclass(frozen=True, slots=True)
class SaidReason:
    """A reason with its sentence and the numbers behind it."""

    code: Kind | Advice
    text: str
    numbers: Mapping[str, Number]


@dataclass(frozen=True, slots=True)
class Said:
    """A whole decision: what is ahead, why, and the days that it rests on; odds_next: on
    hold only.
    """

    ahead: Ahead
    reasons: tuple[SaidReason, ...]
    days: tuple[SaidDay, ...]
    odds_next: float | None = None

    @property
    def kind(self) -> Kind:
        """What is proposed."""
        return self.ahead.kind
