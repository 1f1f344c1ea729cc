"""Ladders and their rungs: built, changed, compared."""

from drill_ladder.apps.library.ladders.lines import rung_lines
from drill_ladder.apps.library.ladders.services import own_rule, refuse_worked_on

__all__ = ["own_rule", "refuse_worked_on", "rung_lines"]
