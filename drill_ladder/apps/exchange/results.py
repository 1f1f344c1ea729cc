"""Results as a table: one row a set, in and out (the columns of the open format).

A session is the rows of one player, rung, day and observer that follow each other; a set number
that comes again in one lane begins another one.
"""

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import asdict, dataclass, field
from datetime import date
from typing import Any

from drill_ladder.apps.exchange.cells import MEASURED, counted_out, value_of
from drill_ladder.apps.exchange.columns import COLUMNS
from drill_ladder.apps.exchange.roster import Problem
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.practice.sessions import SetInput
from drill_ladder.apps.prescriptions.dose import minutes_of
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import Observer
from drill_ladder.formats.tables import Table, unsafe_cell

NEEDED = ("on", "player", "ladder", "rung")


@dataclass(slots=True)
class Line:
    """A row of the file as values; stay: where it belongs, None where that was not found; others:
    earlier stays on the same rung that its day would fit too.
    """

    number: int
    values: dict[str, Any]
    stay: Stay | None = None
    others: list[Stay] = field(default_factory=list)

    @property
    def numbered(self) -> tuple[Any, ...]:
        """By what rows of one stay are known within a file."""
        return tuple(self.values.get(name) for name in ("player", "ladder", "rung", "stay"))

    @property
    def group(self) -> tuple[Any, ...]:
        """What rows of one session have alike."""
        parts = (self.values.get(name) for name in ("on", "observer", "tired", "way"))
        return (self.stay, *parts)


@dataclass(slots=True)
class Found:
    """A session of the file. known: whether it is stored already, as it is."""

    lines: list[Line]
    known: bool = False

    @property
    def first(self) -> Line:
        """Its first row, which says when and where."""
        return self.lines[0]

    @property
    def what(self) -> str:
        """new or same."""
        return "same" if self.known else "new"


@dataclass(slots=True)
class Preview:
    """What a file would do."""

    sessions: list[Found] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)
    aside: list[str] = field(default_factory=list)

    def count(self, what: str) -> int:
        """Sessions of a kind."""
        return sum(session.what == what for session in self.sessions)


def preview(club: Club, table: Table, today: date) -> Preview:
    """What the table would do, and everything that is wrong with it."""
    result = Preview(aside=[name for name in table.header if name and name not in COLUMNS])
    for name in NEEDED:
        if name not in table.header:
            result.problems.append(Problem(1, name, "this column is missing"))
    if result.problems:
        return result
    lines = [
        _read(number, dict(zip(table.header, cells, strict=True)), result.problems, today)
        for number, cells in table.rows
    ]
    _place(club, lines, result.problems)
    result.sessions = list(_sessions(line for line in lines if line.stay is not None))
    _mark_known(club, result.sessions)
    return result


def _read(number: int, cells: dict[str, str], problems: list[Problem], today: date) -> Line:
    line = Line(number, {})
    for column, text in cells.items():
        if column not in COLUMNS or not text:
            continue
        try:
            line.values[column] = value_of(column, unsafe_cell(text), today)
        except ValueError as error:
            problems.append(Problem(number, column, f"“{text[:40]}” {error}"))
    for name in NEEDED:
        if name not in line.values and not any(
            p.row == number and p.column == name for p in problems
        ):
            problems.append(Problem(number, name, "is empty"))
    line.values.setdefault("observer", Observer.SELF)
    _check_counts(line, problems)
    return line


def _check_counts(line: Line, problems: list[Problem]) -> None:
    values = line.values
    makes, attempts = values.get("makes"), values.get("attempts")
    if makes is not None and (attempts is None or makes > attempts):
        problems.append(Problem(line.number, "makes", "needs as many attempts at least"))
    if not any(name in values for name in MEASURED):
        problems.append(Problem(line.number, "attempts", "nothing is measured in this row"))


def _place(club: Club, lines: list[Line], problems: list[Problem]) -> None:
    """Where each row belongs: who stood on that rung on that day."""
    players = {p.name.casefold(): p for p in Player.objects.of_club(club)}
    names = Counter(p.name.casefold() for p in Player.objects.of_club(club))
    rows = Stay.objects.of_club(club).with_all().order_by("arrived", "pk")
    stays: dict[tuple[int, str], list[Stay]] = {}
    for stay in rows:
        key = (stay.prescription.player_id, stay.prescription.ladder.title.casefold())
        stays.setdefault(key, []).append(stay)
    for line in lines:
        if any(name not in line.values for name in NEEDED):
            continue
        name = line.values["player"].casefold()
        if name not in players or names[name] > 1:
            why = "is no player of the club" if name not in players else "several players have it"
            problems.append(Problem(line.number, "player", why))
            continue
        own = stays.get((players[name].pk, line.values["ladder"].casefold()), [])
        there = _there(own, line, problems)
        line.stay = there[-1] if there else None
        line.others = there[:-1]
    _as_numbered(lines)


def _as_numbered(lines: list[Line]) -> None:
    """On a day on which a player left a rung and came back to it, the number says which stay it
    was: the one of its other rows.
    """
    sure = {line.numbered: line.stay for line in lines if line.stay and not line.others}
    for line in lines:
        stored = sure.get(line.numbered)
        if stored in line.others:
            line.stay = stored


def _there(stays: list[Stay], line: Line, problems: list[Problem]) -> list[Stay]:
    """Those who may be meant, the latest last."""
    on, rung = line.values["on"], line.values["rung"]
    if not stays:
        problems.append(Problem(line.number, "ladder", "the player never was on it"))
        return []
    named = [
        stay
        for stay in stays
        if rung == str(stay.rung.position) or rung.casefold() == stay.rung.title.casefold()
    ]
    there = [
        stay for stay in named if stay.arrived <= on and (stay.left is None or on <= stay.left)
    ]
    if not there:
        problems.append(Problem(line.number, "rung", "the player was not on it on that day"))
        return []
    stay = there[-1]
    lane = line.values.get("lane", "")
    if lane and lane not in stay.terms.rung.lanes:
        problems.append(Problem(line.number, "lane", f"“{lane[:40]}” is no lane of this rung"))
    if not lane and stay.terms.rung.target.each_lane:
        problems.append(Problem(line.number, "lane", "is empty, and each lane is asked here"))
    return there


def _sessions(lines: Iterable[Line]) -> Iterator[Found]:
    """Rows that belong together, in the order of the file."""
    current: list[Line] = []
    taken: set[tuple[Any, Any]] = set()
    for line in lines:
        place = (line.values.get("set"), line.values.get("lane"))
        again = place in taken and place[0] is not None
        if current and (line.group != current[0].group or again):
            yield Found(current)
            current, taken = [], set()
        current.append(line)
        taken.add(place)
    if current:
        yield Found(current)


Signature = tuple[Any, ...]


def _mark_known(club: Club, sessions: list[Found]) -> None:
    """Sessions that are stored as they are in the file: each stored one answers for one of the
    file's.
    """
    stays = {session.first.stay.pk for session in sessions if session.first.stay is not None}
    rows = Session.objects.filter(club=club, stay__in=stays).whole()
    stored = Counter(_signature_stored(row) for row in rows)
    for one in sessions:
        sign = _signature(one)
        if stored[sign] > 0:
            stored[sign] -= 1
            one.known = True


def _signature_stored(row: Session) -> Signature:
    sets = [
        _set_sign({name: getattr(s, name) for name in MEASURED}, s.lane, s.faults)
        for s in row.sets.all()
    ]
    return (row.stay_id, row.on, row.observer, tuple(sorted(sets, key=repr)))


def _signature(one: Found) -> Signature:
    first = one.first
    sets = [
        _set_sign(
            {name: line.values.get(name) for name in MEASURED},
            line.values.get("lane", ""),
            line.values.get("faults"),
        )
        for line in one.lines
    ]
    stay = first.stay.pk if first.stay else None
    return (stay, first.values["on"], first.values["observer"], tuple(sorted(sets, key=repr)))


def _set_sign(values: dict[str, Any], lane: str, faults: dict[str, int] | None) -> Signature:
    numbers = tuple(None if (v := values[name]) is None else round(v, 6) for name in MEASURED)
    return (lane, *numbers, None if faults is None else tuple(sorted(faults.items())))


def set_inputs(one: Found, ids: Iterator[Any]) -> list[SetInput]:
    """The sets of a session of the file, in the order in which they were done."""
    lines = sorted(one.lines, key=lambda line: line.values.get("order", 0))
    return [SetInput(next(ids), line.values.get("lane", ""), _kept(line)) for line in lines]


def _kept(line: Line) -> dict[str, Any]:
    values = {name: line.values[name] for name in MEASURED if name in line.values}
    cells = {"faults": line.values.get("faults"), "strokes": line.values.get("strokes", "")}
    return (
        values
        | cells
        | {name: line.values.get(name) for name in ("eased", "tempo", "reads", "heard", "rested_s")}
        | {
            "voids": line.values.get("voids", 0),
            "feeder": line.values.get("feeder", ""),
            "feed": line.values.get("feed", ""),
        }
    )


@dataclass(slots=True)
class Numbering:
    """The numbers of a file: each stay its own from 1, each set its place within stay and day."""

    stays: dict[int, int] = field(default_factory=dict)
    done: Counter[tuple[int, date]] = field(default_factory=Counter)

    def stay(self, session: Session) -> int:
        """The number of a session's stay."""
        return self.stays.setdefault(session.stay_id, len(self.stays) + 1)

    def order(self, session: Session) -> int:
        """The place of the next set of that day."""
        self.done[session.stay_id, session.on] += 1
        return self.done[session.stay_id, session.on]


def rows_out(sessions: Iterable[Session], numbers: Numbering | None = None) -> Iterator[list[Any]]:
    """Every set as a row of the file, oldest first; blank is not measured. numbers: of a file that
    is written in several goes.
    """
    numbers = numbers or Numbering()
    for session in sessions:
        counted: Counter[str] = Counter()
        for row in session.sets.all():
            counted[row.lane] += 1
            yield [
                *_row_out(session, row, counted[row.lane]),
                numbers.stay(session),
                numbers.order(session),
                *_how(session, row),
            ]


def _how(session: Session, row: SetRow) -> list[Any]:
    """The columns from the strokes on: how it was done."""
    eased = session.eased if row.eased is None else row.eased
    signs = (eased, session.tired, session.extra, session.recheck)
    words = ["yes" if sign else None for sign in signs]
    minutes = minutes_of(session.stay.terms.rung)
    reads = None if row.reads is None else counted_out(asdict(row.reads))
    with_it = [row.tempo, row.voids or None, row.feeder or None, reads, row.heard, row.rested_s]
    with_it.append(row.feed or None)
    return [row.strokes or None, session.way or None, *words, minutes, *with_it]


def _row_out(session: Session, row: SetRow, number: int) -> list[Any]:
    stay = session.stay
    faults = row.faults
    counted = None if faults is None else counted_out(faults) or "none"
    first = number == 1
    return [
        session.on.isoformat(),
        stay.prescription.player.name,
        stay.prescription.ladder.title,
        stay.rung.position,
        row.lane,
        number,
        *(_tidy(getattr(row, name)) for name in MEASURED[:-2]),
        counted,
        _tidy(session.form),
        session.effort,
        session.observer,
        session.word if first else "",
        *(_tidy(getattr(row, name)) for name in MEASURED[-2:]),
    ]


def _tidy(value: float | None) -> float | int | None:
    """12 and not 12.0."""
    return int(value) if value is not None and float(value).is_integer() else value
