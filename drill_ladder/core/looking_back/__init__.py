"""Looking back: were the rules right, the forecasts honest, the ladder well stepped?

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.looking_back.ahead import Outlook, outlook
from drill_ladder.core.looking_back.ahead import Standing as OutlookStanding
from drill_ladder.core.looking_back.calibration import Bin, Calibration, calibration_of
from drill_ladder.core.looking_back.ladder_health import (
    Flag,
    LadderHealth,
    RungHealth,
    RungStay,
    health_of,
)
from drill_ladder.core.looking_back.learning import Learning, Watched, learning_of
from drill_ladder.core.looking_back.one_model import ClubModel, DayOf, Interval, club_model
from drill_ladder.core.looking_back.replay import Back, Backtest, PastStay, backtest
from drill_ladder.core.looking_back.simulator import (
    Climber,
    Level,
    Plain,
    Storey,
    simulate_season,
    unsimulated,
)
from drill_ladder.core.looking_back.survival import Left, incidence, median_up
from drill_ladder.core.looking_back.unlike_days import DaySpread, day_spread

__all__ = [
    "Back",
    "Backtest",
    "Bin",
    "Calibration",
    "Climber",
    "ClubModel",
    "DayOf",
    "DaySpread",
    "Flag",
    "Interval",
    "LadderHealth",
    "Learning",
    "Left",
    "Level",
    "Outlook",
    "OutlookStanding",
    "PastStay",
    "Plain",
    "RungHealth",
    "RungStay",
    "Storey",
    "Watched",
    "backtest",
    "calibration_of",
    "club_model",
    "day_spread",
    "health_of",
    "incidence",
    "learning_of",
    "median_up",
    "outlook",
    "simulate_season",
    "unsimulated",
]
