"""The hall: everybody's work on one device, and what taps come to."""

from drill_ladder.apps.floor.hall.guests import guests_go
from drill_ladder.apps.floor.hall.said import Said, said_among, said_to
from drill_ladder.apps.floor.hall.settling import close_halls

__all__ = ["Said", "close_halls", "guests_go", "said_among", "said_to"]
