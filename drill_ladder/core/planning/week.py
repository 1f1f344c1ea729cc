"""The week: which blocks on which days, as a small integer program (docs/methods.md, 14).

Lexicographic: as many blocks of priority 1 as possible, then of 2, ..., then (where it is asked
for) the shortest runs of neighbouring days, then the earliest days. One solve per level with the
earlier counts fixed. Source of the solver: scipy.optimize.milp (HiGHS).
"""

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import NamedTuple

import numpy as np
import scipy

from drill_ladder.core.errors import CoreError
from drill_ladder.core.judging.ladders import Intent
from drill_ladder.core.thresholds import at_most

Fixed = tuple[date, str]
# scipy.optimize.milp: found the best; there is none. Used up nodes come as 4, "not recognized"
BEST, NO_PLAN = 0, (2, 3)
ORDER = (Intent.SPEED, Intent.SKILL, Intent.PRESSURE, Intent.ENDURANCE)


@dataclass(frozen=True, slots=True)
class Day:
    """A day with its minutes, place and what is there."""

    on: date
    minutes: float
    place: str
    equipment: frozenset[str] = frozenset()
    helpers: int = 0
    adult: bool = False


@dataclass(frozen=True, slots=True)
class Wish:
    """Blocks wanted: per_week of `minutes` each; places empty: anywhere; priority 1 is the highest;
    first: no block before this day; strain: kind -> repetitions of it in one block.
    """

    id: str
    per_week: int
    minutes: float
    priority: int
    intent: Intent = Intent.SKILL
    places: frozenset[str] = frozenset()
    equipment: frozenset[str] = frozenset()
    helpers: int = 0
    adult: bool = False
    rest_day_between: bool = False
    first: date | None = None
    strain: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Placed:
    """A block: its day, wish, order within the day (from 1) and minutes."""

    on: date
    id: str
    order: int
    minutes: float


@dataclass(frozen=True, slots=True)
class Unmet:
    """A wish that got fewer blocks than wanted, and the constraint that stopped it."""

    id: str
    wanted: int
    given: int
    why: str


FILTERS: dict[str, Callable[[Day, Wish], bool]] = {
    "place": lambda day, wish: not wish.places or day.place in wish.places,
    "equipment": lambda day, wish: wish.equipment <= day.equipment,
    "helpers": lambda day, wish: day.helpers >= wish.helpers,
    "adult": lambda day, wish: day.adult or not wish.adult,
    "minutes": lambda day, wish: at_most(wish.minutes, day.minutes),
    "begins": lambda day, wish: wish.first is None or day.on >= wish.first,
}


def allowed(day: Day, wish: Wish) -> bool:
    """Whether the day can take the block at all."""
    return all(holds(day, wish) for holds in FILTERS.values())


class Planned(NamedTuple):
    """A plan. proven: nothing is better; else it is the best that was found."""

    blocks: list[Placed]
    unmet: list[Unmet]
    proven: bool


def plan_week(
    days: Sequence[Day], wishes: Sequence[Wish], fixed: Collection[Fixed] = ()
) -> tuple[list[Placed], list[Unmet]]:
    """Blocks by day and order, and what could not be placed. Days in any order, each date once.

    fixed: (date, wish id) of blocks that somebody put there by hand. They stay, whatever they
    break; everything else is planned around them.
    """
    return plan_within(days, wishes, fixed)[:2]


def plan_within(
    days: Sequence[Day],
    wishes: Sequence[Wish],
    fixed: Collection[Fixed] = (),
    nodes: int | None = None,
    spread: bool = False,
    limits: Mapping[str, int] | None = None,
) -> Planned:
    """As `plan_week`, with at most so many nodes of the solver's tree for each of its steps: a
    dozen wishes that hardly fit can take longer than anybody waits. Nodes and not seconds, so that
    a busy machine plans the same week.

    spread: the blocks of a wish lie apart where they can: its longest run of neighbouring days is
    the least that the counts allow (summed over the wishes). limits: kind of strain -> repetitions
    of it that the week still has room for.
    """
    days = sorted(days, key=lambda day: day.on)
    at, which = [day.on for day in days], [wish.id for wish in wishes]
    held = {(at.index(on), which.index(id)) for on, id in fixed}
    chosen, proven = np.zeros((len(days), len(wishes)), dtype=bool), True
    if days and wishes:
        chosen, proven = _solve(days, wishes, held, nodes, spread, limits or {})
    blocks = [placed for d, day in enumerate(days) for placed in _ordered(day, wishes, chosen[d])]
    given = chosen.sum(axis=0)
    unmet = [
        Unmet(wish.id, wish.per_week, int(given[w]), _why(w, days, wishes, given, limits or {}))
        for w, wish in enumerate(wishes)
        if given[w] < wish.per_week
    ]
    return Planned(blocks, unmet, proven)


def _solve(
    days: Sequence[Day],
    wishes: Sequence[Wish],
    fixed: set[tuple[int, int]],
    nodes: int | None,
    spread: bool,
    limits: Mapping[str, int],
) -> tuple[np.ndarray, bool]:
    levels = sorted({wish.priority for wish in wishes})
    runs = list(_runs(days, wishes)) if spread else []
    rules = _Rules(days, wishes, fixed, runs, nodes)
    for kind, most in limits.items():
        rules.strain([float(wish.strain.get(kind, 0)) for wish in wishes], most, len(days))
    for level in levels:
        of_level = np.tile([float(wish.priority == level) for wish in wishes], len(days))
        rules.keep_least(-rules.over_blocks(of_level))
    if runs:
        rules.keep_least(rules.over_runs())
    ages = np.repeat([float((day.on - days[0].on).days) for day in days], len(wishes))
    best = rules.best(rules.over_blocks(ages))[: len(days) * len(wishes)]
    return np.asarray(best.reshape(len(days), len(wishes)) > 0.5), rules.proven


class _Run(NamedTuple):
    """That a wish has a run of so many neighbouring days somewhere: every place where it could
    be, as its days.
    """

    wish: int
    places: list[range]


def _runs(days: Sequence[Day], wishes: Sequence[Wish]) -> Iterator[_Run]:
    """The longest run of a wish is one and as many more as of these come true."""
    for w, wish in enumerate(wishes):
        for length in range(2, min(wish.per_week, len(days)) + 1):
            starts = range(len(days) - length + 1)
            places = [range(d, d + length) for d in starts if _in_a_row(days[d : d + length])]
            if places:
                yield _Run(w, places)


def _in_a_row(days: Sequence[Day]) -> bool:
    return (days[-1].on - days[0].on).days == len(days) - 1


class _Rules:
    """The constraints over one 0/1 variable for each day and wish (day by day), then one for each
    run; and how many nodes the solver may look at in one of its steps.
    """

    def __init__(
        self,
        days: Sequence[Day],
        wishes: Sequence[Wish],
        fixed: set[tuple[int, int]],
        runs: Sequence[_Run],
        nodes: int | None,
    ) -> None:
        self.nodes, self.proven, self.fixed = nodes, True, fixed
        self.blocks, self.size = len(days) * len(wishes), len(days) * len(wishes) + len(runs)
        self.rows: list[np.ndarray] = []
        self.low: list[float] = []
        self.high: list[float] = []
        self.open = np.ones(self.size)
        self.open[: self.blocks] = [allowed(day, wish) for day in days for wish in wishes]
        self.least = np.zeros(self.size)
        for d, w in fixed:
            self.open[d * len(wishes) + w] = self.least[d * len(wishes) + w] = 1.0
        # what is there already keeps every rule, whatever runs it has
        self.known = np.concatenate([self.least[: self.blocks], np.ones(len(runs))])
        for d, day in enumerate(days):
            self._day(d, day, wishes)
        for w, wish in enumerate(wishes):
            self._wish(w, wish, days, len(wishes))
        for r, run in enumerate(runs):
            self._run(self.blocks + r, run, len(wishes))

    def over_blocks(self, values: np.ndarray) -> np.ndarray:
        """A cost for each day and wish."""
        return np.concatenate([values, np.zeros(self.size - self.blocks)])

    def over_runs(self) -> np.ndarray:
        """A cost of one for each run."""
        return np.concatenate([np.zeros(self.blocks), np.ones(self.size - self.blocks)])

    def keep_least(self, cost: np.ndarray) -> None:
        """Find the least cost, and keep to it from here on."""
        self.add(cost, -np.inf, round(float(cost @ self.best(cost))))

    def _run(self, at: int, run: _Run, width: int) -> None:
        for place in run.places:
            row = np.zeros(self.size)
            row[[d * width + run.wish for d in place]] = 1
            row[at] = -1
            self.add(row, -np.inf, len(place) - 1)

    def _day(self, d: int, day: Day, wishes: Sequence[Wish]) -> None:
        here = slice(d * len(wishes), (d + 1) * len(wishes))
        row = np.zeros(self.size)
        # as shares of the day, so that the solver's tolerance means the same for any minutes
        row[here] = [wish.minutes / day.minutes if day.minutes > 0 else 0.0 for wish in wishes]
        self.add(row, -np.inf, max(1.0, float(row @ self.least)) + 1e-9)
        row = np.zeros(self.size)
        row[here] = [float(wish.intent is Intent.SPEED) for wish in wishes]
        self.add(row, -np.inf, max(1.0, float(row @ self.least)))

    def _wish(self, w: int, wish: Wish, days: Sequence[Day], width: int) -> None:
        row = np.zeros(self.size)
        row[w : self.blocks : width] = 1
        self.add(row, -np.inf, max(float(wish.per_week), float(row @ self.least)))
        if not wish.rest_day_between:
            return
        for d in range(len(days) - 1):
            both = {(d, w), (d + 1, w)} <= self.fixed
            if (days[d + 1].on - days[d].on).days < 2 and not both:
                row = np.zeros(self.size)
                row[[d * width + w, (d + 1) * width + w]] = 1
                self.add(row, -np.inf, 1)

    def strain(self, reps: Sequence[float], most: int, days: int) -> None:
        """No more of a kind of strain than there is room for; what is held there stays."""
        row = self.over_blocks(np.tile(reps, days))
        self.add(row, -np.inf, max(float(most), float(row @ self.least)))

    def add(self, row: np.ndarray, low: float, high: float) -> None:
        """One more constraint."""
        self.rows.append(row)
        self.low.append(low)
        self.high.append(high)

    def best(self, cost: np.ndarray) -> np.ndarray:
        """The choice (0 or 1 each) with the least cost; when its nodes are used up, the best one
        known.
        """
        solver = scipy.optimize
        found = solver.milp(
            cost,
            integrality=np.ones(self.size),
            bounds=solver.Bounds(self.least, self.open),
            constraints=solver.LinearConstraint(np.array(self.rows), self.low, self.high),
            options={"mip_rel_gap": 0} | ({"node_limit": self.nodes} if self.nodes else {}),
        )
        if found.x is None and found.status in NO_PLAN:
            raise CoreError("the solver found no plan; please report these days and wishes")
        self.proven &= found.status == BEST
        if found.x is not None and cost @ np.round(found.x) <= cost @ self.known:
            self.known = np.round(found.x)
        return self.known


def _ordered(day: Day, wishes: Sequence[Wish], chosen: np.ndarray) -> list[Placed]:
    inside = [w for w in range(len(wishes)) if chosen[w]]
    inside.sort(key=lambda w: (ORDER.index(wishes[w].intent), wishes[w].priority, w))
    return [
        Placed(day.on, wishes[w].id, order, wishes[w].minutes) for order, w in enumerate(inside, 1)
    ]


def _why(
    w: int,
    days: Sequence[Day],
    wishes: Sequence[Wish],
    given: np.ndarray,
    limits: Mapping[str, int],
) -> str:
    """The first that applies: a filter (or too few days), spacing, strain, another speed block,
    minutes.
    """
    wish = wishes[w]
    open_days = [day for day in days if allowed(day, wish)]
    if len(open_days) < wish.per_week:
        barred = {
            name: sum(1 for day in days if not holds(day, wish)) for name, holds in FILTERS.items()
        }
        most = max(barred, key=lambda name: barred[name])
        return most if barred[most] else "days"
    if wish.rest_day_between and _spaced(open_days) < wish.per_week:
        return "spacing"
    if _is_full(wish, wishes, given, limits):
        return "strain"
    others = (given[o] for o, other in enumerate(wishes) if o != w and other.intent is Intent.SPEED)
    if wish.intent is Intent.SPEED and any(count > 0 for count in others):
        return "speed"
    return "minutes"


def _is_full(
    wish: Wish, wishes: Sequence[Wish], given: np.ndarray, limits: Mapping[str, int]
) -> bool:
    """Whether one block more would be too much of some strain."""
    return any(
        more + sum(given[o] * other.strain.get(kind, 0) for o, other in enumerate(wishes))
        > limits[kind]
        for kind, more in wish.strain.items()
        if kind in limits and more
    )


def _spaced(days: Sequence[Day]) -> int:
    """The most days that lie at least two apart (taking the earliest possible is best)."""
    count, last = 0, None
    for day in days:
        if last is None or (day.on - last).days >= 2:
            count, last = count + 1, day.on
    return count
