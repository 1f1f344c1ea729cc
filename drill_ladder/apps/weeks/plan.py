"""A player's week in hand: what is asked, what is planned, on which days. Read once, and passed
along.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from hashlib import sha256

from drill_ladder.apps.library.limits import limits_of
from drill_ladder.apps.library.models import StrainLimit
from drill_ladder.apps.people.models import Player, PlayerDay
from drill_ladder.apps.prescriptions.dose import Done, Kept, done_of, fixed, kept_of, strain_of
from drill_ladder.apps.prescriptions.minutes import Wanted, wanted_of
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.core.planning import Day, Placed, Unplaced, Wish, unplaced
from drill_ladder.core.statistics import strain_left
from drill_ladder.core.work import Place

EVERYBODY = 99  # helpers at the club
# of one step of the solver: most weeks need one, a dozen wishes that hardly fit up to 250; 500 take
# about two seconds
SOLVER_NODES = 500


@dataclass(slots=True)
class WeekPlan:
    """demand: what is asked, by the wish's id, the most urgent first; blocks: as they are stored;
    proven: False after a planning whose time was up; limits: on what strains a body; done: what was
    done of that; rests: whether a stop is open, where that was asked already.
    """

    player: Player
    monday: date
    week: Week
    demand: dict[str, Wanted]
    blocks: list[PlannedBlock] = field(default_factory=list)
    proven: bool = True
    limits: dict[str, StrainLimit] = field(default_factory=dict)
    done: Done = field(default_factory=dict)
    rests: bool | None = None

    @property
    def wishes(self) -> list[Wish]:
        """What is asked, as the planner takes it."""
        return [wanted.wish for wanted in self.demand.values()]

    @property
    def days(self) -> list[Day]:
        """The player's days as they are planned on."""
        return days_of(self.player, self.monday, self.week.skipped, self.blocks)

    @property
    def asked_blocks(self) -> list[PlannedBlock]:
        """Those of ladders that are still asked for."""
        return [block for block in self.blocks if str(block.prescription_id) in self.demand]

    @property
    def strain(self) -> list[Kept]:
        """What the week comes to, kind by kind."""
        planned: Done = defaultdict(Counter)
        for block in self.asked_blocks:
            planned[block.prescription_id, block.on].update(self.strain_of(block))
        return kept_of(self.limits, self.done, planned)

    def strain_of(self, block: PlannedBlock) -> Mapping[str, int]:
        """Kind -> repetitions of one block, as it is dosed."""
        wanted, stay = self.wanted(block), self.stay_of(block)
        if stay is None or (wanted and wanted.routine):
            return wanted.wish.strain if wanted else {}
        return strain_of(stay, fixed(stay.terms.rung, block.sets, block.reps))

    @property
    def room(self) -> dict[str, int]:
        """Kind -> repetitions that planning may still ask for: beside what was done unplanned."""
        there = {(block.prescription_id, block.on) for block in self.asked_blocks}
        beside: Counter[str] = Counter()
        for key, kinds in self.done.items():
            if key not in there:
                beside.update(kinds)
        return strain_left(beside, {kind: one.per_week for kind, one in self.limits.items()})

    def wanted(self, block: PlannedBlock) -> Wanted | None:
        """What a block is of; None where it is not asked for any more."""
        return self.demand.get(str(block.prescription_id))

    def stay_of(self, block: PlannedBlock) -> Stay | None:
        """The rung that a block is of: the one that it was planned on."""
        wanted = self.wanted(block)
        if block.stay is not None:
            return block.stay
        return wanted.stay if wanted else None

    def unplaced(self) -> tuple[Unplaced, ...]:
        """What found no place: as it is stored, or worked out anew where anything has changed
        since.
        """
        if self.week.pk is None:
            return ()
        return (
            self.week.unplaced if self.week.unplaced_of == self.sign() else self.work_out_unplaced()
        )

    def work_out_unplaced(self) -> tuple[Unplaced, ...]:
        """What found no place, worked out: the integer program of the week is solved."""
        return unplaced(
            self.days, self.wishes, placed_of(self.asked_blocks), SOLVER_NODES, self.room
        )

    def sign(self) -> str:
        """A sign of everything that the plan depends on, the same as long as none of it changes."""
        days = [
            (str(d.on), d.minutes, str(d.place), sorted(d.equipment), d.helpers, d.adult)
            for d in self.days
        ]
        wishes = [
            (
                w.id,
                w.per_week,
                w.minutes,
                w.priority,
                w.intent.value,
                sorted(w.places),
                w.helpers,
                w.adult,
            )
            for w in self.wishes
        ]
        rests = [(w.rest_day_between, str(w.first), sorted(w.equipment)) for w in self.wishes]
        room = sorted(self.room.items()) and (sorted(self.room.items()), self._asks())
        placed = sorted(
            (str(block.on), block.prescription_id, block.minutes) for block in self.asked_blocks
        )
        return sha256(repr((days, wishes, rests, placed, *room)).encode()).hexdigest()[:16]

    def _asks(self) -> list[tuple[str, list[tuple[str, int]]]]:
        return [(w.id, sorted(w.strain.items())) for w in self.wishes]


def week_plan(player: Player, monday: date, week: Week | None) -> WeekPlan:
    """The week with its blocks and what is asked of it; a week that nobody planned yet is empty and
    not stored.
    """
    return week_plans([player], monday, [week] if week else [])[0]


def week_plans(players: Sequence[Player], monday: date, weeks: Iterable[Week]) -> list[WeekPlan]:
    """Weeks of many players, looked up by a handful of questions however many they are. weeks: of
    that Monday, those that are stored.
    """
    stored = {week.player_id: week for week in weeks}
    blocks: dict[int, list[PlannedBlock]] = defaultdict(list)
    for block in PlannedBlock.objects.of_weeks(stored.values()).with_ladders() if stored else ():
        blocks[block.week_id].append(block)
    wanted = wanted_of(players, monday)
    plans = []
    for player in players:
        week = stored.get(player.pk) or Week(club_id=player.club_id, player=player, monday=monday)
        demand = {want.wish.id: want for want in wanted[player.pk]}
        plans.append(WeekPlan(player, monday, week, demand, blocks[week.pk]))
    _add_strain([plan for plan in plans if any(wish.strain for wish in plan.wishes)])
    return plans


def _add_strain(plans: Sequence[WeekPlan]) -> None:
    """What is done in their week of what strains a body, and what may be."""
    if not plans:
        return
    monday, players = plans[0].monday, [plan.player for plan in plans]
    limits, done = limits_of(players), done_of(players, monday, monday + timedelta(days=6))
    for plan in plans:
        plan.limits, plan.done = limits[plan.player.pk], done[plan.player.pk]


def stored_plan(player: Player, monday: date) -> WeekPlan:
    """The player's week as it is stored."""
    return week_plan(player, monday, Week.objects.of(player, monday).first())


def days_of(
    player: Player, monday: date, skipped: Sequence[int], blocks: Sequence[PlannedBlock]
) -> list[Day]:
    """The player's days of a week without those that are skipped, and those without minutes on
    which somebody put a block all the same.
    """
    days = {
        day.on: day
        for day in (_day(d, monday) for d in player.days.all() if d.weekday not in skipped)
    }
    extra = {b.on: Day(b.on, 0, b.place) for b in blocks if b.on not in days}
    return sorted([*days.values(), *extra.values()], key=lambda day: day.on)


def _day(day: PlayerDay, monday: date) -> Day:
    club = day.place == Place.CLUB
    helpers = EVERYBODY if club else int(day.helper)
    return Day(
        monday + timedelta(days=day.weekday),
        day.minutes,
        day.place,
        frozenset(),
        helpers,
        club or day.adult,
    )


def placed_of(blocks: Sequence[PlannedBlock]) -> list[Placed]:
    """Blocks as the core's: fresh and tired on one day are one."""
    of_day: dict[tuple[date, int], Placed] = {}
    for number, b in enumerate(sorted(blocks, key=lambda b: b.tired), 1):
        key = (b.on, b.prescription_id)
        first = of_day.get(key) if b.tired else None
        key = key if b.tired or key not in of_day else (b.on, -number)  # twice by hand stays two
        minutes = b.minutes + (first.minutes if first else 0)
        order = first.order if first else b.order
        of_day[key] = Placed(b.on, str(b.prescription_id), order, minutes)
    return list(of_day.values())
