"""The caller of a rung: what is called, how predictably and how fast (docs/methods.md, 2.8, 16).

It belongs to the rung, as dose and target do: who arrives there is called by it.
"""

from dataclasses import dataclass, replace
from enum import StrEnum

A_NAME = "a name"  # called in the hall as somebody who is there


class Mode(StrEnum):
    """How predictable the caller is."""

    KNOWN = "known"
    SERIAL = "serial"
    RANDOM = "random"


class Way(StrEnum):
    """How a call reaches the player: spoken where a device can, as a word on a colour, or as an
    arrow to its place on the floor plan.
    """

    VOICE = "voice"
    WORD = "word"
    ARROW = "arrow"


@dataclass(frozen=True, slots=True)
class Cue:
    """What is called; action: what is right then, where the cue is a situation to be read; by: the
    foot, hand or tool that it is to be done with, which is part of the right answer.
    """

    name: str
    action: str = ""
    by: str = ""


@dataclass(frozen=True, slots=True)
class Caller:
    """every_s: seconds from call to call, give or take the share `spread`; leave: share of calls
    that are to be left alone.

    A late call: "go" comes first, the call itself late_s seconds after it, or when the player or
    the ball reaches the marker late_at; late_speed, metres a second, says when that is. clash: a
    word that names a colour is shown on another one on purpose; else it stands on none.
    """

    cues: tuple[Cue, ...]
    mode: Mode = Mode.RANDOM
    every_s: float = 4.0
    spread: float = 0.25
    leave: float = 0.0
    late_s: float | None = None
    late_at: str = ""
    late_speed: float | None = None
    way: Way = Way.VOICE
    clash: bool = False

    @property
    def names(self) -> tuple[str, ...]:
        """The calls by name."""
        return tuple(cue.name for cue in self.cues)

    @property
    def at_home(self) -> "Caller":
        """As it calls where nobody else is: without names, as long as anything else is called."""
        others = tuple(cue for cue in self.cues if cue.name != A_NAME)
        return replace(self, cues=others or self.cues)

    @property
    def has_situations(self) -> bool:
        """Whether a call is a situation, answered by reading it and then by doing it."""
        return any(cue.action for cue in self.cues)
