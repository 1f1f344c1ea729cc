"""The overview: who waits, who is late, who has not been seen."""

from drill_ladder.apps.progress.desk.questions import (
    LATE_DAYS,
    UNSEEN_DAYS,
    dated,
    ladders_of_players,
    told_in_hall,
    told_skips,
    trail_of,
    with_words,
)

__all__ = [
    "LATE_DAYS",
    "UNSEEN_DAYS",
    "dated",
    "ladders_of_players",
    "told_in_hall",
    "told_skips",
    "trail_of",
    "with_words",
]
