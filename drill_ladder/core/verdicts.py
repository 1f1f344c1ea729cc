"""The verdict on one day: short, pass, low or near (design, section 2)."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from drill_ladder.core.ladders import Rung
from drill_ladder.core.measures import Makes, Sets, made_of
from drill_ladder.core.sessions import Day
from drill_ladder.core.thresholds import at_least, good_enough, worse_than


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


@dataclass(frozen=True, slots=True)
class Judged:
    """A day with its verdict. met: the target, form and faults hold (an eased day can meet, never pass)."""

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


def judge(rung: Rung, min_share: float, day: Day) -> Judged:
    """Judge a day at a rung. The first that applies: short, pass, low, near.

    min_share: 0..1, the share of the dose under which a day is short (in any lane, where each lane is asked).
    """
    measure = rung.measure
    by_lane = sets_by_lane(rung, day)
    units = list(by_lane.values()) if rung.target.each_lane else [day.sets]
    met = all(lane_met(rung, sets) for sets in units) and form_holds(rung, day) and faults_hold(rung, day)
    if any(is_short(rung, min_share, sets) for sets in units):
        verdict = Verdict.SHORT
    elif met and not day.eased:
        verdict = Verdict.PASS
    elif any(_is_low(rung, sets) for sets in units):
        verdict = Verdict.LOW
    else:
        verdict = Verdict.NEAR
    lanes = {lane: measure.score(sets) for lane, sets in by_lane.items()}
    return Judged(day, verdict, met, measure.score(day.sets), lanes)


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
    """Work asked of one judged unit: a lane where each lane is asked, otherwise all lanes together."""
    lanes = 1 if rung.target.each_lane else max(1, len(rung.lanes))
    return rung.measure.asked(rung.dose) * lanes


def is_short(rung: Rung, min_share: float, sets: Sets) -> bool:
    """Whether less than the share of the dose was done (nothing done is always short)."""
    done = rung.measure.done(sets, rung.dose)
    return not at_least(done, min_share * asked_work(rung)) or done <= 0


def _is_low(rung: Rung, sets: Sets) -> bool:
    score = rung.measure.score(sets)
    if rung.floor is None or score is None:
        return False
    return worse_than(score, rung.floor, rung.measure.higher_is_better)


def lane_met(rung: Rung, sets: Sets) -> bool:
    """Whether the sets reach the target (form and faults apart)."""
    return lack(rung, None, sets) is None


def lack(rung: Rung, lane: str | None, sets: Sets) -> Lack | None:
    """What the sets lack to the target, or None when it is met. For makes in whole makes, rounded up."""
    if isinstance(rung.measure, Makes):
        attempts, makes = made_of(sets)
        need = rung.target.makes_needed(attempts or rung.default_attempts)
        return None if attempts and makes >= need else Lack(lane, makes if attempts else None, need)
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
    """Whether the form minimum holds; where one is set, form that nobody looked at does not hold."""
    if rung.target.form_min is None:
        return True
    return day.form is not None and at_least(day.form, rung.target.form_min)


def fault_total(day: Day) -> int:
    """All faults of the day together."""
    return sum(sum(s.faults.values()) for s in day.sets if s.faults)


def faults_hold(rung: Rung, day: Day) -> bool:
    """Whether the fault ceiling holds for all faults of the day together."""
    return rung.target.faults_max is None or fault_total(day) <= rung.target.faults_max
