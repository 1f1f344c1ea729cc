"""Targets, rungs and ladders."""

from dataclasses import dataclass
from enum import StrEnum

from drill_ladder.core.errors import CoreError
from drill_ladder.core.judging.calling import Caller
from drill_ladder.core.judging.measures import Dose, Measure
from drill_ladder.core.judging.rules import Rule
from drill_ladder.core.thresholds import rounded_up


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
class Rung:
    """One step of a ladder. floor: worse than this is low, in the measure's unit; ease: note on the
    eased variant.

    What is not judged by, but goes along: intent; tempo, a share of full speed, and tempo_high, up
    to which it may rise while it stays clean; caller; reps_high, the
    upper end of a dose band whose lower end is the dose's reps, and sets_high that of its sets;
    minutes, where the dose is given in minutes; success, the band that is expected here, in the
    measure's unit; hits_a_second, the most that a phone which counts by ear is to hear, and
    silence_s, how long a silence ends a run.
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
