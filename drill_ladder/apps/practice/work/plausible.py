"""Numbers that are asked about once before they are stored: a slip of the thumb would climb a
ladder. Asked, never refused for good.
"""

from collections.abc import Iterator
from typing import Any

from drill_ladder.core.judging import Rung
from drill_ladder.core.plans import Plan, implausible, mean_speed

HOUR = 3600.0
FASTEST_HANDS = 10.0  # repetitions a second: our choice, over anything a hand does
MANY_TIMES = 5  # as often as asked


def questions(
    values: dict[str, Any], rung: Rung, asked: int | None, plan: Plan | None
) -> Iterator[tuple[str, str]]:
    """(field, what is asked) of one set."""
    seconds, count, attempts = (values.get(key) for key in ("seconds", "count", "attempts"))
    if seconds is not None:
        yield from _of_seconds(seconds, plan)
    if count is not None and rung.measure.window:
        yield from _of_count(count, rung.measure.window, plan)
    if attempts is not None and asked and attempts > MANY_TIMES * asked:
        yield "attempts", f"{attempts} attempts where {asked} are asked."


def _of_seconds(seconds: float, plan: Plan | None) -> Iterator[tuple[str, str]]:
    if seconds == 0:
        yield "seconds", "Nothing takes no time at all."
    elif seconds > HOUR:
        yield "seconds", "That is over an hour."
    elif plan is not None and plan.legs and implausible(plan, seconds):
        speed = f"{mean_speed(plan, seconds):.1f}"
        yield "seconds", f"That would be {speed}\u00a0m/s over this floor plan."


def _of_count(count: float, window_s: float, plan: Plan | None) -> Iterator[tuple[str, str]]:
    """A count over a path implies a speed, one without it a pace."""
    if count / window_s > FASTEST_HANDS:
        yield "count", f"That would be {count / window_s:.0f} a second."
    elif count and plan is not None and plan.legs and implausible(plan, window_s / count):
        speed = f"{mean_speed(plan, window_s / count):.1f}"
        yield "count", f"That would be {speed}\u00a0m/s over this floor plan."
