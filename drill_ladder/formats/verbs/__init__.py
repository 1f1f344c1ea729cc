"""The verbs of `./ladder core`: one module each with INPUT (shape), check (beyond the shape) and
run.
"""

from importlib import import_module
from typing import Any, Protocol

from drill_ladder.formats.node import Node

# Named here so that only the verb asked for is loaded.
MODULES = {
    "decide": "decide",
    "odds": "odds",
    "find-rule": "find_rule",
    "place": "place",
    "trend": "trend",
    "change": "change",
    "balance": "balance",
    "fatigue": "fatigue",
    "load": "load",
    "dose": "dose",
    "week": "week",
    "stations": "stations",
    "cues": "cues",
    "layout": "layout",
    "forecast": "forecast",
    "drop-off": "drop_off",
    "tempo": "tempo",
    "reads": "reads",
    "feeds": "feeds",
    "turns": "turns",
    "routine": "routine",
    "backtest": "backtest",
    "calibration": "calibration",
    "ladder-health": "ladder_health",
    "day-spread": "day_spread",
    "learning": "learning",
    "outlook": "outlook",
    "kept": "kept",
}


class Verb(Protocol):
    """What a verb module offers."""

    INPUT: Any

    def check(self, doc: Node) -> None:
        """Note every fault that the shape cannot tell."""

    def run(self, doc: dict[str, Any]) -> dict[str, Any]:
        """Compute the answer for a validated document."""


def load_verb(name: str) -> Verb:
    """The verb's module. Raises KeyError for a name that is no verb."""
    return import_module(f"{__name__}.{MODULES[name]}")
