"""Which day and hour it is, as a setting: with CLOCK_SHIFT_SECONDS the program is that far from
the machine's own clock. `./ladder demo --on DATE` sets the day; `./ladder test` begins each time at
nine in the morning, of today or of `--on DATE`: the days on which something goes wrong are not
waited for, and what a test calls "three minutes ago" is never yesterday.

Two places are turned: Django's own `timezone.now`, through which whatever asks for the moment or
the day goes, and the end of what is kept in the cache for a while, which Django counts from the
machine's clock and compares with the other.
"""

import os
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

from django.core.cache.backends.base import DEFAULT_TIMEOUT, BaseCache
from django.utils import timezone


def shifted(real: Callable[[], datetime], by: timedelta) -> Callable[[], datetime]:
    """A clock that is away from another one by this much."""

    def now() -> datetime:
        return real() + by

    return now


def kept_until(real: Callable[..., float | None], by: timedelta) -> Callable[..., float | None]:
    """When what is kept in the cache ends, by that clock."""

    def until(self: BaseCache, timeout: Any = DEFAULT_TIMEOUT) -> float | None:
        at = real(self, timeout)
        return None if at is None else at + by.total_seconds()

    return until


def turn_the_clock() -> timedelta:
    """Turn it, if it is asked for; by how much. Once a process."""
    by = timedelta(seconds=int(os.environ.get("CLOCK_SHIFT_SECONDS") or 0))
    if by:
        timezone.now = shifted(timezone.now, by)
        BaseCache.get_backend_timeout = kept_until(BaseCache.get_backend_timeout, by)  # type: ignore[method-assign]
    return by
