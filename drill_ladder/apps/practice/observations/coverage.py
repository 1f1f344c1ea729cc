"""What a player has done lane by lane, and with which lanes a block begins
(docs/methods.md, 22).
"""

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from datetime import date

from django.db import transaction
from django.db.models import QuerySet

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players import refuse_unless_coach
from drill_ladder.apps.practice.models import SetRow
from drill_ladder.apps.practice.querysets import IN_GOOD_ONES
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.core.coaching import Cell, CellState, PutFirst, first_in_next_plan, grid

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
        .annotate(**IN_GOOD_ONES)
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


def begin_with(
    drill: Drill,
    done: Mapping[Cell, CellState],
    on: date,
    put_first: Sequence[PutFirst] = (),
) -> list[str]:
    """The lanes that come first today: those that a coach put first and that were not done since,
    then those never done, not for long, or weak; three at most of these.

    Nothing for drills of fewer than three lanes, where every lane is done anyway, and where no lane
    stands out.
    """
    if len(drill.lanes) < FEWEST_LANES:
        return []
    wanted = waiting_lanes(drill, done, put_first)
    first = first_in_next_plan(grid([drill.lanes, [str(drill.pk)]]), done, on)
    gaps = [lane for (lane, _), _ in first[:FIRST]] if len(first) < len(drill.lanes) else []
    return list(dict.fromkeys([*wanted, *gaps]))


def waiting_lanes(
    drill: Drill, done: Mapping[Cell, CellState], put_first: Sequence[PutFirst]
) -> list[str]:
    """The lanes that a coach put first and that were not done since, in the drill's order."""
    waits = {one.lane for one in put_first if _last(drill, one.lane, done) == one.last}
    return [lane for lane in drill.lanes if lane in waits]


def _last(drill: Drill, lane: str, done: Mapping[Cell, CellState]) -> date | None:
    return done.get((lane, str(drill.pk)), CellState()).last


@transaction.atomic
def put_first(member: Membership, stay: Stay, lane: str) -> bool:
    """Whether a lane is first now on a player's next days: it was not before. Raises Refused."""
    refuse_unless_coach(member)
    drill, player = stay.worked_on.drill, stay.prescription.player
    if lane not in drill.lanes or len(drill.lanes) < FEWEST_LANES:
        raise Refused("This drill has no such lane any more. Nothing was changed.")
    row = Prescription.objects.select_for_update().get(pk=stay.prescription_id)
    done = known_cells(player, drill)
    waits = waiting_lanes(drill, done, row.first_lanes)
    first = [one for one in waits if one != lane] if lane in waits else [*waits, lane]
    row.first_lanes = tuple(PutFirst(one, _last(drill, one, done)) for one in first)
    row.save(update_fields=["first_lanes"])
    verb = "put first" if lane in first else "no longer puts first"
    record(club_id=member.club_id, actor=member.user, verb=verb, subject=row, lane=lane)
    return lane in first
