"""From faults to the next thing: which fault is worth treating, and which cue to give
(docs/methods.md, 20).
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

RECENT = 4
SHRINK_MISSES = 5
YOUNG, CUES_FOR_THE_YOUNG = 8, 2


@dataclass(frozen=True, slots=True)
class Misses:
    """Misses of one session and their kinds; misses without a kind are in `misses` alone."""

    misses: int
    faults: Mapping[str, int]


@dataclass(frozen=True, slots=True)
class Treatment:
    """What treats a fault: a cue, a rung or a drill (any of them may be empty)."""

    cue: str = ""
    rung: str = ""
    drill: str = ""


@dataclass(frozen=True, slots=True)
class Ranked:
    """A fault with its count and its shrunk share of the misses, by which it is ranked; of: the
    misses that it was counted among.
    """

    fault: str
    count: int
    share: float
    of: int

    @property
    def counted(self) -> float:
        """Its share as it was counted: what is printed beside a count."""
        return self.count / self.of


def ranked(sessions: Sequence[Misses]) -> list[Ranked]:
    """Faults of the last four sessions, the commonest first; sessions oldest first.

    Shares are shrunk as if five misses more had been spread over all kinds: our choice, so that one
    bad ball does not become a programme.
    """
    recent = sessions[-RECENT:]
    counts: Counter[str] = Counter()
    for session in recent:
        counts.update(session.faults)
    counts += Counter()  # kinds counted zero times are no faults
    misses = max(sum(s.misses for s in recent), counts.total())
    kinds = len(counts)
    shares = [
        Ranked(fault, n, (n + SHRINK_MISSES / kinds) / (misses + SHRINK_MISSES), misses)
        for fault, n in counts.items()
    ]
    return sorted(shares, key=lambda r: (-r.share, r.fault))


def worth_treating(sessions: Sequence[Misses], known: Mapping[str, Treatment]) -> Ranked | None:
    """The commonest fault that something treats; else the commonest; None without faults."""
    found = ranked(sessions)
    treated = [r for r in found if r.fault in known]
    return next(iter(treated or found), None)


def cue_for_set(
    sessions: Sequence[Misses], known: Mapping[str, Treatment], number: int, age: int | None
) -> str | None:
    """ONE cue for the set of this number (from 1): the worst fault's, then the next one's in turn.

    At most two different cues a session for under-eights, three for others. age in years, None when
    unknown.
    """
    cues = [known[r.fault].cue for r in ranked(sessions) if r.fault in known and known[r.fault].cue]
    cues = list(dict.fromkeys(cues))[: CUES_FOR_THE_YOUNG if age is not None and age < YOUNG else 3]
    return cues[(number - 1) % len(cues)] if cues else None


def before_and_after(
    sessions: Sequence[Misses], fault: str, treated_from: int
) -> tuple[float | None, float | None]:
    """The fault's share of the misses before and since it was treated (index of the first session
    under treatment).
    """

    def share(part: Sequence[Misses]) -> float | None:
        misses = sum(s.misses for s in part)
        return sum(s.faults.get(fault, 0) for s in part) / misses if misses else None

    return share(sessions[:treated_from]), share(sessions[treated_from:])
