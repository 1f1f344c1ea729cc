"""By how much a score is over what was asked, on the scale where gains are a straight line
(docs/methods.md, 37).
"""

from math import log

from drill_ladder.core.judging.measures import Measure

HALF = 0.5


def over_target(measure: Measure, score: float, target: float, units: int) -> float | None:
    """Shares and points of a highest number: on the log-odds, half a unit for the ends, and half a
    unit for passing, which whole units do; where lower is better: on the logarithm; others in the
    measure's own unit. units: of which a share is told, at least 1. None where there is no such
    number (a time of nothing).
    """
    most = measure.most
    if most is not None:
        asked = target / most - HALF / units
        return _log_odds(score / most, units) - _log_odds(asked, units)
    if measure.higher_is_better:
        return score - target
    return log(target / score) if score > 0 and target > 0 else None


def _log_odds(share: float, units: int) -> float:
    """Of a share, drawn in by half a unit at either end."""
    inside = (min(1.0, max(0.0, share)) * units + HALF) / (units + 2 * HALF)
    return log(inside / (1 - inside))
