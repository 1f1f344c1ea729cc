"""How fast players learn on a ladder and what its rungs cost, from the club's own record: what a
simulated term goes by.

Everything is in log-odds. A day's level is the log-odds of its makes with half a make added to each
side, its variance the sum of the reciprocals (Woolf 1955, Haldane and Anscombe's half). A gain is
the weighted least-squares slope over the days of a stay; the day that climbed is left out of it,
because it was picked for being good. A step is the level at the end of the rung below, reckoned
from its first day and the gain, less the first day above: firsts are not picked.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import log, sqrt

from drill_ladder.core.looking_back.simulator import Level
from drill_ladder.core.statistics.pooling import Pooled, pooled

WIDE = 1.5  # standard deviation of a level of which nothing is known


@dataclass(frozen=True, slots=True)
class Watched:
    """A stay. rung: from 0; days: (attempts, makes) of each full day, oldest first, (1, 0 or 1) for
    not passed or passed where good ones are not counted; climbed: whether its last day climbed.
    """

    player: int
    rung: int
    days: tuple[tuple[int, int], ...]
    climbed: bool


@dataclass(frozen=True, slots=True)
class Learning:
    """What the record says. gain: of all players, None where no stay is long enough; gains: player
    -> own; step: of all rungs; steps: rung -> own; arrival: level on the first day anywhere.
    """

    gain: Pooled | None
    gains: dict[int, Level]
    step: Pooled | None
    steps: dict[int, Level]
    arrival: Pooled | None

    def gain_of(self, player: int) -> Level:
        """A player's gain for each session: their own as far as it is known, else the club's."""
        return self.gains.get(player) or _of_all(self.gain)

    def step_to(self, rung: int) -> Level:
        """What it costs to arrive at a rung."""
        return self.steps.get(rung) or _of_all(self.step)

    def level_of(self, player: int, days: Sequence[tuple[int, int]]) -> Level:
        """Where a player stands after some days on a rung."""
        prior = _of_all(self.arrival) if self.arrival else Level(0.0, WIDE)
        gain = self.gain_of(player).mean
        seen = [(*_level(day), number) for number, day in enumerate(days)]
        points = [(x + gain * (len(days) - number), v) for x, v, number in seen]
        points.append((prior.mean + gain * len(days), max(prior.sd, 0.05) ** 2))
        weights = [1 / v for _, v in points]
        mean = sum(w * x for w, (x, _) in zip(weights, points, strict=True)) / sum(weights)
        return Level(mean, sqrt(1 / sum(weights)))


def _of_all(found: Pooled | None) -> Level:
    return Level(found.mean, sqrt(found.spread**2 + found.se**2)) if found else Level(0.0)


def learning_of(stays: Iterable[Watched]) -> Learning:
    """From every stay of every player on one ladder; stays of no day tell nothing."""
    stays = [stay for stay in stays if stay.days]
    gain, gains = _gains(stays)
    firsts = [_level(stay.days[0]) for stay in stays]
    arrival = pooled([x for x, _ in firsts], [v for _, v in firsts])
    step, steps = _steps(stays, Learning(gain, gains, None, {}, arrival))
    return Learning(gain, gains, step, steps, arrival)


def _level(day: tuple[int, int]) -> tuple[float, float]:
    attempts, makes = day
    good, missed = makes + 0.5, attempts - makes + 0.5
    return log(good / missed), 1 / good + 1 / missed


def _gains(stays: Sequence[Watched]) -> tuple[Pooled | None, dict[int, Level]]:
    """Player by player, their stays weighed by how much each tells."""
    of: dict[int, list[tuple[float, float]]] = defaultdict(list)
    for stay in stays:
        days = stay.days[:-1] if stay.climbed else stay.days
        slope = _slope([_level(day) for day in days])
        if slope is not None:
            of[stay.player].append(slope)
    return _own(of)


def _slope(points: Sequence[tuple[float, float]]) -> tuple[float, float] | None:
    """(Weighted slope for each day, its variance); None under two days."""
    if len(points) < 2:
        return None
    weights = [1 / v for _, v in points]
    total = sum(weights)
    middle = sum(w * n for n, w in enumerate(weights)) / total
    spread = sum(w * (n - middle) ** 2 for n, w in enumerate(weights))
    slope = sum(
        w * (n - middle) * x for n, (w, (x, _)) in enumerate(zip(weights, points, strict=True))
    )
    return slope / spread, 1 / spread


def _steps(stays: Sequence[Watched], so_far: Learning) -> tuple[Pooled | None, dict[int, Level]]:
    """Rung by rung, from players' first stays on neighbouring rungs."""
    first: dict[tuple[int, int], Watched] = {}
    for stay in stays:
        first.setdefault((stay.player, stay.rung), stay)
    of: dict[int, list[tuple[float, float]]] = defaultdict(list)
    for (player, rung), above in first.items():
        below = first.get((player, rung - 1))
        if below is None or not below.climbed:
            continue
        gain = so_far.gain_of(player)
        (x, v), (y, w) = _level(below.days[0]), _level(above.days[0])
        sessions = len(below.days)
        of[rung].append((x + gain.mean * sessions - y, v + w + (gain.sd * sessions) ** 2))
    return _own(of)


def _own(of: dict[int, list[tuple[float, float]]]) -> tuple[Pooled | None, dict[int, Level]]:
    """What all have in common, and each one's own drawn towards it."""
    each = {key: _weighed(points) for key, points in of.items()}
    whole = pooled([x for x, _ in each.values()], [v for _, v in each.values()])
    if whole is None:
        return None, {}
    return whole, {key: Level(*whole.shrunk(x, v)) for key, (x, v) in each.items()}


def _weighed(points: Sequence[tuple[float, float]]) -> tuple[float, float]:
    total = sum(1 / v for _, v in points)
    return sum(x / v for x, v in points) / total, 1 / total
