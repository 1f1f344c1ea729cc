"""Stations for a group: a rotation in which everybody works everywhere, and what it gains
(docs/methods.md, 15).
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from drill_ladder.core.errors import CoreError
from drill_ladder.core.thresholds import rounded_down


@dataclass(frozen=True, slots=True)
class Station:
    """capacity: players at it, a multiple of the number of roles; s_per_rep > 0: seconds of one
    repetition; balls: how many there are to share (None: one for each who works).
    """

    name: str
    capacity: int
    roles: tuple[str, ...]
    s_per_rep: float
    balls: int | None = None

    @property
    def workers(self) -> int:
        """How many repeat there at a time."""
        return -(-self.capacity // len(self.roles))

    def reps(self, seconds: float) -> int:
        """Repetitions of one worker in that time. Balls that are fewer than the workers go round:
        each has one for their share of the time.
        """
        share = 1.0 if self.balls is None else min(1.0, self.balls / self.workers)
        return rounded_down(seconds * share / self.s_per_rep)

    def seconds(self, reps: int) -> float:
        """How long each worker takes for so many."""
        share = 1.0 if self.balls is None else min(1.0, self.balls / self.workers)
        return reps * self.s_per_rep / share


@dataclass(frozen=True, slots=True)
class Spot:
    """Where somebody was in a slot that was run, and as what."""

    station: str
    role: str


@dataclass(frozen=True, slots=True)
class Turn:
    """A player (from 1) at a station in a role."""

    player: int
    station: str
    role: str


@dataclass(frozen=True, slots=True)
class PlayerShare:
    """What a player gets: reps, and slots by station and by role."""

    player: int
    reps: int
    stations: dict[str, int]
    roles: dict[str, int]


@dataclass(frozen=True, slots=True)
class Rotation:
    """slots: turns of each slot. idle_share 0..1 of all player-slots; queue_reps: reps each if all
    queued instead.
    """

    slots: list[list[Turn]]
    players: list[PlayerShare]
    left_out: list[str]
    idle_share: float
    queue_reps: float
    gain: float


def rotate(
    players: int, stations: Sequence[Station], slot_s: float, change_s: float = 0
) -> Rotation:
    """As many slots as players; in slot t player i takes place (i + t) mod players, and rests where
    there is none.

    Repetitions go to the first role of a station. Raises CoreError when no station can be filled.
    """
    running, left_out = _running(players, stations)
    if not running:
        raise CoreError(f"no station can be filled with {players} players")
    places = [(s, s.roles[j % len(s.roles)]) for s in running for j in range(s.capacity)]
    slots = [_slot(players, places, t) for t in range(players)]
    shares = _shares(players, slots, {s.name: (s, s.reps(slot_s)) for s in running})
    queue = _queue_reps(players, running, players * slot_s + (players - 1) * change_s)
    mean = sum(share.reps for share in shares) / players
    idle = 1 - len(places) / players
    return Rotation(slots, shares, left_out, idle, queue, mean / queue - 1)


def _running(players: int, stations: Sequence[Station]) -> tuple[list[Station], list[str]]:
    """In order, each station that the players still left can fill; and the names of the others."""
    running: list[Station] = []
    left_out: list[str] = []
    for station in stations:
        if station.capacity <= players - sum(s.capacity for s in running):
            running.append(station)
        else:
            left_out.append(station.name)
    return running, left_out


def _slot(players: int, places: list[tuple[Station, str]], t: int) -> list[Turn]:
    turns = []
    for i in range(players):
        place = (i + t) % players
        if place < len(places):
            station, role = places[place]
            turns.append(Turn(i + 1, station.name, role))
    return turns


def _shares(
    players: int, slots: list[list[Turn]], known: dict[str, tuple[Station, int]]
) -> list[PlayerShare]:
    stations: list[Counter[str]] = [Counter() for _ in range(players)]
    roles: list[Counter[str]] = [Counter() for _ in range(players)]
    reps = [0] * players
    for slot in slots:
        for turn in slot:
            i = turn.player - 1
            station, reps_a_slot = known[turn.station]
            stations[i][turn.station] += 1
            roles[i][turn.role] += 1
            reps[i] += reps_a_slot if turn.role == station.roles[0] else 0
    return [PlayerShare(i + 1, reps[i], dict(stations[i]), dict(roles[i])) for i in range(players)]


def _queue_reps(players: int, running: Sequence[Station], seconds: float) -> float:
    """Reps of each player if all queued: the whole time shared by the stations run, one worker at a
    time.
    """
    share = seconds / len(running)
    return sum(share / station.s_per_rep for station in running) / players


def resume(
    players: int,
    stations: Sequence[Station],
    slots: int,
    before: Sequence[Mapping[str, int]],
    slot_s: float,
    change_s: float = 0,
) -> Rotation:
    """The rest of a session whose players have changed: `slots` more, begun where it evens out best
    what was before.

    before: for each player (in order) how often they were at each station already, empty for who
    comes late. Of all places at which the new rotation can begin, the one with the least sum of
    squares of those counts; the earliest of several. Our own choice: nobody is asked to catch up.
    slots >= 1. Raises CoreError when no station can be filled.
    """
    whole = rotate(players, stations, slot_s, change_s)
    begun = [[whole.slots[(first + t) % players] for t in range(slots)] for first in range(players)]
    best = min(begun, key=lambda chosen: _unevenness(chosen, before))
    running = [s for s in stations if s.name not in whole.left_out]
    shares = _shares(players, best, {s.name: (s, s.reps(slot_s)) for s in running})
    queue = _queue_reps(players, running, slots * slot_s + (slots - 1) * change_s)
    mean = sum(share.reps for share in shares) / players
    return replace(whole, slots=best, players=shares, queue_reps=queue, gain=mean / queue - 1)


def _unevenness(slots: Sequence[Sequence[Turn]], before: Sequence[Mapping[str, int]]) -> int:
    counts = [Counter(dict(one)) for one in before]
    for slot in slots:
        for turn in slot:
            counts[turn.player - 1][turn.station] += 1
    return sum(n * n for count in counts for n in count.values())
