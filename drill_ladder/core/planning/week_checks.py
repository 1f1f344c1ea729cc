"""What a week made by hand breaks, and what would help a wish that found no place
(docs/methods.md, 14).
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from itertools import pairwise

from drill_ladder.core.judging.ladders import Intent
from drill_ladder.core.planning.week import FILTERS, Day, Placed, Unmet, Wish, plan_within
from drill_ladder.core.thresholds import at_most


@dataclass(frozen=True, slots=True)
class Break:
    """A block that breaks something. code: place, equipment, helpers, adult, begins, minutes (then
    `over`: minutes too many that day), twice, speed, spacing, often.
    """

    on: date
    id: str
    code: str
    over: float = 0


def breaks(days: Sequence[Day], wishes: Sequence[Wish], placed: Sequence[Placed]) -> list[Break]:
    """Everything that the blocks break, by day; empty for a plan of the solver."""
    by_date, by_id = {day.on: day for day in days}, {wish.id: wish for wish in wishes}
    found = []
    for block in sorted(placed, key=lambda b: (b.on, b.order)):
        day, wish = by_date[block.on], by_id[block.id]
        barred = [
            code for code, holds in FILTERS.items() if code != "minutes" and not holds(day, wish)
        ]
        found += [Break(block.on, block.id, code) for code in barred]
    return sorted(
        found + _of_days(by_date, placed) + _of_wishes(by_id, placed),
        key=lambda b: (b.on, b.id, b.code),
    )


def _of_days(days: dict[date, Day], placed: Sequence[Placed]) -> list[Break]:
    """Days with more minutes than there are: told at the last block of the day."""
    of_days = []
    for on, day in days.items():
        here = sorted((b for b in placed if b.on == on), key=lambda b: b.order)
        used = sum(block.minutes for block in here)
        if here and not at_most(used, day.minutes):
            of_days.append(Break(on, here[-1].id, "minutes", used - day.minutes))
    return of_days


def _of_wishes(wishes: dict[str, Wish], placed: Sequence[Placed]) -> list[Break]:
    of_wishes = []
    speed = Counter(b.on for b in placed if wishes[b.id].intent is Intent.SPEED)
    for wish in wishes.values():
        dates = sorted(b.on for b in placed if b.id == wish.id)
        of_wishes += [Break(on, wish.id, "twice") for on, n in Counter(dates).items() if n > 1]
        different = sorted(set(dates))
        if wish.rest_day_between:
            of_wishes += [
                Break(b, wish.id, "spacing") for a, b in pairwise(different) if (b - a).days < 2
            ]
        if len(dates) > wish.per_week:
            of_wishes.append(Break(dates[-1], wish.id, "often"))
        if wish.intent is Intent.SPEED:
            of_wishes += [Break(on, wish.id, "speed") for on in different if speed[on] > 1]
    return of_wishes


@dataclass(frozen=True, slots=True)
class Help:
    """What would let one more block of a wish in: code as in Unmet.why, on which day, minutes more
    of it.
    """

    code: str
    on: date | None = None
    minutes: float = 0


def what_would_help(
    days: Sequence[Day], wishes: Sequence[Wish], placed: Sequence[Placed], unmet: Unmet
) -> Help:
    """The least that would let one more block in: minutes more on a day, or the first day that
    lacks one thing.
    """
    wish = next(w for w in wishes if w.id == unmet.id)
    used = Counter[date]()
    for block in placed:
        used[block.on] += block.minutes  # type: ignore[assignment]  # minutes may be fractions
    has = {block.on for block in placed if block.id == wish.id}
    free = [day for day in sorted(days, key=lambda d: d.on) if day.on not in has]
    if unmet.why == "minutes":
        return _minutes(wish, free, used)
    if unmet.why in FILTERS:
        others = [holds for code, holds in FILTERS.items() if code not in (unmet.why, "minutes")]
        first = next((d for d in free if all(holds(d, wish) for holds in others)), None)
        return Help(unmet.why, first.on if first else None)
    return Help(unmet.why)


def _minutes(wish: Wish, free: Sequence[Day], used: Counter[date]) -> Help:
    others = [holds for code, holds in FILTERS.items() if code != "minutes"]
    open_days = [day for day in free if all(holds(day, wish) for holds in others)]
    short = [(used[day.on] + wish.minutes - day.minutes, day.on) for day in open_days]
    missing = [(more, on) for more, on in short if more > 0]
    return Help("minutes", min(missing)[1], min(missing)[0]) if missing else Help("minutes")


@dataclass(frozen=True, slots=True)
class Unplaced:
    """A wish that found no place in a week as it stands, and what would let one more block of it
    in.
    """

    unmet: Unmet
    help: Help


def unplaced(
    days: Sequence[Day],
    wishes: Sequence[Wish],
    placed: Sequence[Placed],
    nodes: int | None = None,
    limits: Mapping[str, int] | None = None,
) -> tuple[Unplaced, ...]:
    """What finds no place beside the blocks that are there, each with the least that would help;
    worked out with so many of the solver's nodes.
    """
    there = {(block.on, block.id) for block in placed}
    planned, unmet, _ = plan_within(days, wishes, there, nodes, limits=limits)
    return tuple(Unplaced(wish, what_would_help(days, wishes, planned, wish)) for wish in unmet)
