"""Looking back: were the rules right, the forecasts honest, the ladder well stepped?

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.looking_back.ahead import FormNow, Outlook, outlook
from drill_ladder.core.looking_back.calibration import (
    ENOUGH,
    Bin,
    Calibration,
    Skill,
    calibration_of,
    skill_of,
)
from drill_ladder.core.looking_back.knowledge import Draws, Known, known
from drill_ladder.core.looking_back.ladder_health import (
    Flag,
    LadderHealth,
    RungHealth,
    RungStay,
    health_of,
)
from drill_ladder.core.looking_back.margins import over_target
from drill_ladder.core.looking_back.one_model import (
    ClubModel,
    DayOf,
    Interval,
    ScoreOf,
    club_model,
    score_model,
)
from drill_ladder.core.looking_back.replay import Back, Backtest, PastStay, backtest
from drill_ladder.core.looking_back.simulator import (
    Been,
    Climber,
    Plain,
    Scored,
    Storey,
    simulate_season,
    unsimulated,
)
from drill_ladder.core.looking_back.survival import (
    Left,
    Median,
    incidence,
    median_time,
    median_up,
)
from drill_ladder.core.looking_back.unlike_days import DaySpread, day_spread, told_in_fives

__all__ = [
    "ENOUGH",
    "Back",
    "Backtest",
    "Been",
    "Bin",
    "Calibration",
    "Climber",
    "ClubModel",
    "DayOf",
    "DaySpread",
    "Draws",
    "Flag",
    "FormNow",
    "Interval",
    "Known",
    "LadderHealth",
    "Left",
    "Median",
    "Outlook",
    "PastStay",
    "Plain",
    "RungHealth",
    "RungStay",
    "ScoreOf",
    "Scored",
    "Skill",
    "Storey",
    "backtest",
    "calibration_of",
    "club_model",
    "day_spread",
    "health_of",
    "incidence",
    "known",
    "median_time",
    "median_up",
    "outlook",
    "over_target",
    "score_model",
    "simulate_season",
    "skill_of",
    "told_in_fives",
    "unsimulated",
]
