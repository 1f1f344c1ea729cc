"""Which day and hour it is, as a setting: with CLOCK_SHIFT_SECONDS the program is that far from the
machine's own clock. `./ladder demo --on DATE` sets the day; `./ladder test` begins each time at nine
in the morning, of today or of `--on DATE`: the days on which something goes wrong are not waited for,
and what a test calls "three minutes ago" is never yesterday.

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
    by = timedelta(seconds=int(os.environ.get("CLOCK_SHIFT_SECONDS") or 0))
    if by:
        timezone.now = shifted(timezone.now, by)
    return by
