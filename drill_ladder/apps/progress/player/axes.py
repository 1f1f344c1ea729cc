"""Coverage over two axes of the coach's choice (docs/methods.md, 22), and how many good ones a
minute of a drill brings.
"""

from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from drill_ladder.apps.library.models import People
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import OBSERVERS, Session, SetRow
from drill_ladder.apps.prescriptions.dose import minutes_of
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.coaching import Cell, CellState, first_in_next_plan, grid
from drill_ladder.formats.rung_fields import INTENTS
from drill_ladder.formats.words import tempo_word

MOST_VALUES = 40  # of one axis: those with the most repetitions
WEEKS = 6
LATELY = timedelta(weeks=52)
RUNG = "session__stay__rung__"


@dataclass(frozen=True, slots=True)
class Axis:
    """What sets can be told apart by. column: of a set; says: a value in words."""

    label: str
    column: str
    says: Callable[[Any], str]


def _named(words: Mapping[Any, str]) -> Callable[[Any], str]:
    return lambda value: words.get(value, str(value))


def _plain(none: str) -> Callable[[Any], str]:
    return lambda value: none if value in ("", None) else str(value)


def _told_tempo(share: float | None) -> str:
    return "no tempo told" if share is None else tempo_word(share)


AXES = {
    "lane": Axis("Lane", "lane", _plain("no lane")),
    "drill": Axis("Drill", f"{RUNG}drill__title", str),
    "skill": Axis("Skill", f"{RUNG}drill__skill__name", _plain("no skill")),
    "feed": Axis("With whom", f"{RUNG}drill__people", _named(dict(People.choices))),
    "tempo": Axis("Tempo", "tempo", _told_tempo),
    "intent": Axis("What it is for", f"{RUNG}intent", _named(dict(INTENTS))),
    "tired": Axis("Fresh or tired", "session__tired", _named({True: "Tired", False: "Fresh"})),
    "seen": Axis(
        "Who counted",
        "session__observer",
        _named({key.value: words for key, words in OBSERVERS.items()}),
    ),
    "feeder": Axis("Who fed", "feeder", _plain("nobody named")),
}
USUAL = ("skill", "feed")
PLANNED_BY = ("drill", "skill")  # axes whose rows a plan can put first


@dataclass(frozen=True, slots=True)
class TwoAxes:
    """A grid: columns in words, and each row with its cells, (state, why it comes first or "")."""

    rows: Axis
    columns: Axis
    names: list[str]
    lines: list[tuple[str, list[tuple[CellState, str]]]]
    left_out: int

    @property
    def gaps(self) -> set[str]:
        """Rows with a cell that comes first: never tried, not for long, or weak."""
        return {
            row for row, cells in self.lines if any(why not in ("", "done") for _, why in cells)
        }


def axis_of(key: str, usual: str) -> str:
    """The axis that is asked for, else the usual one."""
    return key if key in AXES else usual


def two_axes(player: Player, rows: str, columns: str, on: date) -> TwoAxes:
    """Every value of one axis by every value of the other, as far as the player has done them
    in the last year.
    """
    one, other = AXES[rows], AXES[columns]
    sets = SetRow.objects.of_player(player).since(on - LATELY)
    found = sets.summed_by(one.column, other.column)
    known: dict[Cell, CellState] = {}
    tried: dict[int, dict[str, int]] = {0: defaultdict(int), 1: defaultdict(int)}
    for a, b, last, attempts, makes in found:
        cell = (one.says(a), other.says(b))
        known[cell] = _together(known.get(cell), CellState(last, attempts or 0, makes or 0))
        for side, name in enumerate(cell):
            tried[side][name] += attempts or 0
    names = [_most(tried[side]) for side in (0, 1)]
    why = _why(grid(names), known, on)
    lines = [
        (row, [(known.get((row, col), CellState()), why.get((row, col), "")) for col in names[1]])
        for row in names[0]
    ]
    left_out = sum(len(tried[side]) - len(names[side]) for side in (0, 1))
    return TwoAxes(one, other, names[1], lines, left_out)


def _why(cells: Sequence[Cell], known: Mapping[Cell, CellState], on: date) -> dict[Cell, str]:
    """Why a cell comes first; that it was done, where it is not counted in good ones."""
    done = {cell: "done" for cell, state in known.items() if not state.attempts}
    return done | dict(first_in_next_plan(cells, known, on))


def _together(before: CellState | None, now: CellState) -> CellState:
    """Values that are said in the same words."""
    if before is None or before.last is None or now.last is None:
        return now
    return CellState(
        max(before.last, now.last), before.attempts + now.attempts, before.makes + now.makes
    )


def _most(tried: Mapping[str, int]) -> list[str]:
    """The values with the most repetitions, in the order of their names."""
    return sorted(sorted(tried, key=lambda name: -tried[name])[:MOST_VALUES])


@dataclass(frozen=True, slots=True)
class Pace:
    """Good ones of a drill in a week, and the minutes that they took."""

    good: int
    minutes: float

    @property
    def rate(self) -> float:
        """Good ones a minute."""
        return self.good / self.minutes


@dataclass(frozen=True, slots=True)
class GoodAMinute:
    """mondays: of the weeks, the latest last; lines: a drill with its weeks, None: nothing done."""

    mondays: list[date]
    lines: list[tuple[str, list[Pace | None]]]


def good_a_minute(player: Player, on: date) -> GoodAMinute:
    """Good ones a minute by drill and week, of drills whose good ones are counted. The minutes are
    those of the dose, as far as it was done: nobody holds a watch beside it.
    """
    mondays = [monday_of(on) - timedelta(weeks=back) for back in reversed(range(WEEKS))]
    sums: dict[str, dict[date, tuple[int, float]]] = defaultdict(dict)
    sessions = Session.objects.of_player(player).filter(on__gte=mondays[0], on__lte=on)
    for session in sessions.prefetch_related("sets"):
        good, minutes = _of_session(session)
        if minutes:
            weeks, monday = sums[session.stay.rung.drill.title], monday_of(session.on)
            before = weeks.get(monday, (0, 0.0))
            weeks[monday] = (before[0] + good, before[1] + minutes)
    lines = [
        (title, [Pace(*weeks[monday]) if monday in weeks else None for monday in mondays])
        for title, weeks in sorted(sums.items())
    ]
    return GoodAMinute(mondays, lines)


def _of_session(session: Session) -> tuple[int, float]:
    rung = session.stay.terms.rung
    rows = [row for row in session.sets.all() if row.makes is not None]
    tried, asked = sum(row.attempts or 0 for row in rows), rung.default_attempts
    if not tried or not rung.counts_makes:
        return 0, 0.0
    share = tried / asked if asked else 1.0
    return sum(row.makes or 0 for row in rows), minutes_of(rung) * share
