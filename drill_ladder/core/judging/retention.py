"""Rungs passed are not done with: short checks after 2, 4 and 8 weeks, then every 8 weeks for ever
(docs/methods.md, 4).

Growing gaps are the spacing effect of practice; these weeks are common practice, no source.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

WEEKS = (2, 4, 8)


@dataclass(frozen=True, slots=True)
class Check:
    """A retention check that was done, and whether it held."""

    on: date
    held: bool


def next_check(
    finished: date, checks: Sequence[Check], weeks: Sequence[int] = WEEKS
) -> date | None:
    """When the next check of a finished rung falls due: 2 weeks after finishing, 4 after the first,
    8 after each one more.

    None when one failed: then the rung is offered back.
    """
    done = sorted(checks, key=lambda check: check.on)
    if any(not check.held for check in done):
        return None
    last = done[-1].on if done else finished
    return last + timedelta(weeks=weeks[min(len(done), len(weeks) - 1)])


def offer_back(checks: Sequence[Check]) -> bool:
    """Whether the latest check failed, so that the rung is offered back."""
    return bool(checks) and not max(checks, key=lambda check: check.on).held
