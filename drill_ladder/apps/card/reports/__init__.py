"""A report as a family reads it."""

from drill_ladder.apps.card.reports.paper import on_paper

__all__ = ["on_paper"]
