"""Statistics: intervals, trend, real change, balance, fatigue, load, forecast.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.statistics.balance import LaneResult, many_lanes, two_lanes
from drill_ladder.core.statistics.change import FEWEST_PAIRS, Change, real_change, typical_error
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
from drill_ladder.core.statistics.load import Effort, Strain, strain_left, weeks
from drill_ladder.core.statistics.pooling import Pooled, pooled
from drill_ladder.core.statistics.repeats import Measured, repeat_pairs, score_of
from drill_ladder.core.statistics.trend import trend_of

__all__ = [
    "FEWEST_PAIRS",
    "Change",
    "Completion",
    "Effort",
    "Fatigue",
    "LaneResult",
    "Measured",
    "Pair",
    "Pooled",
    "Strain",
    "cost_of_fatigue",
    "fatigue_of",
    "forecast_of",
    "many_lanes",
    "pooled",
    "real_change",
    "repeat_pairs",
    "score_of",
    "strain_left",
    "trend_of",
    "two_lanes",
    "typical_error",
    "visible_drop",
    "weeks",
    "weeks_in_a_row",
    "wilson",
    "with_both",
]
