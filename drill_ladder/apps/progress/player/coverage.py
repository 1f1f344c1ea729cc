"""Where a skill holds and where nobody has looked lately: lanes by drills, cell by cell."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.observations import FEWEST_LANES, known_cells
from drill_ladder.core.coaching import Cell, CellState, first_in_next_plan, grid

NEXT = 5
LATER = "later"  # the ladder has not led there yet


@dataclass(frozen=True, slots=True)
class Row:
    """A lane across the drills: (state, why it comes first, or "")."""

    lane: str
    cells: list[tuple[CellState, str]]


@dataclass(frozen=True, slots=True)
class Grid:
    """Drills that share the same lanes: rows of lanes, columns of drills, and what comes first in
    the next plan.
    """

    drills: list[Drill]
    rows: list[Row]
    upcoming: list[tuple[str, str, str]]


def coverage(player: Player, on: date) -> list[Grid]:
    """A grid for each set of lanes of the player's ladders, three lanes or more."""
    drills = (
        Drill.objects.of_club(player.club)
        .filter(
            rungs__ladder__prescriptions__player=player,
            rungs__ladder__prescriptions__status="active",
        )
        .distinct()
        .order_by("title")
    )
    groups: dict[tuple[str, ...], list[Drill]] = {}
    for drill in drills:
        if len(drill.lanes) >= FEWEST_LANES:
            groups.setdefault(tuple(drill.lanes), []).append(drill)
    cells = known_cells(player) if groups else {}
    reached = set(
        Drill.objects.filter(rungs__stays__prescription__player=player).values_list("pk", flat=True)
    )
    return [_grid(list(lanes), same, cells, reached, on) for lanes, same in groups.items()]


def _grid(
    lanes: list[str],
    drills: Sequence[Drill],
    known: dict[Cell, CellState],
    reached: set[int],
    on: date,
) -> Grid:
    """reached: the drills of rungs where the player stands or stood; the others come later."""
    titles = {str(drill.pk): drill.title for drill in drills}
    here = [str(drill.pk) for drill in drills if drill.pk in reached]
    first = first_in_next_plan(grid([lanes, here]), known, on)
    why = {cell: LATER for cell in grid([lanes, list(titles)]) if cell[1] not in here} | dict(first)
    rows = [Row(lane, [_cell((lane, key), known, why) for key in titles]) for lane in lanes]
    return Grid(
        list(drills), rows, [(lane, titles[key], reason) for (lane, key), reason in first[:NEXT]]
    )


def _cell(cell: Cell, known: dict[Cell, CellState], why: dict[Cell, str]) -> tuple[CellState, str]:
    return known.get(cell, CellState()), why.get(cell, "")
