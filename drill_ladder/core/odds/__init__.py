"""Odds: how likely a rule lets the right player climb, and the wrong one.

The door of this wing: whoever stands outside the core imports from here.
"""

from drill_ladder.core.odds.chain import Odds, climb_curve, odds
from drill_ladder.core.odds.evidence import simulate, simulated_curve
from drill_ladder.core.odds.rule_finder import NOT_FOR, Found, Question, find_rule, find_rules
from drill_ladder.core.odds.session_chances import (
    MakesSession,
    SessionChances,
    StreakSession,
    ToNSession,
    binom_tail,
)

__all__ = [
    "NOT_FOR",
    "Found",
    "MakesSession",
    "Odds",
    "Question",
    "SessionChances",
    "StreakSession",
    "ToNSession",
    "binom_tail",
    "climb_curve",
    "find_rule",
    "find_rules",
    "odds",
    "simulate",
    "simulated_curve",
]
