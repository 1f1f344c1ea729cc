"""How fast a club's players learn, fitted from its record."""

from drill_ladder.apps.practice.learning.fitting import (
    FEWEST_DAYS,
    FEWEST_PLAYERS,
    form_of,
    learn,
    learn_when_due,
    outlook_of,
    rule_of,
)
from drill_ladder.apps.practice.learning.ways import (
    OnRung,
    been_of,
    learning_days,
    learnt_by,
    model_of,
    storey_of,
)

__all__ = [
    "FEWEST_DAYS",
    "FEWEST_PLAYERS",
    "OnRung",
    "been_of",
    "form_of",
    "learn",
    "learn_when_due",
    "learning_days",
    "learnt_by",
    "model_of",
    "outlook_of",
    "rule_of",
    "storey_of",
]
