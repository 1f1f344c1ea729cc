"""From a player's days and prescriptions to the core's week, and what is possible at their home."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import ceil
from typing import Any

from drill_ladder.apps.library.models import Caution, Drill, People
from drill_ladder.apps.people.models import Player, Where
from drill_ladder.apps.prescriptions.models import PlannedBlock, Prescription, Stay, Week
from drill_ladder.apps.prescriptions.services import more_terms
from drill_ladder.core.dose import Block, Intent
from drill_ladder.core.home_version import AtHome, Home, Version, home_version
from drill_ladder.core.kit import kit, tool
from drill_ladder.core.ladders import Rung
from drill_ladder.core.measures import Count, Done, Streak, Time, ToN
from drill_ladder.core.week import Day, Placed, Wish
from drill_ladder.formats.documents import plan_from, rung_from

SETUP_S, LANE_CHANGE_S, USUAL_S = 60, 5, 6
SHORTEST = 3  # minutes: nobody unpacks for less
EVERYBODY = 99  # helpers at the club
ONE_TRY_S = 20


@dataclass(frozen=True, slots=True)
class Wanted:
    """A prescription for the planner: its wish, the home version (None: not at home), the terms of its rung."""

    prescription: Prescription
    stay: Stay
    rung: Rung
    wish: Wish
    home: AtHome | None

    @property
    def lost(self) -> tuple[str, ...]:
        """What the home version lacks."""
        return self.home.lost if self.home and self.way else ()

    @property
    def way(self) -> str:
        """The home version's name; empty for the full drill."""
        return self.home.way if self.home else ""


def home_of(player: Player) -> Home:
    """What there is at a player's home; what nobody noted is no obstacle."""
    sides = (player.home_width, player.home_depth)
    space = (sides[0], sides[1]) if sides[0] and sides[1] else None
    days = list(player.days.all())
    return Home(
        space=space,
        wall=player.home_wall,
        feeder=player.home_feeder or any(day.helper for day in days if day.place == Where.HOME),
        adult=player.home_adult or any(day.adult for day in days if day.place == Where.HOME),
        tools=kit(player.home_tools.split(",")),
        surface=player.home_surface.strip().lower(),
    )


def at_home(drill: Drill, player: Player, plan: dict[str, Any] | None = None) -> AtHome:
    """The nearest version of a drill that the player's home allows, and what is lost.

    plan: how a rung sets the drill up, in the open format; None: as the drill has it.
    """
    return _at_home(drill, plan or drill.plan, home_of(player), bool(player.home_tools.strip()))


def home_way(stay: Stay) -> AtHome:
    """How the drill that a player works on is done at their home, and what is then lost."""
    work = stay.worked_on
    return at_home(work.drill, stay.prescription.player, work.floor_plan)


def _at_home(drill: Drill, plan: dict[str, Any] | None, home: Home, tools_noted: bool) -> AtHome:
    return home_version(_versions(drill, plan, home, tools_noted), home)


def _versions(drill: Drill, document: dict[str, Any] | None, home: Home, tools_noted: bool) -> list[Version]:
    plan = plan_from(document)[0] if document else None
    same: dict[str, Any] = {
        "adult": drill.caution == Caution.HOME_WITH_ADULT,
        "allowed": drill.caution != Caution.COACHED_ONLY,
        "plan": plan,
    }
    full = {"people": drill.people, "tools": drill.tools, "wall": drill.wall, "surfaces": drill.surfaces}
    ways = [full, *drill.versions]
    return [_version(way, drill, same, home, tools_noted) for way in ways]


def _version(way: dict[str, Any], drill: Drill, same: dict[str, Any], home: Home, tools_noted: bool) -> Version:
    people = way.get("people", People.SOLO)
    tools = kit(way.get("tools", [])) if tools_noted else frozenset()
    if people == People.GROUP:
        tools |= {f"a group of {drill.group_of or 3}"}
    surfaces = frozenset(name.lower() for name in way.get("surfaces", [])) if home.surface else frozenset()
    if "name" in way:
        same = {**same, "plan": None}  # another way to set it up: the full drill's floor plan does not bind it
    return Version(
        name=way.get("name", ""),
        wall=way.get("wall", False),
        feeder=people in (People.FEEDER, People.PARTNER, People.TARGET),
        tools=tools,
        surfaces=surfaces,
        solo="name" in way,
        loses=tuple(way.get("loses", [])),
        substitutes=tuple((tool(a), tool(b)) for a, b in way.get("instead", {}).items()),
        **same,
    )


def block_of(rung: Rung) -> Block:
    """A rung's dose in time."""
    dose, measure = rung.dose, rung.measure
    each = dose.s_per_rep or USUAL_S
    reps: int | None = rung.reps_per_set or 10
    if isinstance(measure, Count):
        work, reps = measure.window_s, None
    elif isinstance(measure, Time):
        work, reps = (dose.reps or 1) * (rung.target.value or ONE_TRY_S), None
    elif isinstance(measure, ToN):
        work, reps = (rung.target.value or 2 * measure.n) * each, None
    elif isinstance(measure, Done):
        work, reps = dose.s_per_rep or 60.0, None
    elif isinstance(measure, Streak) or rung.reps_per_set is None:
        work, reps = ONE_TRY_S, None
    else:
        work = (reps or 10) * each
    lanes = max(1, len(rung.lanes))
    return Block(dose.sets, work, reps, lanes, LANE_CHANGE_S if lanes > 1 else 0, SETUP_S, dose.rest_s)


def minutes_of(rung: Rung) -> int:
    """Whole minutes of a block."""
    return max(SHORTEST, ceil(block_of(rung).seconds / 60))


def asked_minutes(found: Iterable[Wanted]) -> float:
    """Minutes a week that all of it takes."""
    return sum(one.wish.minutes * one.wish.per_week for one in found)


def wanted(player: Player, monday: date | None = None) -> list[Wanted]:
    """What the player's active prescriptions ask of a week; monday: only those that have begun by the end of that week.

    A player who rests is asked for nothing.
    """
    return wanted_of([player], monday)[player.pk]


def wanted_by_id(player: Player, monday: date) -> dict[str, Wanted]:
    """The same by the wish's id, the most urgent first."""
    return {one.wish.id: one for one in wanted(player, monday)}


def wanted_of(players: Sequence[Player], monday: date | None = None) -> dict[int, list[Wanted]]:
    """The same for many at once: player id -> what is asked, the most urgent first."""
    resting = set(Player.objects.resting().filter(pk__in=[p.pk for p in players]).values_list("pk", flat=True))
    asked = {player.pk: player for player in players if player.pk not in resting}
    found: dict[int, list[Wanted]] = {player.pk: [] for player in players}
    homes = {pk: (home_of(player), bool(player.home_tools.strip())) for pk, player in asked.items()}
    for stay in Stay.objects.for_weeks(list(asked)):
        if monday is not None and stay.prescription.started_on > monday + timedelta(days=6):
            continue
        pk = stay.prescription.player_id
        found[pk].append(_wanted(stay, *homes[pk]))
    return found


def _wanted(stay: Stay, at: Home, tools_noted: bool) -> Wanted:
    p, rung = stay.prescription, rung_from(stay.terms["rung"])
    work = stay.worked_on
    home = _at_home(work.drill, work.floor_plan, at, tools_noted) if p.place != "coached" else None
    places = {"home": {"home"}, "coached": {"club"}}.get(p.place, {"home", "club"})
    if home is None or home.version is None:
        places = places - {"home"}
    version = home.version if home else None
    wish = Wish(
        id=str(p.pk),
        per_week=p.per_week,
        minutes=minutes_of(rung),
        priority=p.priority,
        intent=Intent(p.intent or more_terms(stay.terms)["intent"]),
        # nowhere at all is a place that no day has: the planner then says that the place is what lacks
        places=frozenset(places or {"nowhere"}),
        helpers=int(bool(version and version.feeder)),
        adult=bool(version and version.adult),
        rest_day_between=p.rest_day_between,
        first=p.started_on,
    )
    return Wanted(p, stay, rung, wish, home)


def days_of(player: Player, monday: date, skipped: Sequence[int], blocks: Sequence[PlannedBlock]) -> list[Day]:
    """The player's days of a week without those that are skipped, and those without minutes on which somebody put a
    block all the same.
    """
    days = {day.on: day for day in (_day(d, monday) for d in player.days.all() if d.weekday not in skipped)}
    extra = {b.on: Day(b.on, 0, b.place) for b in blocks if b.on not in days}
    return sorted([*days.values(), *extra.values()], key=lambda day: day.on)


def _day(day: Any, monday: date) -> Day:
    club = day.place == Where.CLUB
    helpers = EVERYBODY if club else int(day.helper)
    return Day(monday + timedelta(days=day.weekday), day.minutes, day.place, frozenset(), helpers, club or day.adult)


def placed_of(blocks: Sequence[PlannedBlock]) -> list[Placed]:
    """Stored blocks as the core's."""
    return [Placed(b.on, str(b.prescription_id), b.order, b.minutes) for b in blocks]


def days_of_week(week: Week, blocks: Sequence[PlannedBlock]) -> list[Day]:
    """The week's days as they are planned on."""
    return days_of(week.player, week.monday, week.skipped, blocks)
