"""A player's pages."""

from drill_ladder.apps.progress.player.record import (
    SPAN,
    Record,
    about_all,
    record_of,
    records_of,
    trend_over,
)
from drill_ladder.apps.progress.player.tiredness import cost_line

__all__ = ["SPAN", "Record", "about_all", "cost_line", "record_of", "records_of", "trend_over"]
