"""Statistics: intervals, trend, real change, balance, fatigue, load, forecast.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.statistics.balance import WORTH, Gap, LaneResult, many_lanes, two_lanes
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
from drill_ladder.core.statistics.repeats import Measured, repeat_pairs, score_of
from drill_ladder.core.statistics.signs import shown_from
from drill_ladder.core.statistics.trend import Trend, trend_of, trend_of_counts
from drill_ladder.core.statistics.weeks_kept import Kept, PlannedWeek, kept

__all__ = [
    "FEWEST_PAIRS",
    "WORTH",
    "Change",
    "Completion",
    "Effort",
    "Fatigue",
    "Gap",
    "Kept",
    "LaneResult",
    "Measured",
    "Pair",
    "PlannedWeek",
    "Strain",
    "Trend",
    "cost_of_fatigue",
    "fatigue_of",
    "forecast_of",
    "kept",
    "many_lanes",
    "real_change",
    "repeat_pairs",
    "score_of",
    "shown_from",
    "strain_left",
    "trend_of",
    "trend_of_counts",
    "two_lanes",
    "typical_error",
    "visible_drop",
    "weeks",
    "weeks_in_a_row",
    "wilson",
    "with_both",
]
