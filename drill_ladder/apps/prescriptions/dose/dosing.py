"""How long a rung's dose takes, what a band of it comes to on a day (docs/methods.md, 7), and what
a week asks of a body: repetitions of what strains it, done and planned, against the club's own
limits (docs/methods.md, 12).

A trial in which nothing is counted, a sprint say, is one repetition. Voids were done too.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from math import ceil

from drill_ladder.apps.library.limits import limits_for
from drill_ladder.apps.library.models import Drill, StrainLimit
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import Rung
from drill_ladder.core.planning import DoseTime, reps_in, resolve_dose
from drill_ladder.core.statistics import strain_left

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
    each_s = rung.rest_each_s or 0
    before_s = 0.0
    if rung.slow_first_s:
        before_s = _slow_s(rung) + rung.slow_first_s
    before_s += (rung.finish_good or 0) * (rung.dose.s_per_rep or USUAL_S)
    return DoseTime(
        rung.dose.sets, work_s, reps, lanes, change, SETUP_S, rung.dose.rest_s, each_s, before_s
    )


def _slow_s(rung: Rung) -> float:
    """Seconds of the slow one: of a try whose target is a time twice that (common practice, no
    source).
    """
    if rung.measure.is_timed and rung.target.value:
        return 2 * rung.target.value
    return rung.dose.s_per_rep or USUAL_S


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


Done = dict[tuple[int, date], Counter[str]]


def reps_of(rung: Rung) -> int:
    """Repetitions of one block, all lanes together."""
    lanes = max(1, len(rung.lanes))
    return rung.dose.sets * (rung.reps_per_set or 1) * lanes


def strain_in(drill: Drill, rung: Rung) -> dict[str, int]:
    """Kind -> repetitions of it in one block of a drill, as it is dosed."""
    return dict.fromkeys(drill.strain, reps_of(rung)) if drill.strain else {}


def strain_of(stay: Stay, rung: Rung | None = None) -> dict[str, int]:
    """As strain_in, of where a player stands; rung: as dosed, None: by the stay's terms."""
    return strain_in(stay.worked_on.drill, rung or stay.terms.rung)


@dataclass(frozen=True, slots=True)
class Kept:
    """One kind in one week: done, planned beside that, and the limit (None: nobody set one)."""

    kind: str
    done: int
    planned: int
    limit: StrainLimit | None

    @property
    def expected(self) -> int:
        """What the week comes to."""
        return self.done + self.planned

    @property
    def over(self) -> int:
        """Repetitions too many."""
        return max(0, self.expected - self.limit.per_week) if self.limit else 0

    @property
    def words(self) -> str:
        """The sentence of it."""
        return kept_words(self.kind, self.done, self.planned, self.limit)


def kept_words(kind: str, done: int, planned: int, limit: StrainLimit | None) -> str:
    """How many are done and planned, what is left, and whose limit it is."""
    planned_too = f", {planned} more planned" if planned else ""
    said = f"{kind.capitalize()}: {done} done{planned_too}"
    if limit is None:
        return f"{said}; no limit is entered."
    left = strain_left({kind: done + planned}, {kind: limit.per_week})[kind]
    over = done + planned - limit.per_week
    room = f"{over} over" if over > 0 else f"{left} left"
    return f"{said}; {room} of {limit.per_week} a week ({limit.body}, {limit.of:%-d %B %Y})."


def done_in(player: Player, first: date, last: date) -> Done:
    """(Prescription, day) -> kind -> repetitions that were done."""
    return done_of([player], first, last)[player.pk]


def done_of(players: Sequence[Player], first: date, last: date) -> dict[int, Done]:
    """Player id -> the same, for each of some players."""
    done: dict[int, Done] = {player.pk: defaultdict(Counter) for player in players}
    for pk, kinds, prescription, on, reps in Stay.objects.strained(list(done), first, last):
        for kind in kinds:
            done[pk][prescription, on][kind] += int(reps or 0)
    return done


def kept_of(limits: Mapping[str, StrainLimit], done: Done, planned: Done) -> list[Kept]:
    """Kind by kind what a week comes to: where a block is planned and done, the larger counts."""
    did: Counter[str] = Counter()
    more: Counter[str] = Counter()
    for key in {*done, *planned}:
        for kind in {*done.get(key, ()), *planned.get(key, ())}:
            have = done[key][kind] if key in done else 0
            asked = planned[key][kind] if key in planned else 0
            did[kind] += have
            more[kind] += max(0, asked - have)
    kinds = sorted({*did, *more})
    return [Kept(kind, did[kind], more[kind], limits.get(kind)) for kind in kinds]


def asked_lines(player: Player, asked: Iterable[tuple[Mapping[str, int], int]]) -> list[str]:
    """What a week of all that is asked comes to where that is over a limit. asked: kind ->
    repetitions of a block, and how often a week.
    """
    total: Counter[str] = Counter()
    for strain, per_week in asked:
        for kind, reps in strain.items():
            total[kind] += reps * per_week
    limits = limits_for(player) if total else {}
    return [
        f"{count} {kind} a week would be asked, and the limit is {limits[kind].per_week} "
        f"({limits[kind].body}, {limits[kind].of:%-d %B %Y}): the planner leaves out what is over."
        for kind, count in sorted(total.items())
        if kind in limits and count > limits[kind].per_week
    ]


def too_much_at_once(player: Player, strain: Mapping[str, int]) -> str:
    """Why one block alone is over a limit; empty where it is not."""
    limits = limits_for(player) if strain else {}
    for kind, reps in strain.items():
        if kind in limits and reps > limits[kind].per_week:
            return (
                f"One session alone has {reps} {kind}, and {player}’s limit is "
                f"{limits[kind].per_week} a week ({limits[kind].body})."
            )
    return ""
