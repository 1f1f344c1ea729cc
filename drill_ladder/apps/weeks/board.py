"""What a week's pages show: each day with its minutes and blocks, what it breaks, what found no
place and why; and what changed for the player.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any

from drill_ladder.apps.prescriptions.dose import Kept, fixed
from drill_ladder.apps.prescriptions.minutes import Wanted
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.models import PlannedBlock
from drill_ladder.apps.weeks.plan import WeekPlan, placed_of
from drill_ladder.core.planning import Break, Day, Help, ToldBlock, Unplaced, breaks
from drill_ladder.formats.home_words import way_out, why_not
from drill_ladder.formats.rung_words import dose_words
from drill_ladder.formats.sentences import plain

BREAKS = {
    "place": "not asked for at this place",
    "helpers": "nobody is there to feed",
    "adult": "no adult is there",
    "twice": "twice on one day",
    "speed": "a second block of speed work on one day",
    "spacing": "no rest day before it",
    "often": "more often than wanted",
    "equipment": "something is missing",
    "begins": "before it begins",
}
NOT_ASKED = "not asked for any more"
BEST_FOUND = "The best plan found so far; there may be one that fits more."
WHY = {
    "minutes": "the minutes do not suffice",
    "place": "too few days at the right place",
    "helpers": "nobody to feed on enough days",
    "adult": "no adult there on enough days",
    "equipment": "something is missing",
    "spacing": "the days lie too close for a rest day between",
    "speed": "one block of speed work a day is enough",
    "days": "there are not enough days",
    "begins": "it begins later in the week",
    "strain": "the club’s limit is reached",
}


def why_unplaced(code: str, wanted: Wanted) -> str:
    """Why a wish was not met; where no version is possible at home, what the home lacks."""
    nowhere = code == "place" and wanted.home is not None and wanted.home.version is None
    return why_not(wanted.home) if nowhere and wanted.home else WHY[code]


def help_words(help_: Help, wanted: Wanted) -> str:
    """What would help a wish that found no place."""
    day = f"{help_.on:%A}" if help_.on else ""
    if help_.code == "minutes" and day:
        return f"{plain(round(help_.minutes))} more minutes on {day} would do."
    if help_.code == "place" and wanted.home and wanted.home.version is None:
        return way_out(wanted.home)
    other = "club" if "club" in wanted.wish.places else "home"
    ways = {
        "place": f"{day} at the {other} would do." if day else "Another place would help.",
        "helpers": f"Somebody to feed on {day} would do, or a solo version of the drill.",
        "adult": f"An adult on {day} would do.",
        "spacing": "Fewer sessions a week, or days further apart.",
        "speed": "Another day with minutes, or one speed ladder fewer.",
        "days": "Another day with minutes, or fewer sessions a week.",
        "minutes": "Another day with minutes.",
        "strain": "Nothing this week: the limit is your governing body’s.",
        "begins": "From next week on it has all days.",
    }
    return ways.get(help_.code, "")


# fields of a told block whose change a player is told -> the word for it
NEWS = {
    "minutes": "minutes",
    "dose": "dose",
    "target": "target",
    "place": "place",
    "way": "way to do it",
}


def changes(before: Sequence[ToldBlock], now: Sequence[ToldBlock]) -> list[str]:
    """What a player is told about a week that changed after they were told about it."""
    old = {block.key: block for block in before if not block.cancelled}
    new = {block.key: block for block in now}
    lines = [_changed(old[key], block) for key, block in new.items() if key in old]
    lines += [
        f"New: {block.ladder} on {block.on:%A}" for key, block in new.items() if key not in old
    ]
    lines += [
        f"No more: {block.ladder} on {block.on:%A}" for key, block in old.items() if key not in new
    ]
    return [line for line in lines if line]


def _changed(before: ToldBlock, now: ToldBlock) -> str:
    if before.on != now.on:
        return f"Moved: {now.ladder} from {before.on:%A} to {now.on:%A}"
    if before.title != now.title:
        return f"{now.ladder} on {now.on:%A}: now “{now.title}”"
    different = [word for name, word in NEWS.items() if _of(before, name) != _of(now, name)]
    return f"{now.ladder} on {now.on:%A}: another {' and '.join(different)}" if different else ""


def _of(block: ToldBlock, name: str) -> Any:
    return getattr(block, name)


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
