"""Hurt: heard before anything else, and ended by a coach alone."""

from drill_ladder.apps.practice.stops.services import (
    MOST,
    end_stop,
    hear,
    hear_button,
    heard_late,
    open_among,
    open_stop,
    open_stop_of,
    told_at,
    words_of_hurt,
)

__all__ = [
    "MOST",
    "end_stop",
    "hear",
    "hear_button",
    "heard_late",
    "open_among",
    "open_stop",
    "open_stop_of",
    "told_at",
    "words_of_hurt",
]
