"""Statistics: intervals, trend, real change, balance, fatigue, load, forecast.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.statistics.balance import LaneResult, many_lanes, two_lanes
from drill_ladder.core.statistics.change import FEWEST_PAIRS, real_change, typical_error
from drill_ladder.core.statistics.fatigue import (
    Fatigue,
    Pair,
    cost_of_fatigue,
    fatigue_of,
    visible_drop,
    with_both,
)
from drill_ladder.core.statistics.forecast import Completion, forecast_of, weeks_in_a_row
from drill_ladder.core.statistics.intervals import wilson
from drill_ladder.core.statistics.load import Effort, weeks
from drill_ladder.core.statistics.trend import trend_of

__all__ = [
    "FEWEST_PAIRS",
    "Completion",
    "Effort",
    "Fatigue",
    "LaneResult",
    "Pair",
    "cost_of_fatigue",
    "fatigue_of",
    "forecast_of",
    "many_lanes",
    "real_change",
    "trend_of",
    "two_lanes",
    "typical_error",
    "visible_drop",
    "weeks",
    "weeks_in_a_row",
    "wilson",
    "with_both",
]
