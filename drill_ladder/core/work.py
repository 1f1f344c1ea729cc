"""One piece of work: this player, this rung, today, like this.

Everything that card, log, routine, hall, paper and sheet show or count comes from this one value;
what is worked out for one of them, all of them have.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from typing import Any

from drill_ladder.core.coaching import KeptFeed
from drill_ladder.core.judging import Count, Rule, Rung
from drill_ladder.core.planning import Misfit, OverLimit, SetTo
from drill_ladder.core.plans import FloorPlan


class Place(StrEnum):
    """Where it is done: at home there may be less room, fewer tools and nobody to feed."""

    HOME = "home"
    CLUB = "club"


class Sound(StrEnum):
    """What a phone that counts by ear listens for."""

    HIT = "hit"
    BOUNCE = "bounce"
    CATCH = "catch"


HEARD_KINDS = ("count", "streak", "to_n")  # measures that need to know no more than when a hit was
MOST_A_SECOND, SILENCE_S = 3.0, 2.0  # where the rung says neither (docs/methods.md, 46)
LEAST_A_SECOND, FASTER = 0.8, 2.0  # of a window: at least, and so many times the pace of its target


@dataclass(frozen=True, slots=True)
class Hearing:
    """How the phone counts it by ear. most: hits a second; silence_s: seconds that end a run."""

    sound: Sound
    most: float = MOST_A_SECOND
    silence_s: float = SILENCE_S


def hearing_of(rung: Rung, sound: str) -> Hearing | None:
    """How a rung is counted by ear; None where it cannot be, also because a caller speaks. sound:
    of its drill, "" for none.
    """
    if not sound or rung.caller is not None or rung.measure.kind not in HEARD_KINDS:
        return None
    most = rung.hits_a_second or _most_of(rung)
    return Hearing(Sound(sound), most, rung.silence_s or SILENCE_S)


def _most_of(rung: Rung) -> float:
    """Hits a second at most where the rung does not say: of a window by its target, so that a foot
    and the wall that answers it are heard as one.
    """
    if not isinstance(rung.measure, Count) or rung.target.value is None:
        return MOST_A_SECOND
    pace = rung.target.value / rung.measure.window_s
    return min(MOST_A_SECOND, max(LEAST_A_SECOND, FASTER * pace))


@dataclass(frozen=True, slots=True)
class Who:
    """Whose work it is. pace_m: the length of their own pace, metres; age: full years, None where
    the month of birth is not noted.
    """

    id: int
    name: str
    left_handed: bool = False
    pace_m: float | None = None
    age: int | None = None


@dataclass(frozen=True, slots=True)
class What:
    """Which rung of which ladder. position: from 1, of so many rungs; new_here: what it changes;
    purpose: of its drill; recheck: the rung below, once, after an absence.
    """

    stay: int
    drill: int
    ladder: str
    position: int
    rungs: int
    title: str
    new_here: str = ""
    purpose: str = ""
    recheck: bool = False


@dataclass(frozen=True, slots=True)
class How:
    """How it is done, for the player's hand and the place. cue: the one of the day; easier: how the
    eased variant goes, and eased: whether it is the one asked; plan: at its size here, percent: of
    its size, None where it is all of it; way: the plainer version that is done here, and what it
    lacks.
    """

    text: str = ""
    cues: tuple[str, ...] = ()
    cue: str = ""
    faults: tuple[str, ...] = ()
    checkpoints: tuple[str, ...] = ()
    easier: str = ""
    eased: bool = False
    mirrored: bool = False
    plan: FloorPlan | None = None
    percent: int | None = None
    way: str = ""
    lacks: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Together:
    """With whom. fed: whether somebody feeds, so that a feed can be a bad one."""

    people: str
    group_of: int | None = None
    fed: bool = False


@dataclass(frozen=True, slots=True)
class Safety:
    """What keeps it safe. worn: each ticked before; adult: one has to be there; only_fresh: never
    done tired; misfits: tools that do not fit the player's height, and measured_on: when that is so
    long ago that it has to be measured again; over: own tools beyond a limit of the governing body;
    set_to: to what the others are set.
    """

    note: str = ""
    worn: tuple[str, ...] = ()
    adult: bool = False
    only_fresh: bool = False
    tools: tuple[str, ...] = ()
    misfits: tuple[Misfit, ...] = ()
    over: tuple[OverLimit, ...] = ()
    set_to: tuple[SetTo, ...] = ()
    measured_on: date | None = None


@dataclass(frozen=True, slots=True)
class Conduct:
    """How it runs. begin: lanes that come first today; tempos: shares of full speed to choose from,
    tempo: today's, and why it is another one than last time; calls: of each set; tired_too: once
    more at the end of other work; heard: how the phone counts it by ear, where it can; feed: which
    of the rung's feeds it is today, None where it has none.
    """

    begin: tuple[str, ...] = ()
    tempos: tuple[float, ...] = ()
    tempo: float | None = None
    tempo_why: str = ""
    calls: Mapping[str, Any] | None = None
    tired_too: bool = False
    heard: Hearing | None = None
    feed: KeptFeed | None = None


@dataclass(frozen=True, slots=True)
class Work:
    """One piece of work. rung: with the dose of the day; lanes: as they are said to this player, in
    the rung's order; rule: in force; seen: whether a coach has to see the last pass.
    """

    who: Who
    what: What
    rung: Rung
    rule: Rule
    how: How
    together: Together
    safety: Safety
    conduct: Conduct = field(default_factory=Conduct)
    lanes: tuple[str, ...] = ()
    seen: bool = False

    @property
    def turns(self) -> tuple[str, ...]:
        """The order of lanes, as far as the drill still has them: it may have changed since."""
        return tuple(lane for lane in self.rung.turns if lane in self.rung.lanes)
