"""What there is at a player's home, and how a drill may be done there."""

from typing import Any

from drill_ladder.apps.library.models import Caution, Drill, People
from drill_ladder.apps.people.models import Player, Where
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.planning import AtHome, Home, Version, home_version, kit, tool
from drill_ladder.formats.documents import plan_from


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
