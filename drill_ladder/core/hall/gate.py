"""What a timing gate saw, made into runs: a start beam, a finish beam, and all that goes wrong with
them.

The gate has one clock of its own, in milliseconds since it was switched on. A runner breaks a beam
more than once (an arm, a leg): the first break of a burst counts (common practice, no source).
Events may come late, doubled and in any order; the same events give the same runs.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

BURST_MS = 400  # breaks of one beam so close together are one runner
STUCK_MS = 8_000  # a beam that is broken for longer is in nobody's way but its own
LONGEST_MS = 600_000  # no run takes ten minutes
DRIFT = 0.002  # share by which a clock may run wrong before its seconds are doubted
JITTER_MS = 400  # a message may be under way for so long


class Beam(StrEnum):
    """Which beam."""

    START = "start"
    FINISH = "finish"


@dataclass(frozen=True, slots=True)
class Beat:
    """A beam broken (or clear again) at a moment of the gate's clock, ms."""

    beam: Beam
    broken: bool
    at: int


class Doubt(StrEnum):
    """Why a run is not to be trusted as it is."""

    STUCK = "a beam stayed broken"
    DRIFT = "the gate’s clock runs wrong"
    TOO_LONG = "longer than ten minutes"


@dataclass(frozen=True, slots=True)
class Run:
    """From the start beam to the finish beam, ms of the gate's clock."""

    start: int
    finish: int
    doubts: tuple[Doubt, ...] = ()

    @property
    def seconds(self) -> float:
        """To a hundredth."""
        return round((self.finish - self.start) / 1000, 2)


@dataclass(frozen=True, slots=True)
class Seen:
    """runs: in their order; lone: finishes without a start; open: a start that waits for its
    finish, None where there is none; stuck: beams that are broken and stay so.
    """

    runs: list[Run]
    lone: int
    open: int | None
    stuck: tuple[Beam, ...]


def runs_of(beats: Iterable[Beat], now: int | None = None) -> Seen:
    """now: the gate's clock as it is last known, for beams that are still broken."""
    ordered = sorted(set(beats), key=lambda one: (one.at, one.beam, not one.broken))
    last = max([*(one.at for one in ordered), now or 0], default=0)
    stuck = {beam: _stuck_spans(ordered, beam, last) for beam in Beam}
    runs: list[Run] = []
    start: int | None = None
    lone = 0
    for beat in _firsts(ordered):
        if beat.beam is Beam.START:
            start = beat.at  # whoever started before came back, or never arrived
        elif start is None:
            lone += 1
        else:
            runs.append(Run(start, beat.at, _doubts(start, beat.at, stuck)))
            start = None
    held = tuple(beam for beam in Beam if any(end >= last for _, end in stuck[beam]))
    return Seen(runs, lone, start, held)


def _firsts(ordered: Sequence[Beat]) -> list[Beat]:
    """The breaks that begin a burst."""
    latest: dict[Beam, int] = {}
    firsts = []
    for beat in ordered:
        if not beat.broken:
            continue
        before = latest.get(beat.beam)
        latest[beat.beam] = beat.at
        if before is None or beat.at - before > BURST_MS:
            firsts.append(beat)
    return firsts


def _stuck_spans(ordered: Sequence[Beat], beam: Beam, last: int) -> list[tuple[int, int]]:
    """When the beam was broken for too long, from the break on."""
    spans, broken = [], None
    for beat in ordered:
        if beat.beam is not beam:
            continue
        if beat.broken and broken is None:
            broken = beat.at
        elif not beat.broken and broken is not None:
            spans.append((broken, beat.at))
            broken = None
    if broken is not None:
        spans.append((broken, last))
    return [(begin, end) for begin, end in spans if end - begin > STUCK_MS]


def _doubts(start: int, finish: int, stuck: dict[Beam, list[tuple[int, int]]]) -> tuple[Doubt, ...]:
    spans = stuck[Beam.START] + stuck[Beam.FINISH]
    found = []
    if any(begin <= finish and start <= end for begin, end in spans):
        found.append(Doubt.STUCK)
    if finish - start > LONGEST_MS:
        found.append(Doubt.TOO_LONG)
    return tuple(found)


def drift_of(marks: Sequence[tuple[int, int]]) -> float | None:
    """How much faster than ours the gate's clock runs, as a share (0.01: by a hundredth); None
    where messages do not lie far enough apart to tell it from their delays.

    marks: (the gate's clock when a message was sent, ours when it came), ms. Source: the slope of
    the lower envelope, from the two least delayed messages of the first and the second half.
    """
    if len(marks) < 2:
        return None
    ordered = sorted(set(marks))
    middle = len(ordered) // 2
    first = min(ordered[:middle], key=lambda one: one[1] - one[0])
    second = min(ordered[middle:], key=lambda one: one[1] - one[0])
    span = second[1] - first[1]
    if span <= 0 or JITTER_MS / span > DRIFT:
        return None
    return (second[0] - first[0]) / span - 1


def drifts(marks: Sequence[tuple[int, int]]) -> bool:
    """Whether a gate's clock runs so wrong that its seconds are to be doubted."""
    found = drift_of(marks)
    return found is not None and abs(found) > DRIFT
