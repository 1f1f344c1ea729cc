"""A coach's own decisions, looked back at: calls, forecasts, other rules."""

from drill_ladder.apps.progress.decisions.record import Went, how_they_went

__all__ = ["Went", "how_they_went"]
