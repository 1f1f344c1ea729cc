"""A club's own limits of strain."""

from drill_ladder.apps.library.limits.services import limits_for, save_limit

__all__ = ["limits_for", "save_limit"]
