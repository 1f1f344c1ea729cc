"""A routine's entry."""

from drill_ladder.apps.practice.routines.log import (
    RoutinePage,
    asking,
    routine_page,
    stays_of,
    store_routine,
)

__all__ = ["RoutinePage", "asking", "routine_page", "stays_of", "store_routine"]
