"""The club itself: founded, entered, set up."""

from drill_ladder.apps.people.club.entrance_views import sign_in
from drill_ladder.apps.people.club.founding import new_code

__all__ = ["new_code", "sign_in"]
