"""Ladders that a new club may begin with."""

from drill_ladder.apps.library.starter.ladders import starter_document

__all__ = ["starter_document"]
