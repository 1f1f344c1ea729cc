"""How a drill is scored: ten kinds of measure over the sets of a session.

Source of the kinds: docs/methods.md, 1 (common practice, no source).
"""

from abc import ABC, abstractmethod
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from statistics import fmean, median
from typing import ClassVar


class ScoreBy(StrEnum):
    """Which of several trials or windows is the score."""

    BEST = "best"
    MEAN = "mean"
    MEDIAN = "median"


@dataclass(frozen=True, slots=True)
class SetResult:
    """What one set recorded. None means not measured.

    attempts, makes, count, best_run, ticks: whole numbers >= 0; points: sum over the attempts;
    seconds: >= 0; share: 0..1 of the dose; faults: counts by kind, on good repetitions too, None
    where nobody counted; voids: attempts spoiled by a bad feed, kept, but neither make nor miss
    (see `coping`); heard: whether a phone counted it by ear.
    """

    lane: str | None = None
    attempts: int | None = None
    makes: int | None = None
    points: float | None = None
    seconds: float | None = None
    count: float | None = None
    best_run: int | None = None
    ticks: int | None = None
    share: float | None = None
    faults: Mapping[str, int] | None = field(default_factory=dict)
    voids: int = 0
    heard: bool = False

    @property
    def fault_total(self) -> int:
        """All faults that were counted."""
        return sum(self.faults.values()) if self.faults else 0


def coping(s: SetResult) -> SetResult:
    """The set where a ladder holds that the receiver must cope: spoiled attempts count as
    misses.
    """
    return replace(s, attempts=(s.attempts or 0) + s.voids, voids=0) if s.voids else s


@dataclass(frozen=True, slots=True)
class Dose:
    """What is prescribed: sets, reps per set and lane (None: not counted), rest and pace in
    seconds. stop_drop: share by which a round may be slower than the best so far; the block ends
    with the first one that is slower (times only; None: never).
    """

    sets: int = 1
    reps: int | None = None
    rest_s: float = 0
    s_per_rep: float | None = None
    stop_drop: float | None = None


Sets = Sequence[SetResult]
ONE_TRY_S = 20.0  # of a try whose length nothing tells: common practice, no source
ONE_SHARE_S = 60.0  # of work that is just done


@dataclass(frozen=True, slots=True)
class Measure(ABC):
    """Common ground of all kinds: everything that the core asks of one is asked here. `done` and
    `asked` are in the kind's own unit of work, per lane.

    ends_at: the best score of every measure of the kind. counts_makes: good ones are counted out of
    attempts; is_timed: a clock is the score; rated: ticked, rated or just done, which tells little
    about how good somebody is. counts_attempts: a set's repetitions are attempts. repeats: a set is
    so many repetitions, and as long as they. in_rows: a set is a row of good ones and misses that
    ends itself, and counts for nothing while it is under way.
    """

    kind: ClassVar[str]
    higher_is_better: ClassVar[bool] = True
    ends_at: ClassVar[float | None] = None
    counts_makes: ClassVar[bool] = False
    is_timed: ClassVar[bool] = False
    rated: ClassVar[bool] = False
    counts_attempts: ClassVar[bool] = False
    repeats: ClassVar[bool] = False
    in_rows: ClassVar[bool] = False

    @property
    def most(self) -> float | None:
        """The best score there can be; None where there is no end."""
        return self.ends_at

    @property
    def window(self) -> float | None:
        """Seconds that a set lasts; None where nothing ends it by the clock."""
        return None

    @property
    def penalty_s(self) -> float:
        """Seconds that each fault costs."""
        return 0.0

    @property
    def is_share(self) -> bool:
        """Whether the score is a rate from 0 to 1."""
        return self.ends_at == 1

    def trials(self, dose: Dose) -> int:
        """How many results one lane is asked for."""
        return dose.sets

    def parts(self, dose: Dose, attempts: int) -> int:
        """Of how many whole units a day's score is told (at least 1). attempts: asked of it."""
        return max(1, dose.sets)

    def work_s(self, dose: Dose, reps: int | None, target: float | None, each_s: float) -> float:
        """Seconds of work in one set and lane. target: in the measure's own unit; each_s: of one
        repetition, where the dose does not say.
        """
        return ONE_TRY_S if reps is None else reps * (dose.s_per_rep or each_s)

    def over(self, attempts: int, makes: int, reps: int | None) -> bool:
        """Whether a row of strokes is one whole set."""
        return reps is not None and attempts >= reps

    def tried(self, makes: int, asked: int | None) -> int:
        """Attempts of a set of which the good ones alone were told."""
        return max(asked or 0, makes)

    def asked(self, dose: Dose) -> float:
        """Work prescribed for one lane."""
        return dose.sets

    @abstractmethod
    def done(self, sets: Sets, dose: Dose) -> float:
        """Work found in the sets."""

    @abstractmethod
    def score(self, sets: Sets) -> float | None:
        """The score over all the sets together; None without data."""


class _PerAttempt(Measure):
    """Work is counted in attempts; without prescribed reps, in set entries."""

    __slots__ = ()
    counts_attempts: ClassVar[bool] = True
    repeats: ClassVar[bool] = True

    def asked(self, dose: Dose) -> float:
        return dose.sets if dose.reps is None else dose.sets * dose.reps

    def done(self, sets: Sets, dose: Dose) -> float:
        counted = [s.attempts for s in sets if s.attempts is not None]
        return len(counted) if dose.reps is None else sum(counted)


@dataclass(frozen=True, slots=True)
class Makes(_PerAttempt):
    """Good ones out of attempts; the score is a rate 0..1."""

    kind: ClassVar[str] = "makes"
    counts_makes: ClassVar[bool] = True
    ends_at: ClassVar[float | None] = 1.0

    def score(self, sets: Sets) -> float | None:
        attempts, makes = made_of(sets)
        return makes / attempts if attempts else None


def made_of(sets: Sets) -> tuple[int, int]:
    """(attempts, makes) summed over the sets in which both were counted."""
    attempts = makes = 0
    for s in sets:
        if s.attempts is not None and s.makes is not None:
            attempts += s.attempts
            makes += s.makes
    return attempts, makes


def faults_by_name(counted: Iterable[Mapping[str, int] | None]) -> Counter[str]:
    """Faults by their names, summed over sets; of a set where nobody counted (None) none."""
    total = Counter[str]()
    for faults in counted:
        total.update(faults or {})
    return total


@dataclass(frozen=True, slots=True)
class Landing:
    """Where an attempt ends (a sector, a number of steps, a share of the way), and its points."""

    name: str
    points: int


@dataclass(frozen=True, slots=True)
class Points(_PerAttempt):
    """Points of 0..max for every attempt; the score is the mean per attempt. landings: what brings
    how many, so that each attempt is told by where it ended (empty: by its points).
    """

    max: float = 3
    landings: tuple[Landing, ...] = ()
    kind: ClassVar[str] = "points"
    rated: ClassVar[bool] = True

    @property
    def most(self) -> float:
        return self.max

    def parts(self, dose: Dose, attempts: int) -> int:
        return max(1, round(max(1, attempts) * self.max))

    def score(self, sets: Sets) -> float | None:
        scored = [s for s in sets if s.attempts and s.points is not None]
        attempts = sum(s.attempts or 0 for s in scored)
        return sum(s.points or 0 for s in scored) / attempts if attempts else None


@dataclass(frozen=True, slots=True)
class Time(Measure):
    """Seconds per trial plus a penalty for each fault; lower is better."""

    score_by: ScoreBy = ScoreBy.BEST
    fault_penalty_s: float = 0
    kind: ClassVar[str] = "time"
    is_timed: ClassVar[bool] = True
    higher_is_better: ClassVar[bool] = False

    @property
    def penalty_s(self) -> float:
        return self.fault_penalty_s

    def trials(self, dose: Dose) -> int:
        return dose.sets * (dose.reps or 1)

    def work_s(self, dose: Dose, reps: int | None, target: float | None, each_s: float) -> float:
        return (dose.reps or 1) * (target or ONE_TRY_S)

    def asked(self, dose: Dose) -> float:
        return dose.sets * (1 if dose.reps is None else dose.reps)

    def done(self, sets: Sets, dose: Dose) -> float:
        return sum(1 for s in sets if s.seconds is not None)

    def score(self, sets: Sets) -> float | None:
        penalty = self.fault_penalty_s
        trials = [s.seconds + penalty * s.fault_total for s in sets if s.seconds is not None]
        if not trials:
            return None
        if self.score_by == ScoreBy.BEST:
            return min(trials)
        return fmean(trials) if self.score_by == ScoreBy.MEAN else float(median(trials))


@dataclass(frozen=True, slots=True)
class Count(Measure):
    """Repetitions in a fixed window of seconds."""

    window_s: float = 60
    score_by: ScoreBy = ScoreBy.BEST
    kind: ClassVar[str] = "count"

    @property
    def window(self) -> float:
        return self.window_s

    def work_s(self, dose: Dose, reps: int | None, target: float | None, each_s: float) -> float:
        return self.window_s

    def done(self, sets: Sets, dose: Dose) -> float:
        return sum(1 for s in sets if s.count is not None)

    def score(self, sets: Sets) -> float | None:
        counts = [s.count for s in sets if s.count is not None]
        if not counts:
            return None
        return fmean(counts) if self.score_by == ScoreBy.MEAN else max(counts)


@dataclass(frozen=True, slots=True)
class Checklist(Measure):
    """Checkpoints seen out of those looked for; the score is the mean share."""

    items: tuple[str, ...] = ()
    kind: ClassVar[str] = "checklist"
    rated: ClassVar[bool] = True
    ends_at: ClassVar[float | None] = 1.0
    repeats: ClassVar[bool] = True

    def parts(self, dose: Dose, attempts: int) -> int:
        return max(1, dose.sets * len(self.items))

    def done(self, sets: Sets, dose: Dose) -> float:
        return sum(1 for s in sets if s.ticks is not None)

    def score(self, sets: Sets) -> float | None:
        seen = [s.ticks / len(self.items) for s in sets if s.ticks is not None]
        return fmean(seen) if seen else None


@dataclass(frozen=True, slots=True)
class Done(Measure):
    """The share of the dose that was completed."""

    kind: ClassVar[str] = "done"
    rated: ClassVar[bool] = True
    ends_at: ClassVar[float | None] = 1.0

    def work_s(self, dose: Dose, reps: int | None, target: float | None, each_s: float) -> float:
        return dose.s_per_rep or ONE_SHARE_S

    def done(self, sets: Sets, dose: Dose) -> float:
        return sum(s.share or 0 for s in sets)

    def score(self, sets: Sets) -> float | None:
        shares = [s.share for s in sets if s.share is not None]
        return fmean(shares) if shares else None


def volume_reps(s: SetResult, dose: Dose) -> float:
    """Repetitions that one set adds to a volume rule: attempts, else count, else share of the dose,
    else 1.
    """
    if s.attempts is not None:
        return s.attempts
    if s.count is not None:
        return s.count
    if s.share is not None:
        return s.share * (dose.reps or 1)
    return 1
