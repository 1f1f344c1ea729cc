"""How long a block takes, and whether its rest fits its intent (docs/methods.md, 7).

The usual rests of each intent are common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from drill_ladder.core.judging.ladders import Intent
from drill_ladder.core.thresholds import at_least, at_most, rounded_down

SPEED_REST_S = 40.0
ENDURANCE_REST_S = (20.0, 30.0)
USUAL_SETS = (3, 5)


@dataclass(frozen=True, slots=True)
class DoseTime:
    """A dose in time. work_s: seconds of one set in one lane; reps: of one set in one lane, None
    for a window; rest_each_s: between any two repetitions of a set, all lanes together; before_s:
    before each set, as for a slow one and the rest after it.
    """

    sets: int
    work_s: float
    reps: int | None
    lanes: int = 1
    lane_change_s: float = 0
    setup_s: float = 0
    rest_s: float = 0
    rest_each_s: float = 0
    before_s: float = 0

    @property
    def seconds(self) -> float:
        """The whole block; lanes follow each other inside a set, no rest after the last set."""
        return self.seconds_of(self.sets)

    def seconds_of(self, sets: int) -> float:
        """The block with so many sets."""
        work = sets * (self.before_s + self.lanes * self.work_s)
        changes = sets * (self.lanes - 1) * self.lane_change_s
        between = sets * max(0, self.lanes * (self.reps or 1) - 1) * self.rest_each_s
        return self.setup_s + work + changes + between + (sets - 1) * self.rest_s

    @property
    def total_reps(self) -> int | None:
        """Repetitions of the whole block; None for a window."""
        return None if self.reps is None else self.sets * self.lanes * self.reps


def warnings(intent: Intent, sets: int, rest_s: float) -> list[str]:
    """Codes of what does not fit the intent: speed_rest, speed_sets, endurance_rest,
    endurance_sets.
    """
    usual = USUAL_SETS[0] <= sets <= USUAL_SETS[1]
    found = []
    if intent is Intent.SPEED:
        if sets > 1 and not at_least(rest_s, SPEED_REST_S):
            found.append("speed_rest")
        if not usual:
            found.append("speed_sets")
    if intent is Intent.ENDURANCE:
        low, high = ENDURANCE_REST_S
        if sets > 1 and not (at_least(rest_s, low) and at_most(rest_s, high)):
            found.append("endurance_rest")
        if not usual:
            found.append("endurance_sets")
    return found


@dataclass(frozen=True, slots=True)
class Resolved:
    """Reps chosen from a band, and what decided: band_high, minutes, strain, or band_low (which did
    not fit).
    """

    reps: int
    bound: str


def resolve_band(
    low: int, high: int, s_per_rep: float, seconds_left: float, strain_left: int | None = None
) -> Resolved:
    """Reps from a band low..high: as many as the time left and the strain limit allow, never under
    the low end.

    s_per_rep > 0 over all lanes and sets of the block; strain_left: tagged reps still allowed, None
    for no limit.
    """
    bounds = {"band_high": high, "minutes": rounded_down(seconds_left / s_per_rep)}
    if strain_left is not None:
        bounds["strain"] = strain_left
    bound = min(bounds, key=lambda name: bounds[name])
    if bounds[bound] < low:
        # a strain limit is never broken for the sake of a band
        return (
            Resolved(max(0, bounds["strain"]), "strain")
            if bound == "strain"
            else Resolved(low, "band_low")
        )
    return Resolved(bounds[bound], bound)


@dataclass(frozen=True, slots=True)
class Dosed:
    """What a dose came to: sets, reps of one set in one lane, and the bound that decided."""

    sets: int
    reps: int
    bound: str


def resolve_dose(
    low: DoseTime, reps_high: int | None, sets_high: int | None, seconds_left: float
) -> Dosed:
    """A dose from its bands: first the repetitions of a set, then the sets, as many as fit.

    low: the dose at the lower end of both; its reps are not None. seconds_left: beyond it.
    """
    reps, sets = low.reps or 1, low.sets
    each = low.work_s / reps
    here = each * low.sets * low.lanes
    left = max(0.0, seconds_left)
    band = resolve_band(reps, max(reps, reps_high or reps), here, reps * here + left)
    left -= (band.reps - reps) * here
    if sets_high is None or sets_high <= sets:
        return Dosed(sets, band.reps, band.bound)
    full = replace(low, reps=band.reps, work_s=each * band.reps)
    a_set = full.seconds_of(2) - full.seconds_of(1)
    more = resolve_band(sets, sets_high, a_set, sets * a_set + left)
    return Dosed(more.reps, band.reps, more.bound)


def reps_in(one: DoseTime, minutes: float) -> int:
    """How many repetitions a set has where the block takes so many minutes; at least one.

    one: the dose with a single repetition a set.
    """
    work = one.sets * one.lanes * one.work_s
    return max(1, rounded_down((minutes * 60 - (one.seconds - work)) / work))


def speed_stop(rounds_s: Sequence[float], slower_by: float = 0.05) -> int | None:
    """The round (from 1) at which a speed block stops itself: slower than the best so far by more
    than the share.

    rounds_s: seconds in order; None while it may go on.
    """
    for number, seconds in enumerate(rounds_s, 1):
        best = min(rounds_s[:number])
        if not at_most(seconds, best * (1 + slower_by)):
            return number
    return None


@dataclass(frozen=True, slots=True)
class TempoSet:
    """A set tagged with its tempo (0.5 half speed .. 1 full): attempts, makes, faults, form 0..1 or
    None.
    """

    tempo: float
    attempts: int
    makes: int
    faults: int
    form: float | None = None


def by_tempo(
    sets: Sequence[TempoSet],
) -> list[tuple[float, float | None, float | None, float | None]]:
    """(tempo, score, form, faults per attempt) for each tempo, slowest first; None without data."""
    found = []
    for tempo in sorted({s.tempo for s in sets}):
        same = [s for s in sets if s.tempo == tempo]
        attempts = sum(s.attempts for s in same)
        forms = [s.form for s in same if s.form is not None]
        score = sum(s.makes for s in same) / attempts if attempts else None
        faults = sum(s.faults for s in same) / attempts if attempts else None
        found.append((tempo, score, sum(forms) / len(forms) if forms else None, faults))
    return found


def fastest_clean_tempo(sets: Sequence[TempoSet], faults_per_attempt: float) -> float | None:
    """The fastest tempo whose faults stay within the limit; None if none does."""
    rates = [(tempo, faults) for tempo, _, _, faults in by_tempo(sets)]
    return max(
        (tempo for tempo, rate in rates if rate is not None and at_most(rate, faults_per_attempt)),
        default=None,
    )
