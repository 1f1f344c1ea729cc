"""What a week asks of a body: repetitions of what strains it, done and planned, against the club's
own limits (docs/methods.md, 12).

A trial in which nothing is counted, a sprint say, is one repetition. Voids were done too.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.library.limits import limits_for
from drill_ladder.apps.library.models import Drill, StrainLimit
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import Rung
from drill_ladder.core.statistics import strain_left

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
    done: Done = defaultdict(Counter)
    for kinds, prescription, on, reps in Stay.objects.strained(player, first, last):
        for kind in kinds:
            done[prescription, on][kind] += int(reps or 0)
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
