"""Which day it is, as a setting: with CLOCK_SHIFT_DAYS the program is that many days away from the
machine's own day, at the same time of day. `./ladder demo --on DATE` and `./ladder test --on DATE`
set it; the days on which something goes wrong are not waited for.

One place is turned, Django's own `timezone.now`: whatever asks for the moment or the day goes
through it, in the program and in Django.
"""

import os
from collections.abc import Callable
from datetime import datetime, timedelta

from django.utils import timezone


def shifted(real: Callable[[], datetime], by: timedelta) -> Callable[[], datetime]:
    """A clock that is away from another one by this much."""

    def now() -> datetime:
        return real() + by

    return now


def turn_the_clock() -> timedelta:
    """Turn it, if it is asked for; by how much. Once a process."""
    by = timedelta(days=int(os.environ.get("CLOCK_SHIFT_DAYS") or 0))
    if by:
        timezone.now = shifted(timezone.now, by)
    return by
