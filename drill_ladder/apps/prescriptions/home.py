"""What there is at a player's home, and how a drill may be done there."""

from dataclasses import replace

from drill_ladder.apps.library.models import Caution, Drill, People
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.planning import AtHome, Home, SoloVersion, Version, kit_of, tool, version_for
from drill_ladder.core.plans import FloorPlan
from drill_ladder.core.work import Place


def home_of(player: Player) -> Home:
    """What there is at a player's home; what nobody noted is no obstacle."""
    sides = (player.home_width, player.home_depth)
    space = (sides[0], sides[1]) if sides[0] and sides[1] else None
    days = list(player.days.all())
    return Home(
        space=space,
        wall=player.home_wall,
        feeder=player.home_feeder or any(day.helper for day in days if day.place == Place.HOME),
        adult=player.home_adult or any(day.adult for day in days if day.place == Place.HOME),
        tools=kit_of(player.home_tools.split(",")),
        surface=player.home_surface.strip().lower(),
    )


def at_home(
    drill: Drill, player: Player, plan: FloorPlan | None = None, smaller: bool = False
) -> AtHome:
    """The nearest version of a drill that the player's home allows, and what is lost.

    plan: how a rung sets the drill up; None: as the drill has it. smaller: at any size.
    """
    noted = bool(player.home_tools.strip())
    return version_at(drill, plan or drill.plan, home_of(player), noted, smaller)


def home_way(stay: Stay) -> AtHome:
    """How the drill that a player works on is done at their home, and what is then lost."""
    work = stay.worked_on
    p = stay.prescription
    return at_home(work.drill, p.player, work.floor_plan, p.smaller)


def version_at(
    drill: Drill, plan: FloorPlan | None, home: Home, tools_noted: bool, smaller: bool = False
) -> AtHome:
    """The nearest version for a home that was read already. tools_noted: whether anybody said which
    tools are there; smaller: whether it may be set up at any size.
    """
    wants = Version(
        name="",
        adult=drill.caution == Caution.HOME_WITH_ADULT,
        allowed=drill.caution != Caution.COACHED_ONLY,
        fits_from=0 if smaller else drill.smallest,
        timed=drill.measure.is_timed,
    )
    full = SoloVersion("", drill.people, drill.wall, tuple(drill.tools), (), tuple(drill.surfaces))
    ways = [_version(way, drill, wants, home, tools_noted) for way in (full, *drill.versions)]
    # another way to set it up is not bound by the full drill's floor plan
    ways[0] = replace(ways[0], plan=plan.metres if plan else None, solo=False)
    return version_for(ways, home)


def _version(
    way: SoloVersion, drill: Drill, wants: Version, home: Home, tools_noted: bool
) -> Version:
    tools = kit_of(way.tools) if tools_noted else frozenset()
    if way.people == People.GROUP:
        tools |= {f"a group of {drill.group_of or 3}"}
    return replace(
        wants,
        name=way.name,
        wall=way.wall,
        feeder=way.people in (People.FEEDER, People.PARTNER, People.TARGET),
        tools=tools,
        surfaces=frozenset(name.lower() for name in way.surfaces) if home.surface else frozenset(),
        solo=True,
        loses=way.loses,
        substitutes=tuple((tool(a), tool(b)) for a, b in way.instead),
    )
