"""The verdict on one day: short, pass, low or near (docs/methods.md, 2)."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from typing import NamedTuple

from drill_ladder.core.judging.ladders import Rung
from drill_ladder.core.judging.measures import Sets, made_of
from drill_ladder.core.judging.sessions import Day
from drill_ladder.core.thresholds import TOLERANCE, at_least, good_enough, worse_than


class Verdict(StrEnum):
    """How one day went."""

    SHORT = "short"
    PASS = "pass"
    LOW = "low"
    NEAR = "near"


@dataclass(frozen=True, slots=True)
class Lack:
    """What kept a score under its target. lane is None where all sets are judged together."""

    lane: str | None
    have: float | None
    need: float


class Judged(NamedTuple):
    """A day with its verdict. met: the target, form and faults hold (an eased day can meet, never
    pass).

    A named tuple, like Day, because there is one for every day ever judged and it is three times as
    quick to make.
    """

    day: Day
    verdict: Verdict
    met: bool
    score: float | None
    lanes: Mapping[str, float | None]

    @property
    def on(self) -> date:
        """The calendar day."""
        return self.day.on

    @property
    def full(self) -> bool:
        """Whether enough of the dose was done to be judged at all."""
        return self.verdict is not Verdict.SHORT


# What the sets of one judged unit come to: (work done, score, target reached)
_Seen = tuple[float, float | None, bool]


_NOTHING = (0, 0, 0)


class Yardstick:
    """A rung as one day is measured by it; what is the same for every day is worked out once."""

    __slots__ = (
        "by_entry",
        "each_lane",
        "least",
        "lowest",
        "makes",
        "measure",
        "plain",
        "rung",
        "target",
    )

    def __init__(self, rung: Rung, min_share: float) -> None:
        """min_share: 0..1 of the dose under which a day is short (in any lane, where each lane is
        asked).
        """
        self.rung, self.measure, self.target = rung, rung.measure, rung.target
        self.makes = rung.measure.counts_makes
        self.each_lane = rung.target.each_lane
        self.least = max(min_share * asked_work(rung) - TOLERANCE, 0.0)
        self.lowest = rung.floor
        self.by_entry = rung.dose.reps is None
        self.plain = rung.target.form_min is None and not asks_for_faults(rung)

    def judge(self, day: Day) -> Judged:
        """Judge a day. The first that applies: short, pass, low, near."""
        units, score, lanes = self._makes(day.sets) if self.makes else self._others(day)
        short, met = (
            False,
            self.plain or (form_holds(self.rung, day) and faults_hold(self.rung, day)),
        )
        for done, _, reached in units:
            short = short or done <= self.least
            met = met and reached
        if short:
            verdict = Verdict.SHORT
        elif met and not day.eased:
            verdict = Verdict.PASS
        elif self.lowest is not None and any([self._is_low(unit[1]) for unit in units]):
            verdict = Verdict.LOW
        else:
            verdict = Verdict.NEAR
        return Judged(day, verdict, met, score, lanes)

    def _makes(self, sets: Sets) -> tuple[list[_Seen], float | None, dict[str, float | None]]:
        """(Judged units, overall score, scores by lane) in one pass: makes are most of what there
        is to judge.
        """
        sums: dict[str | None, list[int]] = {}
        done = attempts = makes = 0
        for s in sets:
            tried = s.attempts
            if tried is None:
                continue
            lane = sums.get(s.lane)
            if lane is None:
                lane = sums[s.lane] = [0, 0, 0]
            work = 1 if self.by_entry else tried
            done += work
            lane[0] += work
            if s.makes is not None:
                attempts += tried
                makes += s.makes
                lane[1] += tried
                lane[2] += s.makes
        units = [self._of_makes(*sums.get(lane, _NOTHING)) for lane in self.rung.lanes]
        lanes = {lane: unit[1] for lane, unit in zip(self.rung.lanes, units, strict=True)}
        whole = makes / attempts if attempts else None
        return units if self.each_lane else [self._of_makes(done, attempts, makes)], whole, lanes

    def _of_makes(self, done: int, attempts: int, makes: int) -> _Seen:
        if not attempts:
            return done, None, False
        return done, makes / attempts, makes >= self.target.makes_needed(attempts)

    def _others(self, day: Day) -> tuple[list[_Seen], float | None, dict[str, float | None]]:
        """Work, score and target of every other kind of measure."""
        by_lane = sets_by_lane(self.rung, day)
        units = [
            self._seen(sets, done_of(self.rung, day, lane))
            for lane, sets in (by_lane if self.each_lane else {None: day.sets}).items()
        ]
        lanes = {lane: self.measure.score(sets) for lane, sets in by_lane.items()}
        return units, self.measure.score(day.sets), lanes

    def _seen(self, sets: Sets, done: float) -> _Seen:
        score = self.measure.score(sets)
        if score is None:
            return done, None, False
        return (
            done,
            score,
            good_enough(score, self.target.value or 0.0, self.measure.higher_is_better),
        )

    def _is_low(self, score: float | None) -> bool:
        if score is None or self.lowest is None:
            return False
        return worse_than(score, self.lowest, self.measure.higher_is_better)


def judge(rung: Rung, min_share: float, day: Day) -> Judged:
    """Judge one day at a rung."""
    return Yardstick(rung, min_share).judge(day)


def sets_by_lane(rung: Rung, day: Day) -> dict[str, Sets]:
    """The day's sets of each of the rung's lanes, in the rung's order; {} without lanes."""
    if not rung.lanes:
        return {}
    lanes: dict[str, list] = {lane: [] for lane in rung.lanes}
    for s in day.sets:
        if s.lane is not None:
            lanes[s.lane].append(s)
    return dict(lanes)


def asked_work(rung: Rung) -> float:
    """Work asked of one judged unit: a lane where each lane is asked, otherwise all lanes
    together.
    """
    lanes = 1 if rung.target.each_lane else max(1, len(rung.lanes))
    return rung.measure.asked(rung.dose) * lanes


def done_of(rung: Rung, day: Day, lane: str | None = None) -> float:
    """Work done in one judged unit: a lane where each lane is asked, else the whole day. A lane
    that stopped itself has done its whole dose, a series without a lane that of the day.
    """
    measure, dose = rung.measure, rung.dose
    if rung.target.each_lane:
        done = measure.done([s for s in day.sets if s.lane == lane], dose)
        return max(done, measure.asked(dose)) if lane in day.stopped else done
    if not day.stopped:
        return measure.done(day.sets, dose)
    if None in day.stopped:
        return max(measure.done(day.sets, dose), asked_work(rung))
    return sum(
        max(done, measure.asked(dose)) if each in day.stopped else done
        for each in {s.lane for s in day.sets}
        for done in [measure.done([s for s in day.sets if s.lane == each], dose)]
    )


def dose_done(rung: Rung, day: Day | None) -> tuple[float, float]:
    """(Done, asked) of the dose on a day, all judged lanes together."""
    lanes: Sequence[str | None] = rung.lanes if rung.target.each_lane else (None,)
    asked = asked_work(rung) * len(lanes)
    return (sum(done_of(rung, day, lane) for lane in lanes) if day else 0), asked


def lane_met(rung: Rung, sets: Sets) -> bool:
    """Whether the sets reach the target (form and faults apart)."""
    return lack(rung, None, sets) is None


def lack(rung: Rung, lane: str | None, sets: Sets) -> Lack | None:
    """What the sets lack to the target, or None when it is met. For makes in whole makes, rounded
    up.
    """
    if rung.measure.counts_makes:
        attempts, makes = made_of(sets)
        need = rung.target.makes_needed(attempts or rung.default_attempts)
        if attempts and makes >= need:
            return None
        return Lack(lane, makes if attempts else None, need)
    score, value = rung.measure.score(sets), rung.target.value or 0.0
    if score is not None and good_enough(score, value, rung.measure.higher_is_better):
        return None
    return Lack(lane, score, value)


def lacks(rung: Rung, day: Day) -> list[Lack]:
    """Everything the day lacks to the target, lane by lane where each lane is asked."""
    if not rung.target.each_lane:
        found = [lack(rung, None, day.sets)]
    else:
        found = [lack(rung, lane, sets) for lane, sets in sets_by_lane(rung, day).items()]
    return [one for one in found if one is not None]


def form_holds(rung: Rung, day: Day) -> bool:
    """Whether the form minimum holds; where one is set, form that nobody looked at does not
    hold.
    """
    if rung.target.form_min is None:
        return True
    return day.form is not None and at_least(day.form, rung.target.form_min)


class Course(StrEnum):
    """A score against what the rung expects."""

    UNDER = "under"
    ON_COURSE = "on course"
    OVER = "over"


def on_course(score: float, band: tuple[float, float], higher_is_better: bool = True) -> Course:
    """A score against the rung's expected success band (low, high), in the measure's unit.

    Some rungs are meant to be beyond the player: 30 % on a 20 to 40 % rung is on course.
    """
    worse, better = band if higher_is_better else band[::-1]
    if not good_enough(score, worse, higher_is_better):
        return Course.UNDER
    return Course.ON_COURSE if good_enough(better, score, higher_is_better) else Course.OVER


def fault_total(day: Day) -> int:
    """All faults of the day together."""
    return sum(s.fault_total for s in day.sets)


def faults_counted(day: Day) -> bool:
    """Whether somebody counted faults in every judged set."""
    return all(s.faults is not None for s in day.sets)


def asks_for_faults(rung: Rung) -> bool:
    """Whether a day without counted faults could be better than it looks: there is a ceiling, or
    they cost time.
    """
    return rung.target.faults_max is not None or rung.measure.penalty_s > 0


def faults_hold(rung: Rung, day: Day) -> bool:
    """Whether the fault ceiling holds for all faults of the day together. Where it matters, faults
    that nobody counted do not hold.
    """
    if not asks_for_faults(rung):
        return True
    most = rung.target.faults_max
    return faults_counted(day) and (most is None or fault_total(day) <= most)
