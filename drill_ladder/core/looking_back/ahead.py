"""What lies ahead of a player by the club's own model (docs/methods.md, 37): how likely they climb
within so many further sessions, how many it takes to the top, and whether the next one passes.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi, sqrt

import numpy as np
from scipy.special import expit

from drill_ladder.core.looking_back.knowledge import Known
from drill_ladder.core.looking_back.simulator import (
    Climber,
    Storey,
    simulate_season,
    unsimulated,
)
from drill_ladder.core.odds.day_spread import reach_chance

FAR = 200  # sessions after which nobody waits any more
RUNS = 2000
BAND = (0.1, 0.9)
NODES, WEIGHTS = np.polynomial.hermite_e.hermegauss(15)


@dataclass(frozen=True, slots=True)
class Outlook:
    """chance: of getting there within the sessions that were asked about; median, low, high:
    sessions until then (80 % of the runs between), None where it is further than anybody waits.
    """

    chance: float
    median: int | None
    low: int | None
    high: int | None


def outlook(
    known: Known,
    storeys: Sequence[Storey],
    climber: Climber,
    to: int,
    sessions: int,
    day_spread: float,
    seed: int = 0,
    runs: int = RUNS,
) -> Outlook | None:
    """Of the first player known, until they arrive at a place (from 0; past the last rung: at the
    top), by seeded simulation; None where a coach's word decides on the way, which nobody can
    simulate.
    """
    if any(unsimulated(storey.rule) for storey in storeys[climber.at : to]):
        return None
    draws = known.drawn(runs, seed)
    reached = simulate_season(storeys, [climber], draws, FAR, seed, day_spread, to)[0, :, to]
    ended = np.sort(reached)
    low, middle, high = (_session(ended, share) for share in (BAND[0], 0.5, BAND[1]))
    return Outlook(float((reached <= sessions).mean()), middle, low, high)


def _session(ended: np.ndarray, share: float) -> int | None:
    value = ended[min(len(ended) - 1, int(share * len(ended)))]
    return int(value) if np.isfinite(value) else None


@dataclass(frozen=True, slots=True)
class FormNow:
    """Log-odds of a player's next session, as far as they are known: mean, standard deviation; and
    by how much days differ, 0..0.5.
    """

    mean: float
    sd: float
    day_spread: float

    def passes(self, n: int, needs: Sequence[int]) -> float:
        """P(each lane has its need of n attempts): over what is not known by Gauss and Hermite,
        over the day for all lanes together.
        """
        found = 0.0
        for node, weight in zip(NODES, WEIGHTS, strict=True):
            rate = float(expit(self.mean + node * self.sd))
            found += weight * reach_chance(n, needs, rate, self.day_spread)
        return min(1.0, float(found) / sqrt(2 * pi))
