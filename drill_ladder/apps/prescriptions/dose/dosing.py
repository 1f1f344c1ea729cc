"""How long a rung's dose takes, and what a band of it comes to on a day (docs/methods.md, 7)."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date
from math import ceil

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import Rung
from drill_ladder.core.planning import DoseTime, reps_in, resolve_dose

SETUP_S, LANE_CHANGE_S, USUAL_S = 60, 5, 6
SHORTEST = 3  # minutes: nobody unpacks for less


def block_of(rung: Rung) -> DoseTime:
    """A rung's dose in time, at the lower end of its bands."""
    rung = in_minutes(rung)
    reps = rung.reps_per_set
    work = rung.measure.work_s(rung.dose, reps, rung.target.value, USUAL_S)
    return _timed(rung, work, reps if rung.measure.repeats else None)


def _timed(rung: Rung, work_s: float, reps: int | None) -> DoseTime:
    """The rung's sets, lanes and rests around so much work in one set and lane."""
    lanes = max(1, len(rung.lanes))
    change = LANE_CHANGE_S if lanes > 1 else 0
    return DoseTime(rung.dose.sets, work_s, reps, lanes, change, SETUP_S, rung.dose.rest_s)


def minutes_of(rung: Rung) -> int:
    """Whole minutes of a block: those that it is given in, else those that its dose takes."""
    return rung.minutes or max(SHORTEST, ceil(block_of(rung).seconds / 60))


def minutes_a_day(rung: Rung, tired_too: bool) -> int:
    """Of a day's work: one block, or two where it is done fresh and tired."""
    return minutes_of(rung) * (2 if tired_too else 1)


def in_minutes(rung: Rung) -> Rung:
    """A dose that is given in minutes, as the repetitions that they hold."""
    if rung.minutes is None or rung.dose.reps is not None or not rung.measure.counts_attempts:
        return rung
    one = _timed(rung, rung.dose.s_per_rep or USUAL_S, 1)
    return replace(rung, dose=replace(rung.dose, reps=reps_in(one, rung.minutes)))


def fixed(rung: Rung, sets: int | None, reps: int | None) -> Rung:
    """The rung with the dose that a day was told; None: as the rung has it, at the lower end."""
    rung = in_minutes(rung)
    dose = replace(rung.dose, sets=sets or rung.dose.sets, reps=reps or rung.dose.reps)
    return replace(rung, dose=dose, reps_high=None, sets_high=None)


def of_the_day(rung: Rung, seconds_left: float) -> tuple[Rung, str]:
    """The rung with its dose as a number, and which bound decided, "" where there was nothing to
    decide. seconds_left: beyond the block at the lower end of its bands.
    """
    if not rung.is_open:
        return rung, ""
    time = block_of(rung)
    if time.reps is None or (rung.reps_high is None and rung.sets_high is None):
        return fixed(rung, None, None), ""
    dosed = resolve_dose(time, rung.reps_high, rung.sets_high, seconds_left)
    return fixed(rung, dosed.sets, dosed.reps), dosed.bound


def beyond(rung: Rung, dosed: Rung) -> float:
    """Seconds that a dose of the day takes beyond its lower end."""
    return block_of(dosed).seconds - block_of(rung).seconds


def seconds_left(player: Player, on: date, stays: Sequence[Stay]) -> float:
    """What a day without a plan has beyond everything that is asked of the player at its least.

    stays: where the player stands on each ladder.
    """
    day = next((day for day in player.days.all() if day.weekday == on.weekday()), None)
    if day is None:
        return 0.0
    return 60.0 * (day.minutes - sum(minutes_of(stay.terms.rung) for stay in stays))
