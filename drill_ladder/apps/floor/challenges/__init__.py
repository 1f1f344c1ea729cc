"""Challenges of the day, for whoever is here."""

from drill_ladder.apps.floor.challenges.services import own_of

__all__ = ["own_of"]
