"""What a week's pages show: each day with its minutes and blocks, what it breaks, what found no
place and why.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta

from drill_ladder.apps.prescriptions.dose import Kept, fixed
from drill_ladder.apps.prescriptions.minutes import Wanted
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.models import PlannedBlock
from drill_ladder.apps.weeks.plan import WeekPlan, placed_of
from drill_ladder.apps.weeks.words import BREAKS, NOT_ASKED, help_words, why_unplaced
from drill_ladder.core.planning import Break, Day, Unplaced, breaks
from drill_ladder.formats.rung_words import dose_words


@dataclass(slots=True)
class ShownBlock:
    """A block with what it breaks, in words; parts: of a routine, else none."""

    block: PlannedBlock
    stay: Stay | None
    wrong: list[str] = field(default_factory=list)
    parts: int = 0

    @property
    def dose(self) -> str:
        """The dose in words; of a routine, how many parts it has."""
        if self.parts:
            return f"{self.parts} parts"
        if self.stay is None:
            return ""
        return dose_words(fixed(self.stay.terms.rung, self.block.sets, self.block.reps))

    @property
    def lock_act(self) -> str:
        """What its lock does next."""
        return "free" if self.block.locked else "lock"


@dataclass(slots=True)
class ShownDay:
    """A day: what it has (None: no minutes), how many minutes are used, its blocks."""

    on: date
    day: Day | None
    skipped: bool
    blocks: list[ShownBlock]

    @property
    def used(self) -> int:
        """Minutes."""
        return sum(shown.block.minutes for shown in self.blocks)

    @property
    def has(self) -> int:
        """Minutes of the day."""
        return round(self.day.minutes) if self.day else 0

    @property
    def share(self) -> int:
        """Percent of the day that is used, at most 100, for its bar."""
        return min(100, round(100 * self.used / self.has)) if self.has else 0

    @property
    def over(self) -> int:
        """Minutes too many."""
        return max(0, self.used - self.has)


@dataclass(frozen=True, slots=True)
class NoPlace:
    """A ladder that found no place: how many of how many blocks it got, why, and the way out."""

    ladder: str
    got: str
    why: str
    help: str


@dataclass(frozen=True, slots=True)
class Less:
    """A ladder that is done with less at home: how, and what is then lost."""

    ladder: str
    way: str
    lost: str


@dataclass(frozen=True, slots=True)
class Board:
    """The whole week."""

    days: list[ShownDay]
    unmet: list[NoPlace]
    wanted: list[Wanted]
    lost: list[Less]
    strain: list[Kept]


def board(plan: WeekPlan) -> Board:
    """The week as it is planned now; nothing is stored."""
    days = plan.days
    broken = breaks(days, plan.wishes, placed_of(plan.asked_blocks))
    wanted = list(plan.demand.values())
    return Board(
        days=_shown(plan, days, broken),
        unmet=[_no_place(want, plan.demand[want.unmet.id]) for want in plan.unplaced()],
        wanted=wanted,
        lost=[Less(w.prescription.block_title, w.way, ", ".join(w.lost)) for w in wanted if w.lost],
        strain=plan.strain,
    )


def _shown(plan: WeekPlan, days: Sequence[Day], broken: Sequence[Break]) -> list[ShownDay]:
    """Seven days with their blocks."""
    by_date = {day.on: day for day in days}
    shown = []
    for number in range(7):
        on = plan.monday + timedelta(days=number)
        here = [_block(plan, block, broken) for block in plan.blocks if block.on == on]
        shown.append(ShownDay(on, by_date.get(on), number in plan.week.skipped, here))
    return shown


def _block(plan: WeekPlan, block: PlannedBlock, broken: Sequence[Break]) -> ShownBlock:
    wanted, stay = plan.wanted(block), plan.stay_of(block)
    if wanted is None:
        return ShownBlock(block, stay, [NOT_ASKED])
    codes = [
        breach.code for breach in broken if breach.on == block.on and breach.id == wanted.wish.id
    ]
    wrong = [BREAKS[code] for code in codes if code in BREAKS]
    return ShownBlock(block, stay, wrong, len(wanted.parts))


def _no_place(unplaced: Unplaced, wanted: Wanted) -> NoPlace:
    unmet = unplaced.unmet
    got = f"{unmet.given} of {unmet.wanted}"
    why, help_ = why_unplaced(unmet.why, wanted), help_words(unplaced.help, wanted)
    return NoPlace(wanted.prescription.block_title, got, why, help_)
