"""A week as its page shows it: days with their minutes, blocks with what they break, what found no place and why."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.demand import Wanted, wanted_by_id, wanted_of
from drill_ladder.apps.weeks.days import days_of, days_of_week, placed_of
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.services import dose_of
from drill_ladder.core.planning import Break, Day, Help, Unmet, breaks, plan_week, what_would_help
from drill_ladder.formats.home_words import way_out, why_not
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


@dataclass(slots=True)
class ShownBlock:
    """A block with what it breaks, in words."""

    block: PlannedBlock
    one: Wanted | None
    wrong: list[str] = field(default_factory=list)

    @property
    def dose(self) -> str:
        """The dose in words."""
        return dose_of(self.one, self.block.reps) if self.one else ""

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
        return sum(one.block.minutes for one in self.blocks)

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
class Look:
    """The whole week."""

    week: Week | None
    days: list[ShownDay]
    unmet: list[dict[str, str]]
    wanted: list[Wanted]
    lost: list[tuple[str, str, str]]


def look(player: Player, monday: date, week: Week | None) -> Look:
    """The week as it is planned now; nothing is stored."""
    by_id = wanted_by_id(player, monday)
    found = list(by_id.values())
    blocks = list(week.blocks.select_related("prescription__ladder")) if week else []
    skipped = week.skipped if week else []
    week_or_new = week or Week(player=player, monday=monday, skipped=[])
    days = days_of_week(week_or_new, blocks)
    asked = [block for block in blocks if str(block.prescription_id) in by_id]
    wishes, placed = [one.wish for one in found], placed_of(asked)
    told = breaks(days, wishes, placed)
    shown = [_day(monday + timedelta(days=n), n in skipped, days, blocks, by_id, told) for n in range(7)]
    fixed = {(block.on, str(block.prescription_id)) for block in asked}
    planned, unmet = plan_week(days, wishes, fixed) if week else ([], [])
    lacking = [_unmet(one, by_id[one.id], what_would_help(days, wishes, planned, one)) for one in unmet]
    lost = [(str(one.prescription.ladder), one.way, ", ".join(one.lost)) for one in found if one.lost]
    return Look(week, shown, lacking, found, lost)


def _day(
    on: date,
    skipped: bool,
    days: list[Day],
    blocks: list[PlannedBlock],
    found: dict[str, Wanted],
    told: list[Break],
) -> ShownDay:
    here = [ShownBlock(block, found.get(str(block.prescription_id))) for block in blocks if block.on == on]
    for one in here:
        mine = [b for b in told if b.on == on and b.id == str(one.block.prescription_id)]
        one.wrong = [BREAKS[b.code] for b in mine if b.code in BREAKS]
        if one.one is None:
            one.wrong.append("not asked for any more")
    return ShownDay(on, next((day for day in days if day.on == on), None), skipped, here)


def _unmet(unmet: Unmet, one: Wanted, help_: Help) -> dict[str, str]:
    """Which wish got how many, why, and the way out."""
    got = f"{unmet.given} of {unmet.wanted}"
    return {"ladder": str(one.prescription.ladder), "got": got, "why": _why(unmet.why, one), "help": _help(help_, one)}


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
}


def _why(code: str, one: Wanted) -> str:
    """Why a wish was not met; where no version is possible at home, what the home lacks."""
    if code != "place" or one.home is None or one.home.version is not None:
        return WHY[code]
    return why_not(one.home)


def _help(help_: Help, one: Wanted) -> str:
    day = f"{help_.on:%A}" if help_.on else ""
    if help_.code == "minutes" and day:
        return f"{plain(round(help_.minutes))} more minutes on {day} would do."
    if help_.code == "place" and one.home and one.home.version is None:
        return way_out(one.home)
    ways = {
        "place": f"{day} at the {_other(one)} would do." if day else "Another place would help.",
        "helpers": f"Somebody to feed on {day} would do, or a solo version of the drill.",
        "adult": f"An adult on {day} would do.",
        "spacing": "Fewer sessions a week, or days further apart.",
        "speed": "Another day with minutes, or one speed ladder fewer.",
        "days": "Another day with minutes, or fewer sessions a week.",
        "minutes": "Another day with minutes.",
        "begins": "From next week on it has all days.",
    }
    return ways.get(help_.code, "")


def _other(one: Wanted) -> str:
    return "club" if "club" in one.wish.places else "home"


def overview(players: Sequence[Player], monday: date, weeks: Mapping[int, Week]) -> list[dict[str, Any]]:
    """Many players' weeks beside each other, without solving anything: a few questions for all of them.

    weeks: player id -> week, with its blocks and their ladders at hand; the players' days are at hand too.
    """
    asked = wanted_of(players, monday)
    return [_row(player, monday, weeks.get(player.pk), asked[player.pk]) for player in players]


def _row(player: Player, monday: date, week: Week | None, found: list[Wanted]) -> dict[str, Any]:
    blocks = list(week.blocks.all()) if week else []
    skipped = week.skipped if week else []
    days = days_of(player, monday, skipped, blocks)
    by_id = {one.wish.id: one for one in found}
    shown = [_day(monday + timedelta(days=n), n in skipped, days, blocks, by_id, []) for n in range(7)]
    placed = Counter(str(block.prescription_id) for block in blocks)
    unmet = sum(one.wish.per_week > placed[one.wish.id] for one in found)
    used, has = sum(day.used for day in shown), sum(day.has for day in shown)
    return {"player": player, "week": week, "days": shown, "used": used, "has": has, "unmet": unmet}
