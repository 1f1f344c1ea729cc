"""How fast can it be done cleanly? Sets at several tempos, and the next one to try
(docs/methods.md, 28).

Tempo as a share of full speed, twenty attempts before it is said: common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from drill_ladder.core.statistics.intervals import wilson
from drill_ladder.core.thresholds import TOLERANCE, at_most

USUAL = (0.5, 0.75, 1.0)
FEWEST = 20


@dataclass(frozen=True, slots=True)
class TempoSet:
    """A set at a tempo (0..1 of full speed). faulty: attempts with at least one fault."""

    tempo: float
    attempts: int
    makes: int
    faulty: int


@dataclass(frozen=True, slots=True)
class AtTempo:
    """All sets at one tempo. low, high: 95 % of fault_rate; clean: few enough faults, None of too
    few attempts; sure: by the interval's upper end too.
    """

    tempo: float
    attempts: int
    rate: float | None
    fault_rate: float | None
    low: float | None
    high: float | None
    clean: bool | None
    sure: bool | None


@dataclass(frozen=True, slots=True)
class Tempos:
    """What is clean, and what comes next; latest_clean: whether the last set kept the limit."""

    tempos: list[AtTempo]
    fastest_clean: float | None
    next: float | None
    latest_clean: bool | None


def tempo_of(sets: Sequence[TempoSet], limit: float, min_attempts: int = FEWEST) -> Tempos:
    """sets: oldest first; limit: share of attempts with a fault."""
    if not sets:
        return Tempos([], None, None, None)
    tempos = [
        _at(tempo, [s for s in sets if s.tempo == tempo], limit, min_attempts)
        for tempo in sorted({s.tempo for s in sets})
    ]
    fastest = _fastest_clean(tempos)
    last = sets[-1]
    latest = at_most(last.faulty / last.attempts, limit) if last.attempts else None
    return Tempos(tempos, fastest, _next(tempos, fastest, last.tempo, latest), latest)


def _at(tempo: float, sets: Sequence[TempoSet], limit: float, min_attempts: int) -> AtTempo:
    attempts, makes = sum(s.attempts for s in sets), sum(s.makes for s in sets)
    faulty = sum(s.faulty for s in sets)
    if not attempts:
        return AtTempo(tempo, 0, None, None, None, None, None, None)
    rate, (low, high) = faulty / attempts, wilson(faulty, attempts)
    clean = at_most(rate, limit) if attempts >= min_attempts else None
    sure = None if clean is None else clean and at_most(high, limit)
    return AtTempo(tempo, attempts, makes / attempts, rate, low, high, clean, sure)


def _fastest_clean(tempos: Sequence[AtTempo]) -> float | None:
    """The highest clean one below which none is known to be unclean."""
    fastest = None
    for tempo in tempos:
        if tempo.clean is False:
            break
        if tempo.clean:
            fastest = tempo.tempo
    return fastest


def _next(
    tempos: Sequence[AtTempo], fastest: float | None, last: float, latest: bool | None
) -> float | None:
    known = sorted({tempo.tempo for tempo in tempos} | set(USUAL))
    if latest is False:
        return max((t for t in known if t < last - TOLERANCE), default=last)
    if fastest is None:
        return tempos[0].tempo
    return next((t for t in known if t > fastest + TOLERANCE), None)
