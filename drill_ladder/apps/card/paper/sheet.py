"""A day at the club on paper: everybody who works there, block by block, with boxes to tick and the
first faults. A squad is a page; a whole club is many, made as long work.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from math import ceil
from typing import Any

from django.db.models import Q

from drill_ladder.apps.card.paper.pages import (
    MOST_LOOKED_FOR,
    TickRow,
    document,
    resting_of,
    tallies,
)
from drill_ladder.apps.library.models import Rung as StoredRung
from drill_ladder.apps.people.models import Club, Player, Squad
from drill_ladder.apps.practice.judged import work_rung
from drill_ladder.apps.practice.work import works_of
from drill_ladder.apps.prescriptions.dose import fixed
from drill_ladder.apps.prescriptions.models import Stay, by_routine
from drill_ladder.apps.weeks.models import PlannedBlock
from drill_ladder.core.judging import Rung
from drill_ladder.core.work import Place
from drill_ladder.formats.work_words import ToldWork, told_work
from drill_ladder.ui.pages import Context

# lines to tick that a page holds by its print, and the scale of the boxes; measured on full pages
PRINTS = {26: ("", 1.0), 46: ("dense", 0.75), 62: ("denser", 0.55), 84: ("densest", 0.42)}
SMALL = ("denser", "densest")
MANY = ("dense", 0.75)  # of a sheet that no single page holds
# so many blocks are laid out together: a second or two, after which a coach sees how far it is
PART = 40
LINES_OF_A_BLOCK = 2  # its name and its target take as many


@dataclass(frozen=True, slots=True)
class SheetRow:
    """A block of a coach's sheet."""

    player: Player
    work: ToldWork
    minutes: int
    rows: list[TickRow]
    faults: tuple[str, ...]
    look_for: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Sheet:
    """A day at the club. off: the names of those who rest."""

    club: Club
    on: date
    squad: Squad | None
    rows: list[SheetRow]
    off: list[str]

    @property
    def is_long(self) -> bool:
        """Whether laying it out takes longer than anybody looks at a white page."""
        return len(self.rows) > PART


def sheet_of(club: Club, on: date, squad: Squad | None) -> Sheet:
    """Who works at the club on a day, by a handful of questions."""
    blocks, resting = _planned(club, on, squad), resting_of(club)
    off = sorted({str(b.week.player) for b in blocks if b.week.player_id in resting})
    working = [b for b in blocks if b.week.player_id not in resting]
    return Sheet(club, on, squad, _rows(_placed(working), on), off)


def worked_at_club(
    club: Club, on: date, squad: Squad | None
) -> list[tuple[PlannedBlock, Stay, Rung]]:
    """The blocks of a day at the club with the rung and the dose of each, also of those who rest by
    now.
    """
    return [(b, stay, _work(b, stay)[1]) for b, stay in _placed(_planned(club, on, squad))]


def _planned(club: Club, on: date, squad: Squad | None) -> list[PlannedBlock]:
    blocks = PlannedBlock.objects.at_club(club, on).for_sheet()
    return list(blocks if squad is None else blocks.filter(week__player__squad=squad))


def _placed(blocks: Sequence[PlannedBlock]) -> list[tuple[PlannedBlock, Stay]]:
    """Each block with where its player stands; that of a routine with each of its parts."""
    routines = [pk for b in blocks if (pk := b.prescription.player_routine_id) is not None]
    asked = Q(prescription__in=[b.prescription_id for b in blocks])
    standing = Stay.objects.standing_on(asked | Q(prescription__player_routine__in=routines))
    stays = {stay.prescription_id: stay for stay in standing}
    parts = by_routine(standing)
    placed = []
    for block in blocks:
        alone = [stays[block.prescription_id]] if block.prescription_id in stays else []
        siblings = parts.get(block.prescription.player_routine_id or 0, alone)
        placed += [(block, stay) for stay in siblings]
    return placed


def _rows(placed: Sequence[tuple[PlannedBlock, Stay]], on: date) -> list[SheetRow]:
    rungs = [_work(block, stay)[1] for block, stay in placed]
    works = works_of([stay for _, stay in placed], on, Place.CLUB, rungs=rungs)
    return [
        SheetRow(
            player=block.week.player,
            work=told,
            minutes=block.minutes,
            rows=tallies(work),
            faults=told.faults[:3],
            look_for=told.checkpoints[:MOST_LOOKED_FOR],
        )
        for (block, _), work, told in zip(placed, works, map(told_work, works), strict=True)
    ]


def _work(block: PlannedBlock, stay: Stay) -> tuple[StoredRung, Rung]:
    """The rung of a block, with the dose that its band came to where it was planned on that one."""
    stored, rung = work_rung(stay, stay.recheck)
    planned = block.stay_id == stay.pk and not stay.recheck
    return stored, fixed(rung, block.sets, block.reps) if planned else fixed(rung, None, None)


def printed(sheet: Sheet, told: Callable[[int, int], None] | None = None) -> bytes:
    """The sheet as PDF: one page as large as fits, or pages of even print. told: called with how
    many blocks are laid out, and of how many.
    """
    pages: list[Any] = []
    pdf: Any = None
    for done, rows in _parts(sheet):
        context = _context(sheet, rows, last=done == len(sheet.rows))
        pdf = document("card/print_sheet.html", context, _prints(sheet))
        pages += pdf.pages
        if told is not None:
            told(done, len(sheet.rows))
    return bytes(pdf.copy(pages).write_pdf())


def _parts(sheet: Sheet) -> Iterator[tuple[int, list[SheetRow]]]:
    """The rows that are laid out together, and how many those are with all before them."""
    for first in range(0, max(1, len(sheet.rows)), PART):
        rows = sheet.rows[first : first + PART]
        yield first + len(rows), rows


def _context(sheet: Sheet, rows: list[SheetRow], last: bool) -> Context:
    return {
        "club": sheet.club,
        "on": sheet.on,
        "squad": sheet.squad,
        "rows": rows,
        "count": len(sheet.rows),
        "off": sheet.off if last else [],
    }


def _prints(sheet: Sheet) -> dict[str, float]:
    """The largest print that may fit and what is tried after it; the last is taken as it comes."""
    ticks = [len(row.rows) for row in sheet.rows]
    # in small print the ticks of a block stand beside each other
    lines = {
        False: sum(max(LINES_OF_A_BLOCK, n) for n in ticks),
        True: sum(max(LINES_OF_A_BLOCK, ceil(n / 2)) for n in ticks),
    }
    fitting = [of for most, of in PRINTS.items() if lines[of[0] in SMALL] <= most]
    return dict([*fitting, MANY]) if fitting else dict([MANY])
