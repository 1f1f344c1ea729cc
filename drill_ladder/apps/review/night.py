"""The night's work: what changes because a day has passed, and no write tells of it.

Done once a day and club: by `./ladder manage night`, which every server runs beside itself, or
after the first write of the day, whichever comes first. Nothing is written because somebody looks
at a page.
"""

from collections.abc import Callable
from datetime import date
from typing import Any

from django.db import transaction
from django.db.models import Q

from drill_ladder.apps.floor.hall import close_halls, guests_go
from drill_ladder.apps.people.models import Club
from drill_ladder.apps.practice.judged import measure_spread
from drill_ladder.apps.practice.learning import learn_when_due
from drill_ladder.apps.review.absences import notice_absences

# what is done, in order
WORK: list[Callable[[Club, date], Any]] = [
    close_halls,
    notice_absences,
    measure_spread,
    guests_go,
]


def night_of(club: Club) -> bool:
    """Do the work of the club's day, unless it is done; of several who ask at once, one does it."""
    today = club.today()
    if club.night_on is not None and club.night_on >= today:
        return False
    due = Club.objects.filter(Q(night_on__isnull=True) | Q(night_on__lt=today), pk=club.pk)
    with transaction.atomic():
        # whoever holds the club, an import or another one who asks, is not waited for: the next
        # write does it
        if due.select_for_update(skip_locked=True, no_key=True).first() is None:
            return False
        # said first: what the work itself writes brings no second night
        due.update(night_on=today)
        for work in WORK:
            work(club, today)
    club.night_on = today
    return True


def after_a_write(*, club: Club, **_: object) -> None:
    """The first write of a day brings the work."""
    night_of(club)


def all_clubs() -> int:
    """Every club whose day has begun; how many there were."""
    return sum(night_of(club) for club in Club.objects.order_by("pk"))


def learn_of_all() -> int:
    """The learning model of every club, once a day and after much that is new; how many were
    fitted. Seconds for a large club: the workers' own work, never a request's.
    """
    return sum(learn_when_due(club, club.today()) for club in Club.objects.order_by("pk"))
