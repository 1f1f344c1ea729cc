"""A player's pages."""

from drill_ladder.apps.progress.player.record import SPAN, Record, record_of, trend_over
from drill_ladder.apps.progress.player.tiredness import cost_line

__all__ = ["SPAN", "Record", "cost_line", "record_of", "trend_over"]
