"""What a player has done lane by lane, and with which lanes a block begins
(docs/methods.md, 22).
"""

from collections import defaultdict
from collections.abc import Iterable, Mapping
from datetime import date

from django.db.models import Max, QuerySet, Sum

from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import SetRow
from drill_ladder.core.coaching import Cell, CellState, first_in_next_plan, grid

FEWEST_LANES = 3
FIRST = 3


def known_cells(player: Player, drill: Drill | None = None) -> dict[Cell, CellState]:
    """(lane, drill id) -> last day, attempts, makes; of all drills or of one."""
    rows = SetRow.objects.filter(session__stay__prescription__player=player)
    if drill is not None:
        rows = rows.filter(session__stay__rung__drill=drill)
    return _cells(rows).get(player.pk, {})


def cells_of_players(wanted: Iterable[tuple[int, Drill]]) -> dict[int, dict[Cell, CellState]]:
    """Player id -> the same of the drills that are asked for; of drills with few lanes nothing is
    looked up.
    """
    asked = [(player, drill) for player, drill in wanted if len(drill.lanes) >= FEWEST_LANES]
    if not asked:
        return {}
    rows = SetRow.objects.filter(
        session__stay__prescription__player__in={player for player, _ in asked},
        session__stay__rung__drill__in={drill.pk for _, drill in asked},
    )
    return _cells(rows)


def _cells(rows: QuerySet[SetRow]) -> dict[int, dict[Cell, CellState]]:
    by_player: dict[int, dict[Cell, CellState]] = defaultdict(dict)
    cells = (
        rows.exclude(lane="")
        .values_list(
            "session__stay__prescription__player_id", "lane", "session__stay__rung__drill_id"
        )
        .annotate(Max("session__on"), Sum("attempts"), Sum("makes"))
        .order_by()
    )
    for player, lane, pk, last, tried, made in cells:
        by_player[player][(lane, str(pk))] = CellState(last, tried or 0, made or 0)
    return by_player


def begin_of(player: Player, drill: Drill, on: date) -> list[str]:
    """The lanes with which a player's block begins today."""
    if len(drill.lanes) < FEWEST_LANES:
        return []
    return begin_with(drill, known_cells(player, drill), on)


def begin_with(drill: Drill, done: Mapping[Cell, CellState], on: date) -> list[str]:
    """The lanes that come first today: never done, not for long, or weak; three at most.

    Nothing for drills of fewer than three lanes, where every lane is done anyway, and where no lane
    stands out.
    """
    if len(drill.lanes) < FEWEST_LANES:
        return []
    first = first_in_next_plan(grid([drill.lanes, [str(drill.pk)]]), done, on)
    return [lane for (lane, _), _ in first[:FIRST]] if len(first) < len(drill.lanes) else []
