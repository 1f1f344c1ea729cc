"""The nearest allowed version of a drill at a player's home, honest about what is lost
(docs/methods.md, 21). Names of tools are compared as people write them: three balls, two balls and
a ball are all balls (plain English habits, our own choice).
"""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from drill_ladder.core.plans.layout import Plan, Spot, largest_scale
from drill_ladder.core.thresholds import at_least

_COUNTS = frozenset(
    "a an the one two three four five six seven eight nine ten eleven twelve twenty "  # noqa: SIM905
    "some few several pair of many".split()
)
_WORD = re.compile(r"[^\W\d_]+(?:[-'][^\W\d_]+)*")


def tool(text: str) -> str:
    """One name: lower case, without how many of them, in the singular. Empty for no name."""
    words = [word for word in _WORD.findall(text.lower()) if word not in _COUNTS]
    if not words:
        return ""
    return " ".join([*words[:-1], _single(words[-1])])


def _single(word: str) -> str:
    if word.endswith("ies") and len(word) > 4:
        return word[:-3] + "y"
    if word.endswith(("sses", "shes", "ches", "xes")):
        return word[:-2]
    return word[:-1] if word.endswith("s") and not word.endswith(("ss", "us")) else word


def kit_of(names: Iterable[str]) -> frozenset[str]:
    """All names of a list that say something."""
    return frozenset(filter(None, map(tool, names)))


SMALLER = "scaled down: times do not compare"
FITS_FROM = 0.8  # of its size: our choice; times ask for all of it


@dataclass(frozen=True, slots=True)
class Home:
    """What there is: space (width, depth) in metres or None, wall, feeder, adult, tools,
    surface.
    """

    space: Spot | None = None
    wall: bool = False
    feeder: bool = False
    adult: bool = False
    tools: frozenset[str] = frozenset()
    surface: str = ""


@dataclass(frozen=True, slots=True)
class Version:
    """A way to do a drill. surfaces empty: any; loses: what it lacks against the full drill;
    allowed: at home; fits_from: the least share of its size at which its plan is still the drill;
    timed: whether times are taken over it.
    """

    name: str
    wall: bool = False
    feeder: bool = False
    adult: bool = False
    tools: frozenset[str] = frozenset()
    surfaces: frozenset[str] = frozenset()
    plan: Plan | None = None
    solo: bool = False
    loses: tuple[str, ...] = ()
    allowed: bool = True
    substitutes: tuple[tuple[str, str], ...] = ()
    fits_from: float = FITS_FROM
    timed: bool = False


@dataclass(frozen=True, slots=True)
class SoloVersion:
    """A way to do a drill with less than it asks for, as its author wrote it; instead: (tool, what
    stands in for it).

    people: solo, feeder, partner, target or group; loses: what it lacks against the full drill.
    """

    name: str
    people: str = "solo"
    wall: bool = False
    tools: tuple[str, ...] = ()
    instead: tuple[tuple[str, str], ...] = ()
    surfaces: tuple[str, ...] = ()
    loses: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class AtHome:
    """The chosen version (None: nothing is possible), what is lost, what stands in for what, the
    scale, what lacked.

    nearest: where nothing is possible, the plainer version that lacks least, and what it lacks; ""
    without one.
    """

    version: Version | None
    lost: tuple[str, ...] = ()
    stands_in: tuple[tuple[str, str], ...] = ()
    scale: float | None = None
    lacking: tuple[str, ...] = ()
    nearest: str = ""
    nearest_lacks: tuple[str, ...] = ()

    @property
    def set_up_at(self) -> float | None:
        """The scale at which the full drill's plan is set up; None for another way to do it."""
        return None if self.way else self.scale

    @property
    def way(self) -> str:
        """The version's name; empty for the full drill and where nothing is possible."""
        return self.version.name if self.version else ""


def version_for(versions: Sequence[Version], home: Home) -> AtHome:
    """The first possible of the versions, which come from the full drill to the plainest.

    Results of a solo version count for completion and, with the trust setting, for climbing. A plan
    that only fits scaled down says so: times no longer compare. `lacking` names what the full
    version lacked.
    """
    lacked = lacking(versions[0], home) if versions else ()
    for version in versions:
        if lacking(version, home):
            continue
        scale = _scale(version, home)
        smaller = scale is not None and scale < 1 and version.timed
        lost = (SMALLER,) if smaller else ()
        used = tuple(
            pair
            for pair in version.substitutes
            if pair[0] not in home.tools and pair[0] in version.tools
        )
        return AtHome(version, (*version.loses, *lost), used, scale, lacked)
    others = sorted(
        ((version.name, lacking(version, home)) for version in versions[1:]),
        key=lambda one: len(one[1]),
    )
    nearest, lacks = others[0] if others else ("", ())
    scale = _scale(versions[0], home) if versions else None
    return AtHome(None, scale=scale, lacking=lacked, nearest=nearest, nearest_lacks=lacks)


def lacking(version: Version, home: Home) -> tuple[str, ...]:
    """What a home lacks for a version, by name; empty when it can be done."""
    instead = dict(version.substitutes)
    tools = sorted(
        t for t in version.tools if t not in home.tools and instead.get(t) not in home.tools
    )
    needs = {
        "not allowed at home": version.allowed,
        "wall": home.wall or not version.wall,
        "feeder": home.feeder or not version.feeder,
        "adult": home.adult or not version.adult,
        "surface": not version.surfaces or home.surface in version.surfaces,
        "space": _has_space(version, home),
    }
    return (*(name for name, holds in needs.items() if not holds), *tools)


def _scale(version: Version, home: Home) -> float | None:
    """The scale at which its plan is set up at home; None without a plan, or where nobody noted the
    space; 0 where not even the margin fits.
    """
    if version.plan is None or home.space is None:
        return None
    return largest_scale(version.plan, home.space) or 0.0


def _has_space(version: Version, home: Home) -> bool:
    scale = _scale(version, home)
    return scale is None or (scale > 0 and at_least(scale, version.fits_from))
