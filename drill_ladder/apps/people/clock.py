"""How far the clock of a device is off."""

from datetime import datetime, timedelta

WAY = timedelta(seconds=3)  # how long a sending may be under way; less says nothing about a clock


def behind(device_now: datetime | None, now: datetime) -> timedelta:
    """How far a device's clock is behind the server's, by what it showed when it sent; zero where
    that may just as well be the way from there to here.
    """
    off = now - device_now if device_now else timedelta()
    return off if abs(off) > WAY else timedelta()
