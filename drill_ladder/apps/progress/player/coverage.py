"""Where a skill holds and where nobody has looked lately: lanes by drills, cell by cell."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.observations import FEWEST_LANES, known_cells, waiting_lanes
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.coaching import Cell, CellState, first_in_next_plan, grid

NEXT = 5
LATER = "later"  # the ladder has not led there yet
DONE = "done"  # and not counted in good ones


@dataclass(frozen=True, slots=True)
class Square:
    """What is known of a lane of a drill; why: it comes first, or ""; stay: where it can be put
    first (None: the player does not stand there), first: whether a coach has.
    """

    state: CellState
    why: str
    stay: int | None = None
    first: bool = False


@dataclass(frozen=True, slots=True)
class Row:
    """A lane across the drills."""

    lane: str
    cells: list[Square]


@dataclass(frozen=True, slots=True)
class Grid:
    """Drills that share the same lanes: rows of lanes, columns of drills, and what comes first in
    the next plan.
    """

    drills: list[Drill]
    rows: list[Row]
    upcoming: list[tuple[str, str, str]]


@dataclass(frozen=True, slots=True)
class _Seen:
    """What grids are made of. known: what was done; reached: the drills of rungs where the player
    stands or stood, the others come later; stays: drill -> where the player stands with it.
    """

    known: dict[Cell, CellState]
    reached: set[int]
    stays: Mapping[int, Stay]
    on: date


def coverage(player: Player, on: date) -> list[Grid]:
    """A grid for each set of lanes of the player's ladders, three lanes or more."""
    drills = Drill.objects.of_club(player.club).prescribed_to(player)
    groups: dict[tuple[str, ...], list[Drill]] = {}
    for drill in drills:
        if len(drill.lanes) >= FEWEST_LANES:
            groups.setdefault(tuple(drill.lanes), []).append(drill)
    if not groups:
        return []
    reached = Drill.objects.filter(rungs__stays__prescription__player=player)
    stays = Stay.objects.of_player(player).current()
    seen = _Seen(
        known_cells(player),
        set(reached.values_list("pk", flat=True)),
        {stay.worked_on.drill_id: stay for stay in stays},
        on,
    )
    return [_grid(list(lanes), same, seen) for lanes, same in groups.items()]


def _grid(lanes: list[str], drills: Sequence[Drill], seen: _Seen) -> Grid:
    titles = {str(drill.pk): drill.title for drill in drills}
    here = [str(drill.pk) for drill in drills if drill.pk in seen.reached]
    first = first_in_next_plan(grid([lanes, here]), seen.known, seen.on)
    why = {cell: LATER for cell in grid([lanes, list(titles)]) if cell[1] not in here} | dict(first)
    wanted = {drill.pk: _wanted(drill, seen) for drill in drills}
    rows = [
        Row(lane, [_square(lane, drill, why, wanted[drill.pk], seen) for drill in drills])
        for lane in lanes
    ]
    upcoming = [(lane, titles[key], reason) for (lane, key), reason in first[:NEXT]]
    return Grid(list(drills), rows, upcoming)


def _wanted(drill: Drill, seen: _Seen) -> list[str]:
    """The lanes of a drill that a coach has put first."""
    stay = seen.stays.get(drill.pk)
    if stay is None:
        return []
    return waiting_lanes(drill, seen.known, stay.prescription.first_lanes)


def _square(
    lane: str, drill: Drill, why: Mapping[Cell, str], wanted: Sequence[str], seen: _Seen
) -> Square:
    cell, stay = (lane, str(drill.pk)), seen.stays.get(drill.pk)
    state = seen.known.get(cell, CellState())
    return Square(
        state,
        why.get(cell, "" if state.attempts or not state.last else DONE),
        None if stay is None else stay.pk,
        lane in wanted,
    )
