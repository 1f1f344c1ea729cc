"""What to try with a player who is stuck, chosen from the evidence of the last sessions
(docs/methods.md, 4.7).
"""

from collections.abc import Sequence

from drill_ladder.core.judging.ladders import Rung
from drill_ladder.core.judging.measures import faults_by_name, made_of
from drill_ladder.core.judging.reasons import Advice, Reason
from drill_ladder.core.judging.verdicts import Judged, lane_met, sets_by_lane
from drill_ladder.core.thresholds import at_least

RECENT = 4
FORM_SHARE = 0.5
FAULT_SHARE = 0.4


def advise(rung: Rung, full: Sequence[Judged]) -> Reason:
    """The first that applies: weakest lane, form failing, a common fault, else add a half-step."""
    recent = full[-RECENT:]
    return (
        _weakest_lane(rung, full[-1])
        or _form(rung, recent)
        or _common_fault(rung, recent)
        or _half_step(rung)
    )


def _weakest_lane(rung: Rung, latest: Judged) -> Reason | None:
    if not rung.target.each_lane:
        return None
    unmet = [
        lane for lane, sets in sets_by_lane(rung, latest.day).items() if not lane_met(rung, sets)
    ]
    if not unmet or len(unmet) == len(rung.lanes):
        return None
    sign = 1 if rung.measure.higher_is_better else -1
    weakest = min(unmet, key=lambda lane: sign * (latest.lanes[lane] or 0.0))
    return Reason(Advice.WEAKEST_LANE, {"lane": weakest, "have": latest.lanes[weakest]})


def _form(rung: Rung, recent: Sequence[Judged]) -> Reason | None:
    minimum = rung.target.form_min
    if minimum is None:
        return None
    under = sum(1 for d in recent if d.day.form is not None and not at_least(d.day.form, minimum))
    if under < FORM_SHARE * len(recent):
        return None
    return Reason(Advice.FORM, {"sessions": under, "of": len(recent), "need": minimum})


def _common_fault(rung: Rung, recent: Sequence[Judged]) -> Reason | None:
    sets = [s for d in recent for s in d.day.sets]
    faults = faults_by_name(s.faults for s in sets)
    attempts, makes = made_of(sets)
    misses = attempts - makes
    if not rung.counts_makes:
        misses = sum(faults.values())
    if not faults or misses <= 0:
        return None
    fault, times = max(sorted(faults.items()), key=lambda item: item[1])
    if not at_least(times, FAULT_SHARE * misses):
        return None
    return Reason(Advice.COMMON_FAULT, {"fault": fault, "times": times, "of": misses})


def _half_step(rung: Rung) -> Reason:
    return Reason(Advice.HALF_STEP, {"rung": rung.id})
