"""A group block in one touch: those who share a drill do it together, in its roles, from now on."""

from collections.abc import Sequence
from datetime import date

from drill_ladder.apps.floor.models import GroupSession
from drill_ladder.apps.floor.stations.services import set_up
from drill_ladder.apps.library.models import Drill, People
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.core.planning import Station

SLOT_S, CHANGE_S = 240, 20
MOST_SLOTS = 8
# who is needed, the one who repeats first, and the seconds of one repetition; common practice, no
# source
ROLES: dict[str, tuple[tuple[str, ...], float]] = {
    People.FEEDER: (("worker", "feeder"), 6.0),
    People.PARTNER: (("worker", "partner"), 6.0),
}
ALONE: tuple[tuple[str, ...], float] = (("worker",), 4.0)


def begin_group(
    *,
    member: Membership,
    title: str,
    drill: Drill,
    players: Sequence[Player],
    on: date,
    turn_reps: int | None = None,
) -> GroupSession:
    """One station with everybody at it; roles go round by the clock or after so many each, and
    where one is too many, so does the rest. Raises Refused.
    """
    roles, s_per_rep = ROLES.get(drill.people, ALONE)
    places = len(players) - len(players) % len(roles)
    if not places:
        raise Refused(f"{drill} takes {len(roles)} at least. Nothing was set up.")
    even = places == len(players)
    return set_up(
        member=member,
        title=title or drill.title,
        on=on,
        players=[player.pk for player in players],
        stations=[Station(drill.title, places, roles, s_per_rep)],
        slot_s=SLOT_S,
        change_s=CHANGE_S,
        turn_reps=turn_reps,
        slots=len(roles) if even else min(MOST_SLOTS, len(players)),
    )
