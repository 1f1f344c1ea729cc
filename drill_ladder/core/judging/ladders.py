"""Targets, rungs and ladders; and advancement rules: six schools of when to move a player on, and
the gates on top of them.

The schools and gates are common practice (no published source).
"""

from dataclasses import dataclass
from enum import StrEnum

from drill_ladder.core.errors import CoreError
from drill_ladder.core.judging.calling import Caller
from drill_ladder.core.judging.measures import Dose, Measure
from drill_ladder.core.thresholds import rounded_up


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


class Intent(StrEnum):
    """What a block is for."""

    SPEED = "speed"
    ENDURANCE = "endurance"
    SKILL = "skill"
    PRESSURE = "pressure"


@dataclass(frozen=True, slots=True)
class Target:
    """When it is good enough: makes of attempts, or a value in the measure's own unit.

    form_min: share 0..1; faults_max: all faults of a day together.
    """

    makes: int | None = None
    of: int | None = None
    value: float | None = None
    each_lane: bool = False
    form_min: float | None = None
    faults_max: int | None = None

    @property
    def rate(self) -> float:
        """The target as a rate 0..1 (makes only)."""
        if self.makes is not None and self.of:
            return self.makes / self.of
        return self.value or 0.0

    def makes_needed(self, attempts: int) -> int:
        """Makes asked on this many attempts, rounded up; whole-number arithmetic where it
        can be.
        """
        if self.makes is not None and self.of:
            return -(-self.makes * attempts // self.of)
        return rounded_up((self.value or 0.0) * attempts)


@dataclass(frozen=True, slots=True)
class ByAge:
    """What a rung asks of players up to an age, full years (None: of all who are older), as a
    distance, a height, a ball: in the coach's words.
    """

    to: int | None
    how: str


@dataclass(frozen=True, slots=True)
class Rung:
    """One step of a ladder. floor: worse than this is low, in the measure's unit; ease: note on the
    eased variant.

    What is not judged by, but goes along: intent; tempo, a share of full speed, and tempo_high, up
    to which it may rise while it stays clean; caller; reps_high, the
    upper end of a dose band whose lower end is the dose's reps, and sets_high that of its sets;
    minutes, where the dose is given in minutes; success, the band that is expected here, in the
    measure's unit; hits_a_second, the most that a phone which counts by ear is to hear, and
    silence_s, how long a silence ends a run; turns, the lanes in the order in which attempts change
    over, again and again (empty: one lane after the other); rest_each_s, between any two attempts;
    ease_faults: from so many faults of one kind on the easier way is offered; rest_ready: a rest
    goes on until the player is ready, its seconds are the least; slow_first_s: each set begins with
    a slow one that is not counted, and so many seconds of rest after it; by_age: what differs by
    age, from young to old; feeds: how it may be fed, from gentle to hard: the last is the one that
    is asked, those before it lead there; finish_good: so many good ones, not counted, end each set.
    """

    id: str
    measure: Measure
    dose: Dose
    target: Target
    title: str = ""
    lanes: tuple[str, ...] = ()
    floor: float | None = None
    ease: str | None = None
    axis: tuple[str, ...] = ()
    rule: Rule | None = None
    intent: Intent = Intent.SKILL
    tempo: float | None = None
    reps_high: int | None = None
    sets_high: int | None = None
    minutes: int | None = None
    success: tuple[float, float] | None = None
    tempo_high: float | None = None
    caller: Caller | None = None
    hits_a_second: float | None = None
    silence_s: float | None = None
    turns: tuple[str, ...] = ()
    rest_each_s: float | None = None
    ease_faults: int | None = None
    rest_ready: bool = False
    slow_first_s: float | None = None
    by_age: tuple[ByAge, ...] = ()
    feeds: tuple[str, ...] = ()
    finish_good: int | None = None

    @property
    def reps_per_set(self) -> int | None:
        """Attempts of one set: the dose's reps, else the target's `of`."""
        return self.dose.reps if self.dose.reps is not None else self.target.of

    @property
    def is_open(self) -> bool:
        """Whether its dose is a band, or minutes: the day decides how many there are."""
        by_minutes = self.minutes is not None and self.dose.reps is None
        bands = self.reps_high is not None or self.sets_high is not None
        return bands or (by_minutes and self.measure.counts_attempts)

    @property
    def default_attempts(self) -> int:
        """Attempts that one judged unit is asked for; 0 when the dose counts none."""
        lanes = 1 if self.target.each_lane else max(1, len(self.lanes))
        return self.dose.sets * (self.reps_per_set or 0) * lanes

    @property
    def counts_makes(self) -> bool:
        """Whether the rung is scored in makes."""
        return self.measure.counts_makes


@dataclass(frozen=True, slots=True)
class Ladder:
    """Rungs from the easiest to the hardest, and the rule where a rung has none of its own."""

    rungs: tuple[Rung, ...]
    rule: Rule

    def index(self, rung_id: str) -> int:
        """Position of a rung, from 0. Raises CoreError for an id that is not on the ladder."""
        for i, rung in enumerate(self.rungs):
            if rung.id == rung_id:
                return i
        raise CoreError(f"rung {rung_id!r} is not on the ladder")

    def rule_at(self, index: int) -> Rule:
        """The rule in force at a rung: its own whole, else the ladder's."""
        return self.rungs[index].rule or self.rule
