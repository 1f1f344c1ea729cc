"""A club's own limits of strain and of the size of tools."""

from drill_ladder.apps.library.limits.services import (
    limits_for,
    limits_of,
    save_limit,
    save_tool_limit,
)

__all__ = ["limits_for", "limits_of", "save_limit", "save_tool_limit"]
