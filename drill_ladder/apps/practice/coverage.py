"""What a player has done lane by lane, and with which lanes a block begins (design, section 22)."""

from datetime import date

from django.db.models import Max, Sum

from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import SetRow
from drill_ladder.core.coaching import Cell, CellState, first_in_next_plan, grid

FEWEST_LANES = 3
FIRST = 3


def known_cells(player: Player, drill: Drill | None = None) -> dict[Cell, CellState]:
    """(lane, drill id) -> last day, attempts, makes; of all drills or of one."""
    rows = SetRow.objects.filter(session__stay__prescription__player=player).exclude(lane="")
    if drill is not None:
        rows = rows.filter(session__stay__rung__drill=drill)
    cells = (
        rows.values_list("lane", "session__stay__rung__drill_id")
        .annotate(Max("session__on"), Sum("attempts"), Sum("makes"))
        .order_by()
    )
    return {
        (lane, str(pk)): CellState(last, tried or 0, made or 0)
        for lane, pk, last, tried, made in cells
    }


def begin_with(player: Player, drill: Drill, on: date) -> list[str]:
    """The lanes that come first today: never done, not for long, or weak; three at most.

    Nothing for drills of fewer than three lanes, where every lane is done anyway, and where no lane
    stands out.
    """
    if len(drill.lanes) < FEWEST_LANES:
        return []
    first = first_in_next_plan(grid([drill.lanes, [str(drill.pk)]]), known_cells(player, drill), on)
    return [lane for (lane, _), _ in first[:FIRST]] if len(first) < len(drill.lanes) else []
