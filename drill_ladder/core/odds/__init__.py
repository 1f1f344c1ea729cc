"""Odds: how likely a rule lets the right player climb, and the wrong one.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.odds.chain import Odds, climb_curve, odds
from drill_ladder.core.odds.day_spread import (
    MOST_SPREAD,
    design_effect,
    reach_chance,
    spread_pass_and_low,
)
from drill_ladder.core.odds.evidence import simulate, simulated_curve
from drill_ladder.core.odds.placing import FinePlacement, place_finely
from drill_ladder.core.odds.rule_finder import NOT_FOR, Found, Question, find_rule, find_rules
from drill_ladder.core.odds.session_chances import (
    EarnedSession,
    LostSession,
    MakesSession,
    SessionChances,
    StreakSession,
    ToNSession,
    binom_tail,
)

__all__ = [
    "MOST_SPREAD",
    "NOT_FOR",
    "EarnedSession",
    "FinePlacement",
    "Found",
    "LostSession",
    "MakesSession",
    "Odds",
    "Question",
    "SessionChances",
    "StreakSession",
    "ToNSession",
    "binom_tail",
    "climb_curve",
    "design_effect",
    "find_rule",
    "find_rules",
    "odds",
    "place_finely",
    "reach_chance",
    "simulate",
    "simulated_curve",
    "spread_pass_and_low",
]
